import type { HandBackContent } from "@/core/rounds/cameBack";
import type { Call } from "../call";

/** What is handed back of which round, and when its revision is due. */
export type Next = { outcome: "final" | "revise"; round: number; roundDue: Date | null };

/** Keeps what was handed back as it was at this moment; none replaces another. @returns its id */
export async function storeHandBack(
  { tx, who, now, newId }: Call,
  pieceId: string,
  { round, outcome, roundDue }: Next,
  content: object,
): Promise<string> {
  const id = newId();
  await tx`
    insert into hand_back (
      id, piece_id, round_number, number, outcome, content, next_due_at, handed_back_by, handed_back_at
    )
    select
      ${id}, ${pieceId}, ${round}, coalesce(max(number), 0) + 1, ${outcome}, ${tx.json(content as never)},
      ${roundDue}, ${who.id}, ${now}
    from hand_back
    where piece_id = ${pieceId}`;
  return id;
}

/** The score of a hand-back, into its history. */
export async function storeScore(
  { tx, who, now, newId }: Call,
  { round, ...whose }: { pieceId: string; round: number; handBackId: string },
  content: HandBackContent,
): Promise<void> {
  const score = {
    typed: content.scoreTyped,
    points: content.points,
    possible: content.possible,
    shown: content.shown ?? null,
    rawPoints: content.raw ?? null,
    deduction: content.deduction || null,
  };
  const [draft] = await tx<
    { scoreReason: string }[]
  >`select score_reason from feedback where piece_id = ${whose.pieceId} and round_number = ${round}`;
  const made = { id: newId(), roundNumber: round, setBy: who.id, setAt: now };
  const reason = draft?.scoreReason ?? "";
  await tx`insert into score ${tx({ ...whose, ...score, ...made, reason })}`;
}
