"use client";

import { Popover } from "radix-ui";
import { useMemo } from "react";
import { sayCount } from "@/core/text/sayCount";
import type { DraftMark } from "@/core/views/deskViews";
import { usePieceOnDesk } from "../model";
import { kindKey } from "../sheet/kinds";

/** How many marks there are of each kind, to show or hide. */
function kindsOf(marks: readonly DraftMark[]): { key: string; label: string }[] {
  const counts = new Map<string, number>();
  for (const mark of marks) counts.set(kindKey(mark), (counts.get(kindKey(mark)) ?? 0) + 1);
  return [...counts].sort().map(([key, count]) => ({
    key,
    label: `${count} ${count === 1 && key !== "ink" ? key.replace(/s$/, "") : key}`,
  }));
}

/** Which marks are shown, and how their notes stand. */
export function MarksShown() {
  const { session, view, piece } = usePieceOnDesk();
  const kinds = useMemo(() => kindsOf(piece.marks), [piece.marks]);
  if (piece.marks.length === 0) return null;
  const { hidden, folded } = view;
  const line = "flex min-h-8 items-center gap-2";
  return (
    <Popover.Root>
      <Popover.Trigger className="min-h-7 cursor-pointer border border-line-strong bg-raised px-2 whitespace-nowrap hover:bg-sunk">
        {sayCount(piece.marks.length, "mark")}
        {hidden.size > 0 ? ", some hidden" : ""} ▾
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={4}
          aria-label="Marks shown"
          className="z-40 grid w-52 border border-line-strong bg-raised p-3 text-sm shadow-lifted"
        >
          {kinds.map(({ key, label }) => (
            <label key={key} className={line}>
              <input
                type="checkbox"
                className="size-5 accent-tide"
                checked={!hidden.has(key)}
                onChange={() => session.hide(key)}
              />
              {label}
            </label>
          ))}
          <label className={`${line} mt-1 border-t border-line pt-1`}>
            <input
              type="checkbox"
              className="size-5 accent-tide"
              checked={folded}
              onChange={() => session.turn("folded")}
            />
            one line each
          </label>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
