"use client";

import { sayPlace, type PlacedMark } from "./drawn";
import { sayDuration } from "@/core/items/kinds";
import { sayNote } from "@/core/text/noteText";
import { Button } from "../kit/Button";
import { classes } from "../kit/classes";

/** Notes on moments of a recording, in its order: each plays from its moment. */
export function TimeNotes({ marks, chosen, onChoose, onGo, onNote }: { marks: readonly PlacedMark[]; chosen: string | null; onChoose: (id: string) => void; onGo: (seconds: number) => void; /** Absent where nothing can be added. */ onNote?: () => void }) {
  const rows = [...marks].sort((a, b) => from(a) - from(b));
  return (
    <div className="mt-2">
      {rows.length > 0 ? (
        <ol aria-label="Notes on moments">
          {rows.map((mark) => (
            <li key={mark.id} data-mark={mark.id} className={classes("flex items-baseline gap-3 border-b border-line py-1 text-sm", chosen === mark.id && "bg-tide-wash")}>
              <button type="button" className="min-h-7 shrink-0 cursor-pointer border border-line-strong bg-raised px-1.5 font-semibold max-sm:min-h-11" onClick={() => onGo(from(mark))} aria-label={`Play ${sayPlace(mark.place)}`}>
                ▶ {sayDuration(from(mark))}
                {mark.place.on === "time" && mark.place.to !== null ? ` to ${sayDuration(mark.place.to)}` : ""}
              </button>
              <button type="button" className="cursor-pointer text-left" onClick={() => onChoose(mark.id)}>
                {mark.tone === "request" ? <span className="label mr-2 text-ember">asks</span> : mark.tone === "praise" ? <span className="label mr-2 text-moss">praise</span> : null}
                {sayNote(mark.body) || mark.label}
              </button>
            </li>
          ))}
        </ol>
      ) : null}
      {onNote ? (
        <Button small className="mt-2" onClick={onNote}>
          Note on this moment <kbd className="text-xs">m</kbd>
        </Button>
      ) : null}
    </div>
  );
}

const from = (mark: PlacedMark): number => (mark.place.on === "time" ? mark.place.from : 0);

/** Plays a recording from a moment. One whose end is not known yet is wound as far as it can be. */
export function playFrom(player: HTMLMediaElement | null | undefined, seconds: number): void {
  if (!player) return;
  player.currentTime = seconds;
  void player.play().catch(() => undefined);
}
