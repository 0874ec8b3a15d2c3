import { contract } from "@/core/api/contract";
import type { PieceFlag } from "@/core/pieces/flags";
import { call } from "../../client";
import type { DeskSession } from "../store/DeskSession";

/** A word for the section's teachers on the piece; null takes it off. */
export async function setFlag(session: DeskSession, flag: PieceFlag | null): Promise<void> {
  const { store } = session;
  const { pieceId } = store;
  const before = store.getState().piece?.flag ?? null;
  const answer = await store.attempt(() =>
    call(contract.setFlag, { params: { pieceId }, body: { flag } }),
  );
  if (!answer) return;
  store.patch((old) => ({ ...old, flag: answer.flag }));
  session.did({ pieceId, undo: ({ session: at }) => putBack(at, () => setFlag(at, before)) });
}

/** Leaves the piece out of what is awaited, which the student sees. */
export async function setExcused(session: DeskSession, excused: boolean): Promise<void> {
  const { store } = session;
  const { pieceId } = store;
  const answer = await store.attempt(() =>
    call(contract.excuse, { params: { pieceId }, body: { excused } }),
  );
  if (!answer) return;
  store.patch((old) => ({ ...old, moon: { ...old.moon, excused: answer.excused } }));
  session.did({ pieceId, undo: ({ session: at }) => putBack(at, () => setExcused(at, !excused)) });
}

/** Taking back is no act of its own: the next one taken back is the one before. */
async function putBack(session: DeskSession, work: () => Promise<void>): Promise<void> {
  await work();
  session.takeLastAct();
}
