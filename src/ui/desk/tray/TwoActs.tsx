"use client";

import { OUTCOMES, type Outcome } from "@/core/handingBack/outcome";
import { Button } from "../../kit/Button";
import { sayOutcome, whyNotBack, whyNotRevise } from "../commands/handBack";
import { usePieceOnDesk } from "../model";

/** The two ways back, and leaving it as a draft. */
export function TwoActs() {
  const desk = usePieceOnDesk();
  const { piece, run } = desk;
  if (!piece.mayHandBack)
    return <p className="text-sm text-soft">The section’s owner hands back.</p>;
  return (
    <div className="flex gap-1.5 max-md:w-full max-md:flex-wrap md:shrink-0">
      <Button
        small
        className="min-h-9!"
        onClick={() => run("leave")}
        title="The feedback stays a draft (l)"
      >
        Leave as draft <kbd className="text-xs opacity-80 max-xl:hidden">l</kbd>
      </Button>
      <Button
        small
        ink="tide"
        className="min-h-9!"
        disabled={whyNotBack(desk) !== null}
        onClick={() => run("handBack")}
      >
        {piece.moon.state === "handed_back" ? "Hand back again" : "Hand back"}{" "}
        <kbd className="text-xs opacity-80 max-xl:hidden">h</kbd>
      </Button>
      <Button
        small
        ink="plum"
        className="min-h-9!"
        disabled={whyNotRevise(desk) !== null}
        title={piece.lastRound ? "This is the last round of this work" : undefined}
        onClick={() => run("revise")}
      >
        Hand back to revise <kbd className="text-xs opacity-80 max-xl:hidden">r</kbd>
      </Button>
    </div>
  );
}

const OUTCOME_WORDS: Readonly<Record<Outcome, string>> = {
  final: "for good",
  revise: "to revise",
  keep: "not: only kept",
};

/** What the draft says becomes of its piece when many go back together. */
export function OutcomeOfDraft() {
  const { session, piece } = usePieceOnDesk();
  if (!piece.mayHandBack) return null;
  const begun = piece.revision > 0 || piece.marks.length > 0;
  if (!begun || (piece.moon.state !== "handed_in" && piece.moon.state !== "started")) return null;
  return (
    <label className="flex items-baseline gap-2 text-sm">
      <span className="label">with others it goes back</span>
      <select
        className="min-h-7 border border-line-strong bg-raised px-1"
        value={piece.outcome ?? ""}
        onChange={(event) =>
          void sayOutcome(session.store, (event.target.value || null) as Outcome | null)
        }
      >
        <option value="">as the class does</option>
        {OUTCOMES.filter((one) => one !== "revise" || piece.versionId !== null).map((one) => (
          <option key={one} value={one}>
            {OUTCOME_WORDS[one]}
          </option>
        ))}
      </select>
    </label>
  );
}
