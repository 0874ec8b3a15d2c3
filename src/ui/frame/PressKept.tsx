"use client";

import { useEffect } from "react";

/** What is pressed, and not dragged or slid off from. */
const NEAR_PX = 8;
const PRESSED =
  "button, a[href], summary, label, input[type='checkbox'], input[type='radio'], [role='button'], [role='option'], [role='menuitem']";

type Press = { on: HTMLElement; x: number; y: number };

/**
 * A press is never lost: leaving a field can make it smaller, and an answer that comes can add a line, so that what
 * was pressed is no longer under the pointer when it is let go, and the browser gives nobody the click. What
 * the pointer went down on then gets it, here, for every page.
 */
export function PressKept() {
  useEffect(() => {
    let press: Press | null = null;
    const down = (event: PointerEvent) => {
      const on = (event.target as Element | null)?.closest<HTMLElement>(PRESSED);
      const plain = event.isPrimary && event.button === 0;
      press = on && plain ? { on, x: event.clientX, y: event.clientY } : null;
    };
    const up = (event: PointerEvent) => {
      if (!press || !event.isPrimary) return;
      const { on, x, y } = press;
      press = null;
      if (Math.hypot(event.clientX - x, event.clientY - y) > NEAR_PX) return;
      const under = document.elementFromPoint(event.clientX, event.clientY);
      if (on.contains(under) || !on.isConnected) return;
      // After the browser's own click, which goes to what holds both.
      setTimeout(() => on.click());
    };
    const drop = () => (press = null);
    document.addEventListener("pointerdown", down, true);
    document.addEventListener("pointerup", up, true);
    document.addEventListener("pointercancel", drop, true);
    return () => {
      document.removeEventListener("pointerdown", down, true);
      document.removeEventListener("pointerup", up, true);
      document.removeEventListener("pointercancel", drop, true);
    };
  }, []);
  return null;
}
