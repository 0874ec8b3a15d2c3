"use client";

import { Button } from "../kit/Button";
import { useClips } from "./clips";
import { PlaySign } from "./signs";

/** All voices of a piece in a row, each with its words in view. */
export function HearAll({ of }: { of: readonly { id: string; clipId: string | null }[] }) {
  const { playRow, stopRow, row, of: clip } = useClips();
  const spoken = of.filter((m) => clip(m.clipId));
  if (spoken.length === 0) return null;
  const seconds = spoken.reduce((sum, m) => sum + (clip(m.clipId)?.seconds ?? 0), 0);
  const fresh = spoken.filter((m) => !clip(m.clipId)!.heard).length;
  return (
    <p className="my-3 flex flex-wrap items-center gap-3">
      <Button
        ink="tide"
        onClick={() => {
          if (row) return stopRow();
          playRow(
            spoken.map((m) => m.clipId!),
            (id) => {
              const mark = spoken.find((m) => m.clipId === id)!;
              document
                .querySelector(`[data-mark="${mark.id}"], [data-note="${mark.id}"]`)
                ?.scrollIntoView({ block: "center" });
            },
          );
        }}
      >
        <PlaySign playing={row !== null} />
        {row ? "Stop" : sayHear(spoken.length)}
      </Button>
      <span className="text-sm text-soft">
        {Math.ceil(seconds)} s{fresh > 0 ? `, ${fresh} not heard yet` : ", all heard"}
      </span>
    </p>
  );
}

const sayHear = (count: number): string =>
  count === 1 ? "Hear the voice note" : `Hear all ${count} voice notes`;
