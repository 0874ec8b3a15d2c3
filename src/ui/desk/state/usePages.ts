"use client";

import type { RefObject } from "react";

/** Room above a page that is gone to, for what stays at the top of the sheet. */
const HEAD = 64;

/** The pages and pictures on the sheet, by key: the next, the one before, one by its number, and turning what is in view. */
export function usePages(
  scroller: RefObject<HTMLElement | null>,
  sheet: RefObject<HTMLElement | null>,
  say: (problem: string) => void,
) {
  const all = (selector: string) => [
    ...(sheet.current?.querySelectorAll<HTMLElement>(selector) ?? []),
  ];
  const top = () => scroller.current?.getBoundingClientRect().top ?? 0;

  function go(by: 1 | -1): void {
    const pages = all("[data-page], [data-item] img");
    if (pages.length === 0) return say("There are no pages on this sheet.");
    // The one that begins at or above the head of the view is where one is.
    const at = pages.findLastIndex((page) => page.getBoundingClientRect().top - top() <= HEAD + 8);
    const page = pages[Math.max(0, Math.min(pages.length - 1, at + by))];
    if (page && scroller.current)
      scroller.current.scrollTop += page.getBoundingClientRect().top - top() - HEAD;
  }

  /** The page or picture of which most is in view. */
  function inView(): HTMLElement | null {
    const view = scroller.current?.getBoundingClientRect();
    const seen = (element: HTMLElement) => {
      const { top: upper, bottom } = element.getBoundingClientRect();
      return view ? Math.min(bottom, view.bottom) - Math.max(upper, view.top) : 0;
    };
    const most = all("[data-turn]")
      .map((element) => ({ element, part: seen(element) }))
      .filter(({ part }) => part > 0)
      .sort((a, b) => b.part - a.part)[0];
    return most?.element ?? null;
  }

  return {
    pageNext: () => go(1),
    pageBack: () => go(-1),
    goToPage() {
      const field = all("input[name=page]")[0];
      if (field) field.focus();
      else say("There are no pages to choose from on this sheet.");
    },
    turn() {
      const button = inView()
        ?.closest<HTMLElement>("figure")
        ?.querySelector<HTMLElement>("[data-turn-it]");
      if (button) button.click();
      else say("There is no page or picture in view that could be turned.");
    },
  };
}
