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

/** The page whose words are selected; else the first in view that has any. */
function pageOf(session: DeskSession): HTMLElement | undefined {
  const { picked } = session.marking.getState();
  const pages = [...(session.at("sheet")?.querySelectorAll<HTMLElement>("[data-words]") ?? [])];
  if (picked?.on !== "page")
    return pages.find((w) => w.getBoundingClientRect().bottom > 150 && textOfPage(w) !== "");
  const number = String(picked.page);
  return pages.find(
    (w) =>
      w.closest<HTMLElement>("[data-page]")?.dataset.page === number &&
      w.closest<HTMLElement>("[data-item]")?.dataset.item === picked.itemId,
  );
}

/** Goes to the next mark, or the one before, in the order of the work. */
export function stepMark(session: DeskSession, by: 1 | -1): void {
  const { marking } = session;
  const sheet = session.at("sheet");
  const drawn = [...(sheet?.querySelectorAll<HTMLElement>("[data-mark]") ?? [])];
  const marks = [...new Set(drawn.map((m) => m.dataset.mark!))];
  const { chosen } = marking.getState();
  const before = by > 0 ? -1 : marks.length;
  const index = chosen ? marks.indexOf(chosen) : before;
  const next = marks[Math.min(marks.length - 1, Math.max(0, index + by))];
  if (!next) return;
  marking.choose(next);
  sheet?.querySelector(`[data-mark="${next}"]`)?.scrollIntoView({ block: "nearest" });
}

export const noMarks = (session: DeskSession): string | null =>
  session.at("sheet")?.querySelector("[data-mark]")
    ? null
    : "There are no marks on this piece yet.";
