"use client";

import { useWindowTitle } from "./useWindowTitle";

/** What is shown, in the title of the window. */
export function WindowTitle({ words }: { words: string }) {
  useWindowTitle(`${words} · Almanac`);
  return null;
}
