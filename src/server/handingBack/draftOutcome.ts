import type { Outcome } from "@/core/handingBack/outcome";
import { wallToInstant } from "@/core/time/zone";
import type { Call } from "../call";
import { openDraft } from "../marking/draft";

/** What the draft says will happen to its piece: back for good, to revise (by when), or only kept; null: nothing. */
export async function setOutcome(
  call: Call,
  pieceId: string,
  { outcome, due }: { outcome: Outcome | null; due: string | null },
): Promise<{ outcome: string | null }> {
  const { round } = await openDraft(call, pieceId);
  const { tx, who, now } = call;
  const nextDue = outcome === "revise" && due ? wallToInstant(due, who.zone).at : null;
  await tx`
    update feedback
    set outcome = ${outcome}, next_due_at = ${nextDue}, changed_by = ${who.id}, changed_at = ${now}
    where piece_id = ${pieceId} and round_number = ${round}`;
  return { outcome };
}
