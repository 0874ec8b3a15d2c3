import { contract } from "@/core/api/contract";
import type { PieceFlag } from "@/core/pieces/flags";
import { call } from "../../client";
import type { PieceStore } from "../store/PieceStore";

/** A word for the section's teachers on the piece; null takes it off. */
export async function setFlag(store: PieceStore, flag: PieceFlag | null): Promise<void> {
  const { pieceId } = store;
  const answer = await store.attempt(() =>
    call(contract.setFlag, { params: { pieceId }, body: { flag } }),
  );
  if (answer) store.patch((old) => ({ ...old, flag: answer.flag }));
}

/** Leaves the piece out of what is awaited, which the student sees. */
export async function setExcused(store: PieceStore, excused: boolean): Promise<void> {
  const { pieceId } = store;
  const answer = await store.attempt(() =>
    call(contract.excuse, { params: { pieceId }, body: { excused } }),
  );
  if (answer) store.patch((old) => ({ ...old, moon: { ...old.moon, excused: answer.excused } }));
}
