"use client";

import { useEffect } from "react";
import type { DeskSession } from "../store/DeskSession";

/** Where work goes on inside what something was dropped, sent or closed in. */
const KEEPS = "[role=dialog], [role=menu], section, aside, article, nav";
const CAN_HAVE_FOCUS =
  "textarea, input:not([type=hidden]), button, a[href], [tabindex='0'], select, summary";

/**
 * Keeps the focus where keys work: whatever had it and is gone (a button that was pressed, a field that was left, a
 * dialog that closed) hands it to what it stood in, and in the end to the work. It is never on the body.
 */
export function useFocusKept(session: DeskSession): void {
  useEffect(() => {
    let around: Element[] = [];
    let left = false;
    const had = ({ target }: FocusEvent) => {
      around = ancestorsOf(target as Element);
      left = false;
    };
    // Left on purpose, with Escape or a press elsewhere: the work goes on, not what was left.
    const leaves = ({ target }: FocusEvent) => {
      left = (target as Element).isConnected;
      requestAnimationFrame(look);
    };
    const look = () => {
      if (document.activeElement !== document.body || !document.hasFocus()) return;
      const region = left ? undefined : around.find((e) => e.isConnected && e.matches(KEEPS));
      const inside = region && firstIn(region);
      (inside ?? session.at("scroller"))?.focus({ preventScroll: true });
    };
    const gone = new MutationObserver(look);
    gone.observe(document.body, { childList: true, subtree: true });
    document.addEventListener("focusin", had);
    document.addEventListener("focusout", leaves);
    look();
    return () => {
      gone.disconnect();
      document.removeEventListener("focusin", had);
      document.removeEventListener("focusout", leaves);
    };
  }, [session]);
}

function ancestorsOf(element: Element): Element[] {
  const all: Element[] = [];
  for (let at = element.parentElement; at; at = at.parentElement) all.push(at);
  return all;
}

const firstIn = (region: Element): HTMLElement | undefined =>
  [...region.querySelectorAll<HTMLElement>(CAN_HAVE_FOCUS)].find(
    (e) => e.checkVisibility() && !(e as HTMLButtonElement).disabled && e.tabIndex >= 0,
  );
