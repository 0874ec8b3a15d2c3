/**
 * Brings a mark of a round into view at its words, and puts the focus on its note, where its keys work. On a narrow
 * screen the note of what is chosen stands over the foot of the page, so the words are brought to its upper half.
 */
export function goToTask(markId: string): void {
  requestAnimationFrame(() => {
    const words = document.querySelector<HTMLElement>(
      `[data-mark="${CSS.escape(markId)}"]:not([data-note])`,
    );
    const note = document.querySelector<HTMLElement>(`[data-note="${CSS.escape(markId)}"]`);
    const still = window.matchMedia("(prefers-reduced-motion: reduce)").matches;
    const narrow = window.matchMedia("(max-width: 63.99rem)").matches;
    (words ?? note)?.scrollIntoView({
      block: narrow && words ? "start" : "center",
      behavior: still ? "instant" : "smooth",
    });
    note?.querySelector<HTMLElement>("article")?.focus({ preventScroll: true });
  });
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
