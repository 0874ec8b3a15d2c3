"use client";

import { PIECE_FLAGS } from "@/core/pieces/flags";
import { Button } from "../kit/Button";
import { Dialog } from "../kit/Dialog";
import { setExcused, setFlag } from "./commands/flags";
import { usePieceOnDesk } from "./model";

/** Flags by key: each choice has its number. */
export function FlagDialog() {
  const { session, view, piece } = usePieceOnDesk();
  const acts: { words: string; on: boolean; run: () => void }[] = [
    ...PIECE_FLAGS.map((flag) => ({
      words: flag,
      on: piece.flag === flag,
      run: () => void setFlag(session, piece.flag === flag ? null : flag),
    })),
    {
      words: "excused",
      on: piece.moon.excused,
      run: () => void setExcused(session, !piece.moon.excused),
    },
  ];
  const choose = (n: number) => {
    acts[n]?.run();
    session.close();
  };
  return (
    <Dialog open={view.open === "flag"} onClose={session.close} title={`Flag: ${piece.student}`}>
      <div
        className="grid gap-2"
        onKeyDown={(event) => {
          if (/^[1-6]$/.test(event.key)) choose(Number(event.key) - 1);
        }}
      >
        {acts.map((act, n) => (
          <Button
            key={act.words}
            autoFocus={n === 0}
            aria-pressed={act.on}
            onClick={() => choose(n)}
            className="justify-start!"
          >
            <kbd>{n + 1}</kbd> {act.on ? "✓ " : ""}
            {act.words}
          </Button>
        ))}
        <p className="text-sm text-soft">
          A flag is a word for the section’s teachers; pressing it again takes it off. Late, missing
          and excused are seen by the student too; excused leaves the piece out of what is awaited.
        </p>
      </div>
    </Dialog>
  );
}
