"use client";

import { useEffect } from "react";
import type { BatchView } from "@/core/views/handBackViews";
import { RunsOut } from "../handingBack/RunsOut";
import { useBatch } from "../handingBack/useBatch";
import { Button } from "../kit/Button";
import { Notice } from "../kit/Notice";
import { takeItBack } from "./commands/handBack";
import { useDesk } from "./model";

/** What was handed back a moment ago and can be called back before anything happens; then, what became of it. */
export function GoesSoon({ first }: { first: BatchView }) {
  const desk = useDesk();
  const { batch, left, problem, callBack } = useBatch(first);
  const whole = Math.ceil(first.goesIn / 1000);
  const pieceId = first.pieceIds[0]!;
  const { session, pile } = desk;
  const { state } = batch;
  // Where the piece stands has changed: the strip and, where it lies here, the Desk follow.
  useEffect(() => {
    if (state === "waiting" || state === "going") return;
    const store = session.pieces.piece(pieceId);
    void store.load().then(() => {
      const { piece } = store.getState();
      if (piece) session.remember(piece);
    });
  }, [session, pieceId, state]);
  if (state === "called back") return null;
  const moving = state === "waiting" || state === "going";
  const stayed = batch.left[0]?.why;
  const act = moving ? (
    <Button small onClick={() => void callBack().then(() => pile.goTo(pieceId))}>
      Call it back
    </Button>
  ) : (
    <Button small onClick={() => void takeItBack(desk, pieceId)}>
      Take it back
    </Button>
  );
  return (
    <Notice
      ink={stayed ? "ember" : INKS[moving ? "moving" : "gone"]}
      className="mb-4"
      acts={stayed ? undefined : act}
    >
      {sayGoing(batch, left)}
      {problem ? <span className="block text-ember">{problem}</span> : null}
      {state === "waiting" && left !== null ? (
        <span className="mt-1 block">
          <RunsOut left={left} of={Math.max(whole, left)} />
        </span>
      ) : null}
    </Notice>
  );
}

const INKS = { moving: "tide", gone: "moss" } as const;

function sayGoing({ state, student, left: stayed }: BatchView, left: number | null): string {
  if (state === "waiting")
    return `${student} gets it back${left === null ? " in a moment" : ` in ${left} s`}. Nobody has been told yet.`;
  if (state === "going") return `${student} gets it back now.`;
  return stayed[0]
    ? `${student}: it stayed a draft. ${stayed[0].why}`
    : `Handed back to ${student}.`;
}
