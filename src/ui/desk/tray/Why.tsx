"use client";

import { useState } from "react";
import type { DeskPiece } from "@/core/views/deskViews";
import { Button } from "../../kit/Button";
import { usePieceOnDesk } from "../model";
import { leaveField, useDraft } from "./useDraft";

/** The score is another than the rubric's sum: both, and which of them counts; why, for the section's teachers. */
export function WhyOther({ sum }: { sum: string }) {
  const { draft, change } = useDraft();
  const [mine, setMine] = useState(draft.reason !== "");
  return (
    <div className="flex flex-wrap items-baseline gap-x-3 gap-y-1 pb-1 text-sm" role="status">
      <span>
        The rubric’s sum is <strong>{sum}</strong>; you wrote <strong>{draft.score}</strong>.
      </span>
      <Button small onClick={() => change({ score: sum, reason: "" })}>
        Take the sum
      </Button>
      {mine ? (
        <WhyField />
      ) : (
        <Button small onClick={() => setMine(true)}>
          Keep {draft.score}
        </Button>
      )}
    </div>
  );
}

/** A score that was handed back is another in the draft. */
export function isChanged({ handedBack, scoreWords }: DeskPiece): boolean {
  const was = handedBack?.score ?? null;
  return was !== null && scoreWords !== null && !scoreWords.startsWith(was);
}

export function WhyChanged() {
  const { piece } = usePieceOnDesk();
  return (
    <div className="pb-1 flex flex-wrap items-baseline gap-x-3 text-sm">
      <span>
        Handed back was <strong>{piece.handedBack?.score}</strong>; the student is told that it
        changed.
      </span>
      <WhyField />
    </div>
  );
}

/** Why a score is what it is, for the section's teachers. */
function WhyField() {
  const { keeper, draft, change } = useDraft();
  return (
    <label className="flex min-w-64 flex-1 items-baseline gap-2">
      <span className="label">why (for the section’s teachers)</span>
      <input
        className="min-h-7 flex-1 border border-line-strong bg-raised px-2"
        value={draft.reason}
        maxLength={600}
        onChange={(event) => change({ reason: event.target.value })}
        onBlur={() => void keeper.flush()}
        onKeyDown={leaveField}
      />
    </label>
  );
}
