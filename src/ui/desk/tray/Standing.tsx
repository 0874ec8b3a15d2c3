"use client";

import { DRAFT_WORDS } from "@/core/handingBack/say";
import { sumOfPoints } from "@/core/marks/points";
import type { DeskPiece } from "@/core/views/deskViews";
import type { KeeperState } from "../../keeping/Keeper";
import { classes } from "../../kit/classes";
import { usePieceOnDesk } from "../model";
import { saySaved, scoreFault, type FeedbackDraft } from "../store/feedback";

/** Where the draft is, what it comes to, and what the student can see now. */
export function Standing({ state }: { state: KeeperState<FeedbackDraft> }) {
  const { piece } = usePieceOnDesk();
  const pointed = sumOfPoints(piece.marks);
  const troubled = ["waiting", "refused", "conflict"].includes(state.stage);
  const showsScore = piece.points !== null && piece.scoreWords && !scoreFault(state);
  return (
    <div className="min-w-0 flex-[2] text-xs leading-4 max-lg:min-w-48">
      <p className={classes("truncate", troubled ? "text-ember" : "text-soft")}>
        <span aria-live="polite">{saySaved(state, piece.marks.length > 0)}</span>
        {showsScore ? (
          <span className="text-ink" title={piece.scoreWords ?? undefined}>
            {" "}
            · score: {piece.scoreWords}
          </span>
        ) : null}
        {pointed !== null ? ` · points on the marks: ${pointed}` : ""}
      </p>
      <p className="truncate text-soft" title={sayVisible(piece)}>
        <span aria-hidden="true">◐ </span>
        {sayVisible(piece)}
      </p>
    </div>
  );
}

/** What the student can see at this moment is always written here, in the words of every list. */
function sayVisible({ standing, moon, called, lastBy }: DeskPiece): string {
  const other = lastBy ? `. Last changed by ${lastBy}` : "";
  const revising = moon.state === "reworking" ? `. ${called} is revising` : "";
  return `${standing || DRAFT_WORDS}${revising}${other}`;
}
