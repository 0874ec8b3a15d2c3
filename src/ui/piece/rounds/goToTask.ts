/**
 * Brings a mark of a round into view at its words, and puts the focus on its note, where its keys work. On a narrow
 * screen the note stands under their paragraph, so the words are brought to the top, or the note into view where it stands too
 * far below them.
 */
export function goToTask(markId: string): void {
  requestAnimationFrame(() => {
    const words = document.querySelector<HTMLElement>(
      `[data-mark="${CSS.escape(markId)}"]:not([data-note])`,
    );
    const note = document.querySelector<HTMLElement>(`[data-note="${CSS.escape(markId)}"]`);
    const still = window.matchMedia("(prefers-reduced-motion: reduce)").matches;
    const narrow = window.matchMedia("(max-width: 63.99rem)").matches && words !== null;
    const target = narrow && !fitTogether(words, note) ? note : (words ?? note);
    target?.scrollIntoView({
      block: narrow && target === words ? "start" : "center",
      behavior: still ? "instant" : "smooth",
    });
    note?.querySelector<HTMLElement>("article")?.focus({ preventScroll: true });
  });
}

/** Whether the words and the note under their paragraph are seen at once. */
function fitTogether(words: Element, note: Element | null): boolean {
  const foot = note?.getBoundingClientRect().bottom ?? 0;
  return foot - words.getBoundingClientRect().top < window.innerHeight * 0.8;
}

/** From a note back to its words: where one writes, the caret stands at them. */
export function goToWords(markId: string): void {
  const words = document.querySelector<HTMLElement>(
    `[data-mark="${CSS.escape(markId)}"]:not([data-note])`,
  );
  const writing = words?.closest<HTMLElement>("[contenteditable=true]");
  words?.scrollIntoView({ block: "nearest" });
  if (!words || !writing) return;
  writing.focus({ preventScroll: true });
  const range = document.createRange();
  range.selectNodeContents(words);
  range.collapse(false);
  const selection = window.getSelection();
  selection?.removeAllRanges();
  selection?.addRange(range);
}
