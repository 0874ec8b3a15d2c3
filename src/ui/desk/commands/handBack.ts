import { contract } from "@/core/api/contract";
import { beforeBack } from "@/core/desk/beforeBack";
import { call } from "../../client";
import type { DeskModel } from "../model";

/** Why it cannot be handed back now; null: it can. */
export function whyNotBack({ piece }: DeskModel): string | null {
  if (!piece) return "This piece is still being fetched.";
  if (!piece.mayHandBack) return "The section’s owner hands back.";
  return piece.moon.state === "reworking"
    ? "The student is revising this piece. It can be handed back when it comes in again."
    : null;
}

export function whyNotRevise(desk: DeskModel): string | null {
  const why = whyNotBack(desk);
  if (why !== null) return why;
  if (desk.piece!.versionId === null)
    return "Nothing has been handed in yet, so there is nothing to revise.";
  return desk.piece!.lastRound ? "This is the last round of this work." : null;
}

/** What is to be asked before it goes back as it is; nothing, where it can. */
export function askedBefore({ piece, feedback }: DeskModel): string[] {
  if (!piece || !feedback) return [];
  const { overall, score, picks } = feedback.getState().value;
  return beforeBack({
    ...{ overall, score, levels: Object.keys(picks).length, marks: piece.marks.length },
    judgements: piece.sheets.length,
    earlier: piece.earlier,
  });
}

/** Hands back for good; asks first where nothing is written, or requests of the last round are not ruled on. */
export function handBackOrAsk(desk: DeskModel): void {
  const asked = askedBefore(desk);
  if (asked.length > 0) desk.session.askBack(asked);
  else void handBack(desk, "final", null);
}

/**
 * Hands back what the draft says, once all of it has reached the server, and goes on to the next that waits.
 *
 * @param due the wall time at which the revision is due, for `revise`
 * @returns whether it was handed back
 */
export async function handBack(
  desk: DeskModel,
  outcome: "final" | "revise",
  due: string | null,
): Promise<boolean> {
  const { session, piece, feedback, pile } = desk;
  const { store } = session;
  if (!piece || !feedback) return false;
  if (!(await store.settled()) || !(await feedback.flush())) return false;
  const answer = await store.attempt(() =>
    call(contract.handBack, { params: { pieceId: piece.id }, body: { outcome, due } }),
  );
  if (!answer) return false;
  await store.load();
  // A name that was hidden is known now.
  const after = store.getState().piece ?? piece;
  session.remember(after);
  const words =
    outcome === "final"
      ? `Handed back to ${after.student}.`
      : `Handed back to ${after.student} to revise.`;
  session.setDone({ pieceId: piece.id, words });
  pile.goOn();
  return true;
}

/** Leaves the piece as a draft and goes on to the next that waits. */
export async function leave({ session, feedback, pile }: DeskModel): Promise<void> {
  if (!feedback || !(await feedback.flush())) return;
  session.setDone(null);
  if (!pile.goOn()) session.store.say("Left as a draft. Nothing else waits in this queue.");
}

/** Takes back what was handed back last, and lays that piece on the Desk again. */
export async function takeItBack({ session, pile }: DeskModel, pieceId: string): Promise<void> {
  const answer = await session.store.attempt(() =>
    call(contract.takeFeedbackBack, { params: { pieceId } }),
  );
  if (!answer) return;
  session.setDone(null);
  await session.pieces.piece(pieceId).load();
  pile.goTo(pieceId);
}
