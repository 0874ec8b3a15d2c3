import { contract } from "@/core/api/contract";
import type { DraftMark, QueueItem } from "@/core/views/deskViews";
import { call } from "../../client";
import type { DeskModel } from "../model";

/** Why the chosen mark cannot be moved to another piece; null: it can. */
export function noNoteToMove({ session }: DeskModel): string | null {
  return session.marking.chosenMark?.kind === "note"
    ? null
    : "Choose a note first, with [ and ]. Edits and stamps are about these words.";
}

/**
 * Moves a note to the piece it was meant for. It is there before it is taken away here, so that it is never nowhere;
 * taken back, it is as before on both.
 *
 * @returns whether it was moved; why not is said
 */
export async function moveNote(
  { session }: DeskModel,
  note: DraftMark,
  to: Pick<QueueItem, "pieceId" | "student">,
): Promise<boolean> {
  const { store } = session;
  // What the server has not heard of yet cannot be copied there.
  if (!(await store.whenKept(note.id))) return false;
  const params = { pieceId: store.pieceId, markId: note.id };
  const id = crypto.randomUUID();
  const copy = await store.attempt(() =>
    call(contract.copyMark, { params, body: { to: to.pieceId, id } }),
  );
  if (!copy) return false;
  store.removeMark(note);
  session.takeLastAct();
  session.did({
    pieceId: store.pieceId,
    undo: async () => {
      store.undo();
      await store.attempt(() =>
        call(contract.deleteMark, { params: { pieceId: to.pieceId, markId: id } }),
      );
      await session.pieces.piece(to.pieceId).load();
    },
  });
  session.marking.choose(null);
  store.say(`The note is on ${to.student}’s piece now, on the whole. z takes that back.`);
  await session.pieces.piece(to.pieceId).load();
  return true;
}
