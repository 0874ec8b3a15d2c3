"use client";

import { contract } from "@/core/api/contract";
import { call, sayProblem } from "../client";
import { Button } from "../kit/Button";
import { usePieceOnDesk } from "./model";

/** Closes the thread of the piece on the Desk, or opens it again; shown where something was said in it. */
export function CloseThread() {
  const { session, piece } = usePieceOnDesk();
  if (piece.thread.length === 0 && !piece.threadClosed) return null;
  const set = (closed: boolean) =>
    void call(contract.closeThread, { params: { pieceId: piece.id }, body: { closed } }).then(
      () => session.store.patch((old) => ({ ...old, threadClosed: closed })),
      (error: unknown) => session.store.say(sayProblem(error)),
    );
  return (
    <p className="mt-1 text-sm text-soft">
      {piece.threadClosed ? "Closed: the student reads it and writes in it no more. " : ""}
      <Button small ink="quiet" className="-ml-2" onClick={() => set(!piece.threadClosed)}>
        {piece.threadClosed ? "Open it again" : "Close this conversation"}
      </Button>
    </p>
  );
}
