import { goingOf, type BatchOutcome, type Outcome } from "@/core/handingBack/outcome";
import { feedbackRound } from "@/core/rounds/feedbackRound";
import type { PieceView } from "@/core/views/views";
import { requireOnPiece } from "../access/standing";
import type { ReadCall } from "../call";
import { readPiece, readVersions } from "../life/queries";
import { contentNow, told } from "./handBack";
import { namesOut } from "../names/names";
import { studentsView } from "../pieces/pieceView";
import { readPerson } from "./readPerson";

/** How it would go: what the act says, and whether scores wait. */
export type Looked = {
  outcome: BatchOutcome;
  due: Date | null;
  scoresWait: boolean;
  tellScore: boolean;
};

/**
 * A draft as its student will see it, with nothing handed back: the student's own view of the piece, over a hand-back
 * that is made up for it.
 */
export async function lookAsStudent(
  call: ReadCall,
  pieceId: string,
  looked: Looked,
): Promise<PieceView> {
  await requireOnPiece(call, pieceId, "feedback.see");
  const { db, who, now } = call;
  const [piece, versions] = await Promise.all([readPiece(db, pieceId), readVersions(db, pieceId)]);
  const { round, version } = feedbackRound(piece, versions);
  const [whole, student, [draft]] = await Promise.all([
    contentNow(call, piece, round, version),
    readPerson(db, piece.studentId),
    db<{ outcome: Outcome | null; due: Date | null }[]>`
      select outcome, next_due_at as due
      from feedback
      where piece_id = ${pieceId} and round_number = ${round}`,
  ]);
  const going = goingOf(looked, draft ?? { outcome: null, due: null });
  const outcome = going.goes ? going.outcome : "final";
  const later = looked.scoresWait ? { until: null } : undefined;
  const content = told(whole, { later, silent: outcome === "revise" && !looked.tellScore });
  const handBack = {
    ...{ id: pieceId, round, number: 0, outcome, content, by: who.name, handedBackAt: now },
    nextDueAt: going.goes && going.outcome === "revise" ? going.due : null,
  };
  const state = outcome === "revise" ? "to_revise" : "handed_back";
  const pretended = { state, handBack } as const;
  const view = await studentsView({ ...call, who: student }, pieceId, {
    takenOff: false,
    pretended,
  });
  return namesOut(db, pieceId, {
    ...view,
    locked: "This is how it will look.",
    mayTakeBack: false,
  });
}
