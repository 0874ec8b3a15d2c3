"use client";

import { useState, useSyncExternalStore } from "react";

const KEY = "hand back these";

/** Takes the pieces chosen in a list along to the page where they are handed back, in this tab only. */
export function choose(pieceIds: readonly string[]): void {
  try {
    sessionStorage.setItem(KEY, JSON.stringify(pieceIds));
  } catch {
    // Without room on the device, all that are ready are chosen there.
  }
}

/** Those that were chosen there, once the page is alive; null: none were. They hold for this one visit. */
export function useChosenBefore(): ReadonlySet<string> | null {
  const [take] = useState(takeOnce);
  const text = useSyncExternalStore(nothingChanges, take, () => null);
  return text ? new Set(JSON.parse(text) as string[]) : null;
}

const nothingChanges = () => () => undefined;

/** Reads what was left for this page and removes it; asked again, it gives the same. */
function takeOnce(): () => string | null {
  let text: string | null | undefined;
  return () => {
    if (text !== undefined) return text;
    try {
      text = sessionStorage.getItem(KEY);
      sessionStorage.removeItem(KEY);
    } catch {
      text = null;
    }
    return text;
  };
}
