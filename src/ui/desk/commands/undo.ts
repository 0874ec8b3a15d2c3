import { contract } from "@/core/api/contract";
import { call } from "../../client";
import type { DeskModel } from "../model";
import type { FeedbackDraft } from "../store/feedback";

/** Takes back whatever was done last at the Desk: on another piece too, which is laid here for it. */
export async function undoLast(desk: DeskModel): Promise<void> {
  const { session, pile } = desk;
  const act = session.takeLastAct();
  // What another tab left behind is known to its piece alone.
  if (!act) return sayIfNothing(desk, session.store.undo());
  if (act.pieceId !== session.getState().pieceId) {
    pile.goTo(act.pieceId);
    await session.store.whenRead();
  }
  if (act.undo) await act.undo(desk);
  else sayIfNothing(desk, session.store.undo());
}

function sayIfNothing({ session }: DeskModel, happened: boolean): void {
  if (!happened) session.store.say("There is nothing left to undo on this piece.");
}

/** Notes a change to the draft of the piece that lies here, with what it was before. */
export function noteDraft({ session, piece }: DeskModel, before: Partial<FeedbackDraft>): void {
  if (!piece) return;
  session.did({
    pieceId: piece.id,
    undo: () => {
      const now = session.store.getState().piece;
      if (now) session.feedbackOf(now).change((old) => ({ ...old, ...before }));
    },
  });
}

/** Notes that a piece was handed back: for as long as it has not gone, taking that back is calling it back. */
export function noteHandedBack({ session }: DeskModel, pieceId: string, batchId: string | null) {
  session.did({
    pieceId,
    undo: async () => {
      if (batchId === null)
        return session.store.say("It has gone back. “Take it back” takes that back.");
      const batch = await session.store.attempt(() =>
        call(contract.callHandBack, { params: { batchId } }),
      );
      if (!batch) return;
      if (batch.state === "called back") session.setDone(null);
      else session.store.say("It has gone back already. “Take it back” takes that back.");
      await session.store.load();
      const { piece } = session.store.getState();
      if (piece) session.remember(piece);
    },
  });
}
