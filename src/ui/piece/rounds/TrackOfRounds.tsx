"use client";

import { useState } from "react";
import type { PieceView } from "@/core/views/views";
import { classes } from "../../kit/classes";
import { EarlierRound } from "./EarlierRound";

/** The rounds of a piece in a row; what came back in each is one press away. */
export function TrackOfRounds({ view }: { view: PieceView }) {
  const [open, setOpen] = useState<number | null>(null);
  if (view.rounds.length < 2 && view.cameBack.length === 0) return null;
  const last = Math.max(...view.rounds.map((round) => round.number));
  return (
    <>
      <ol className="mt-2 flex flex-wrap gap-x-1 text-sm" aria-label="Rounds">
        {view.rounds.map((round) => {
          const back = view.cameBack.find((b) => b.round === round.number);
          const now = round.number === last;
          return (
            <li
              key={round.number}
              aria-current={now ? "step" : undefined}
              className={classes(
                "border-t-2 pr-6 pt-1",
                now ? "border-tide" : "border-line-strong text-soft",
              )}
            >
              round {round.number}
              {round.words ? `, ${round.words}` : ""}
              {back ? (
                <>
                  {" · "}
                  <button
                    type="button"
                    className="cursor-pointer text-tide underline underline-offset-2 max-sm:min-h-11"
                    onClick={() => setOpen(round.number)}
                  >
                    came back {back.when}
                  </button>
                </>
              ) : null}
            </li>
          );
        })}
      </ol>
      {open === null ? null : (
        <EarlierRound pieceId={view.id} round={open} onClose={() => setOpen(null)} />
      )}
    </>
  );
}
