import { contract } from "@/core/api/contract";
import { beforeBack } from "@/core/desk/beforeBack";
import type { Outcome } from "@/core/handingBack/outcome";
import type { AskedOfRound } from "@/core/rounds/asked";
import type { DeskPiece } from "@/core/views/deskViews";
import type { BatchView } from "@/core/views/handBackViews";
import { call } from "../../client";
import type { DeskModel } from "../model";
import type { PieceStore } from "../store/PieceStore";
import { noteHandedBack } from "./undo";

/** Why it cannot be handed back now; null: it can. */
export function whyNotBack({ piece }: DeskModel): string | null {
  if (!piece) return "This piece is still being fetched.";
  if (!piece.mayHandBack) return "The section’s owner hands back.";
  if (piece.goes) return `It ${piece.goes.words} already. Call that back first.`;
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
 * Hands back what the draft says, once all of it has reached the server, and goes on to the next that waits. For as
 * long as the teacher has set, it can be called back before anything happens.
 *
 * @param due the wall time at which the revision is due, for `revise`
 * @returns whether it was handed back, or will be in a moment
 */
export async function handBack(
  desk: DeskModel,
  outcome: "final" | "revise",
  due: string | null,
  said: Said = {},
): Promise<boolean> {
  const { session, piece, feedback, pile } = desk;
  const { store } = session;
  if (!piece || !feedback) return false;
  if (!(await store.settled()) || !(await feedback.flush())) return false;
  const sent = await send(desk, piece, { outcome, due, ...said });
  if (!sent) return false;
  await store.load();
  // A name that was hidden is known now.
  const after = store.getState().piece ?? piece;
  session.remember(after);
  const words = `Handed back to ${after.student}${outcome === "final" ? "." : " to revise."}`;
  session.setDone({ pieceId: piece.id, words, batch: sent.batch });
  noteHandedBack(desk, piece.id, sent.batch?.id ?? null);
  pile.goOn();
  return true;
}

/** Whether a score is told, and what is said of the round that opens. */
type Said = { tellScore?: boolean } & Partial<AskedOfRound>;
type Goes = { outcome: "final" | "revise"; due: string | null } & Said;

/** At once, or held for a moment. @returns null where it was refused or could not be sent */
async function send(
  desk: DeskModel,
  piece: DeskPiece,
  goes: Goes,
): Promise<{ batch: BatchView | null } | null> {
  // With nothing said it was asked for twice already; and what was handed back before changes at once.
  if (desk.own.hold > 0 && says(desk) && piece.handedBack === null) {
    const batch = await hold(desk, piece, goes);
    return batch && { batch };
  }
  const answer = await desk.session.store.attempt(() =>
    call(contract.handBack, { params: { pieceId: piece.id }, body: goes }),
  );
  return answer ? { batch: null } : null;
}

const says = (desk: DeskModel) => {
  const { piece, feedback } = desk;
  const { overall, score, picks } = feedback!.getState().value;
  const written = overall.trim() !== "" || score.trim() !== "" || Object.keys(picks).length > 0;
  return written || piece!.marks.length > 0 || piece!.sheets.length > 0;
};

/** Lets it go in a moment, as an act of one piece; what the draft said of others no longer holds. */
async function hold(
  { session, own }: DeskModel,
  piece: DeskPiece,
  goes: Goes,
): Promise<BatchView | null> {
  const { store } = session;
  if (piece.outcome !== null && !(await sayOutcome(store, null))) return null;
  const answer = await store.attempt(() =>
    call(contract.makeHandBack, {
      body: {
        ...{ ...goes, pieceIds: [piece.id], at: null, hold: own.hold },
        ...{ message: "", scores: "now", scoresAt: null },
      },
    }),
  );
  return answer ?? null;
}

/** What the draft says will become of its piece. @returns whether it was kept */
export async function sayOutcome(store: PieceStore, outcome: Outcome | null): Promise<boolean> {
  const { piece } = store.getState();
  if (!piece) return false;
  const due = outcome === "revise" ? piece.suggestedDue : null;
  const answer = await store.attempt(() =>
    call(contract.setOutcome, { params: { pieceId: piece.id }, body: { outcome, due } }),
  );
  if (answer) store.patch((old) => ({ ...old, outcome }));
  return answer !== undefined && answer !== null;
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
  const { student } = session.pieces.piece(pieceId).getState().piece ?? { student: "The student" };
  session.store.say(
    answer.wasRead
      ? `Taken back. ${student} had read it already.`
      : `Taken back. ${student} had not read it.`,
  );
  await session.pieces.piece(pieceId).load();
  pile.goTo(pieceId);
}
