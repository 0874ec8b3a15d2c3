"use client";

import { useEffect, useState, type RefObject } from "react";
import type { Range } from "@/core/text/selectors";
import { selectedRange } from "../text/selection";

/** The words that were last selected on a sheet, by pointer, finger or keys; they stay chosen while one writes about them. */
export function useChosenWords(
  sheet: RefObject<HTMLElement | null>,
): [Range | null, (range: Range | null) => void] {
  const [range, setRange] = useState<Range | null>(null);
  useEffect(() => {
    const seen = () => {
      const found = sheet.current && selectedRange(sheet.current);
      if (found && found.end > found.start) setRange(found);
    };
    document.addEventListener("selectionchange", seen);
    return () => document.removeEventListener("selectionchange", seen);
  }, [sheet]);
  return [range, setRange];
}
