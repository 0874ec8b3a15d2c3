"use client";

import { useCallback, type ReactNode } from "react";
import { itemOf } from "@/core/marks/place";
import type { ItemView } from "@/core/views/workViews";
import type { PlacedMark } from "../marks/drawn";
import { FilesHere } from "../text/FileHere";
import { MarkedFile } from "./MarkedFiles";

const NO_NUMBERS: ReadonlyMap<string, number> = new Map();

/** Files that stand in the writing inside are drawn there with their marks. */
export function MarkedInText({
  items,
  marks = [],
  numbers = NO_NUMBERS,
  chosen = null,
  onChoose = () => undefined,
  children,
}: {
  items: readonly ItemView[];
  marks?: readonly PlacedMark[];
  numbers?: ReadonlyMap<string, number>;
  chosen?: string | null;
  onChoose?: (id: string) => void;
  children: ReactNode;
}) {
  const draw = useCallback(
    (id: string) => {
      const item = items.find((one) => one.id === id);
      const own = marks.filter((mark) => itemOf(mark.place) === id);
      return item ? <MarkedFile {...{ item, marks: own, numbers, chosen, onChoose }} /> : null;
    },
    [items, marks, numbers, chosen, onChoose],
  );
  return <FilesHere value={draw}>{children}</FilesHere>;
}
