/** What a draft says will happen to its piece: back for good, back to revise, or only kept. */
export const OUTCOMES = ["final", "revise", "keep"] as const;
export type Outcome = (typeof OUTCOMES)[number];

/** What one act of handing back says of its pieces: all for good, all to revise, or each as its draft says. */
export const BATCH_OUTCOMES = ["final", "revise", "draft"] as const;
export type BatchOutcome = (typeof BATCH_OUTCOMES)[number];

/** When the scores go: with the feedback, when all that is in has gone back, or on a date. */
export const SCORES_GO = ["now", "all", "date"] as const;
export type ScoresGo = (typeof SCORES_GO)[number];

/** How long, in seconds, an act can be called back before anything happens; chosen by each teacher. */
export const HOLDS = [0, 10, 60, 300] as const;
export const USUAL_HOLD = 60;

/** So many pieces are marked as looked at in one act: each gets its word in the same transaction. */
export const MOST_LOOKED_AT = 100;

export type Going =
  | { goes: true; outcome: "final" }
  | { goes: true; outcome: "revise"; due: Date }
  | { goes: false; why: string };

/**
 * What happens to one piece of an act, from what the act and the piece's draft say.
 *
 * A draft that says nothing goes back for good where the act leaves it to the drafts. A due time of the draft's own
 * comes before that of the act. What is only to be kept stays, whatever the act says of the others.
 *
 * @example goingOf({ outcome: "draft", due: null }, { outcome: "keep", due: null }).goes // false
 */
export function goingOf(
  act: { outcome: BatchOutcome; due: Date | null },
  draft: { outcome: Outcome | null; due: Date | null },
): Going {
  if (draft.outcome === "keep")
    return { goes: false, why: "Its draft says that it is only to be kept." };
  const outcome = act.outcome === "draft" ? (draft.outcome ?? "final") : act.outcome;
  if (outcome === "final") return { goes: true, outcome };
  const due = draft.due ?? act.due;
  return due
    ? { goes: true, outcome, due }
    : { goes: false, why: "Nobody has said when its revision is due." };
}
