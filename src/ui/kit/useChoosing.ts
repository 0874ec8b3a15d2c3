"use client";

import { useRef } from "react";

/**
 * Choosing rows of a list: a press turns one, and with Shift all between it and the one pressed before.
 *
 * @param ids the rows in their order
 */
export function useChoosing(
  ids: readonly string[],
  chosen: ReadonlySet<string>,
  onChoose: (ids: readonly string[], on: boolean) => void,
): (id: string, stretch: boolean) => void {
  const last = useRef<string | null>(null);
  return (id, stretch) => {
    const on = !chosen.has(id);
    const [from, to] = [ids.indexOf(last.current ?? id), ids.indexOf(id)];
    onChoose(
      stretch && from !== -1 ? ids.slice(Math.min(from, to), Math.max(from, to) + 1) : [id],
      on,
    );
    last.current = id;
  };
}
