"use client";

import { useState } from "react";
import { contract } from "@/core/api/contract";
import type { DeskPiece } from "@/core/views/deskViews";
import { call, sayProblem } from "../../client";
import { Button } from "../../kit/Button";

/** Pressed without a connection: the device's claim beside the server's time, and the teacher's word on which counts. */
export function Claim({ piece, onDone }: { piece: DeskPiece; onDone: () => void }) {
  const [problem, setProblem] = useState<string | null>(null);
  const pressed = piece.handedIn?.pressed;
  if (!pressed) return null;
  async function set(accepted: boolean) {
    try {
      await call(contract.acceptClaim, { params: { pieceId: piece.id }, body: { accepted } });
      setProblem(null);
      onDone();
    } catch (error) {
      setProblem(sayProblem(error));
    }
  }
  return (
    <p className="flex w-full flex-wrap items-center gap-x-3 text-sm">
      <span>
        The device says “Hand in” was pressed {pressed.exactly}, before it could be sent; stored{" "}
        {piece.handedIn!.words}.{" "}
        {pressed.counts ? "The device’s time counts." : "The server’s time counts."}
      </span>
      {piece.mayHandBack ? (
        <Button small onClick={() => void set(!pressed.counts)}>
          {pressed.counts ? "Go back to the server’s time" : "Accept the device’s time"}
        </Button>
      ) : null}
      {problem ? (
        <span role="alert" className="text-ember">
          ▲ {problem}
        </span>
      ) : null}
    </p>
  );
}
