import { stepWord, type WordStep } from "@/core/text/wordSteps";
import { textOfPage } from "../../items/PdfPages";
import { selectRange } from "../../text/selection";
import { pickOn, selectOnPage } from "../sheet/pickWords";
import type { DeskSession } from "../store/DeskSession";

/** Chooses words by key: on the writing, else on the page that is in view. */
export function stepWords(session: DeskSession, step: WordStep): void {
  if (session.getState().comparing) return;
  const { picked } = session.marking.getState();
  const writing = session.at("writing");
  if (writing && picked?.on !== "page") stepInWriting(session, writing, step);
  else stepOnPage(session, step);
}

function stepInWriting(session: DeskSession, writing: HTMLElement, step: WordStep): void {
  const { marking } = session;
  const { picked } = marking.getState();
  const { text } = marking;
  const next = stepWord(text, picked?.on === "text" ? picked : null, step);
  if (!next) return;
  writing.focus({ preventScroll: true });
  selectRange(writing, next);
  marking.pick({ on: "text", ...next, quote: text.slice(next.start, next.end) });
}

function stepOnPage(session: DeskSession, step: WordStep): void {
  const { marking } = session;
  const { picked } = marking.getState();
  const page = pageOf(session);
  if (!page) return;
  const next = stepWord(textOfPage(page), picked?.on === "page" ? picked.words : null, step);
  const found = next && pickOn(page, next);
  if (!found) return;
  selectOnPage(page, next);
  marking.pick(found);
}

/** What ends higher than this on the screen, in px, is not what one looks at. */
const IN_VIEW = 150;

/** The page whose words are selected; else the first in view that has any. */
function pageOf(session: DeskSession): HTMLElement | undefined {
  const { picked } = session.marking.getState();
  const pages = [...(session.at("sheet")?.querySelectorAll<HTMLElement>("[data-words]") ?? [])];
  if (picked?.on !== "page")
    return pages.find((w) => w.getBoundingClientRect().bottom > IN_VIEW && textOfPage(w) !== "");
  const number = String(picked.page);
  return pages.find(
    (w) =>
      w.closest<HTMLElement>("[data-page]")?.dataset.page === number &&
      w.closest<HTMLElement>("[data-item]")?.dataset.item === picked.itemId,
  );
}

/** The pin in hand, and the keys on the page that has the focus, or whose words are selected, or that is in view. */
export function takePin(session: DeskSession): void {
  const page = document.activeElement?.closest("[data-surface]") ?? pageOf(session);
  session.take({ kind: "pin" });
  requestAnimationFrame(() => {
    const surfaces = [
      ...(session.at("sheet")?.querySelectorAll<HTMLElement>(".place-surface") ?? []),
    ];
    const own = page?.closest("[data-page], [data-item]");
    const there =
      surfaces.find((s) => own?.contains(s)) ??
      surfaces.find((s) => s.getBoundingClientRect().bottom > IN_VIEW);
    there?.focus({ preventScroll: true });
  });
}

/**
 * Marks as one goes through them: those drawn on the work, and those of earlier rounds whose words are gone, which
 * stand in the margin alone, by how far down they are.
 */
function marksInOrder(session: DeskSession): { id: string; element: HTMLElement }[] {
  const sheet = session.at("sheet");
  const found = new Map<string, HTMLElement>();
  for (const mark of sheet?.querySelectorAll<HTMLElement>("[data-mark]") ?? [])
    if (!found.has(mark.dataset.mark!)) found.set(mark.dataset.mark!, mark);
  const notes = sheet?.parentElement?.querySelectorAll<HTMLElement>("[data-note]") ?? [];
  for (const note of notes)
    if (note.dataset.note !== "composing" && !found.has(note.dataset.note!))
      found.set(note.dataset.note!, note);
  const downTo = (element: HTMLElement) => element.getBoundingClientRect().top;
  return [...found]
    .map(([id, element]) => ({ id, element, top: downTo(element) }))
    .sort((a, b) => a.top - b.top);
}

/** Goes to the next mark, or the one before, in the order of the work, earlier rounds' too. */
export function stepMark(session: DeskSession, by: 1 | -1): void {
  const { marking } = session;
  const all = marksInOrder(session);
  const marks = all.map(({ id }) => id);
  const { chosen } = marking.getState();
  const before = by > 0 ? -1 : marks.length;
  const index = chosen ? marks.indexOf(chosen) : before;
  const next = marks[Math.min(marks.length - 1, Math.max(0, index + by))];
  if (!next) return;
  marking.choose(next);
  all.find(({ id }) => id === next)!.element.scrollIntoView({ block: "nearest" });
}

export const noMarks = (session: DeskSession): string | null =>
  marksInOrder(session).length > 0 ? null : "There are no marks on this piece yet.";
