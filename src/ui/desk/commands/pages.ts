import { turnFurther } from "../../items/useTurn";
import type { DeskSession } from "../store/DeskSession";

/** Room above a page that is gone to, for what stays at the top of the sheet. */
const HEAD = 64;

const all = (session: DeskSession, selector: string): HTMLElement[] => [
  ...(session.at("sheet")?.querySelectorAll<HTMLElement>(selector) ?? []),
];
const topOf = (session: DeskSession) => session.at("scroller")?.getBoundingClientRect().top ?? 0;
const PAGES = "[data-page], [data-item] img";

export const noPages = (session: DeskSession): string | null =>
  all(session, PAGES).length > 0 ? null : "There are no pages on this sheet.";

/** To the next page or picture, or the one before. */
export function goPages(session: DeskSession, by: 1 | -1): void {
  const pages = all(session, PAGES);
  const top = topOf(session);
  // The one that begins at or above the head of the view is where one is.
  const at = pages.findLastIndex((page) => page.getBoundingClientRect().top - top <= HEAD + 8);
  const page = pages[Math.max(0, Math.min(pages.length - 1, at + by))];
  const scroller = session.at("scroller");
  if (page && scroller) scroller.scrollTop += page.getBoundingClientRect().top - top - HEAD;
}

const pageField = (session: DeskSession) => all(session, "input[name=page]")[0];
export const noPageField = (session: DeskSession): string | null =>
  pageField(session) ? null : "There are no pages to choose from on this sheet.";
export const goToPage = (session: DeskSession): void => pageField(session)?.focus();

/** The page or picture of which most is in view. */
function inView(session: DeskSession): HTMLElement | null {
  const view = session.at("scroller")?.getBoundingClientRect();
  const seen = (element: HTMLElement) => {
    const { top, bottom } = element.getBoundingClientRect();
    return view ? Math.min(bottom, view.bottom) - Math.max(top, view.top) : 0;
  };
  const most = all(session, "[data-turn]")
    .map((element) => ({ element, part: seen(element) }))
    .filter(({ part }) => part > 0)
    .sort((a, b) => b.part - a.part)[0];
  return most?.element ?? null;
}

const turnable = (session: DeskSession) => inView(session)?.dataset.turns;
export const nothingToTurn = (session: DeskSession): string | null =>
  turnable(session) ? null : "There is no page or picture in view that could be turned.";
export function turnPage(session: DeskSession): void {
  const name = turnable(session);
  if (name) turnFurther(name);
}
