"use client";

import { contract } from "@/core/api/contract";
import type { PieceFlag } from "@/core/views/views";
import { call } from "../../client";
import type { Desk } from "./useDeskPiece";

/** Flags of a piece: a word for the teachers, and the excuse that the student hears of. */
export function useFlags(desk: Desk, pieceId: string) {
  async function setFlag(flag: PieceFlag | null) {
    const answer = await desk.attempt(() =>
      call(contract.setFlag, { params: { pieceId: pieceId }, body: { flag } }),
    );
    if (answer) desk.patch((old) => ({ ...old, flag: answer.flag }));
  }
  async function setExcused(excused: boolean) {
    const answer = await desk.attempt(() =>
      call(contract.excuse, { params: { pieceId: pieceId }, body: { excused } }),
    );
    if (answer) desk.patch((old) => ({ ...old, moon: { ...old.moon, excused: answer.excused } }));
  }
  return { setFlag, setExcused };
}
