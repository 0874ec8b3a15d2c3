"use client";

import { useEffect, useEffectEvent, useState } from "react";
import { contract } from "@/core/api/contract";
import type { PieceView, Receipt } from "@/core/views/views";
import { call, Problem, sayProblem } from "../../client";
import { Pressed } from "../../keeping/Pressed";
import { useObserved } from "../../keeping/useObserved";
import { browserWorld } from "../../keeping/world";
import type { OtherCopy, Work } from "../useSaving";

export type SaidOfIt = { choice: string | null; words: string } | null;
/** All attempts say the same, so that the server takes only one. */
type Pending = {
  key: string;
  pressedAt: string;
  work: Work;
  self: SaidOfIt;
  changes?: string;
  revision: number;
};

export const handInKey = (view: Pick<PieceView, "id" | "receipts">) =>
  `hand-in ${view.id} ${view.receipts.length}`;

const send = (pieceId: string) => (now: Pending) =>
  call(contract.handIn, {
    params: { pieceId },
    body: {
      ...now.work,
      self: now.self,
      pressedAt: now.pressedAt,
      ...(now.changes ? { changes: now.changes } : {}),
    },
    revision: now.revision,
    key: now.key,
  });

/**
 * Handing in, also without a connection: what is pressed is on the device first, with its time, and is sent as soon as it
 * can be, also by a page that is opened later.
 *
 * @param ready whether all files have arrived; until then it waits
 */
export function useHandIn(
  view: PieceView,
  ready: boolean,
  hooks: { onHandedIn: (receipt: Receipt) => void; onConflict: (theirs: OtherCopy) => void },
) {
  const [problem, setProblem] = useState<string | null>(null);
  const handedIn = useEffectEvent((receipt: Receipt) => {
    setProblem(null);
    hooks.onHandedIn(receipt);
  });
  const refused = useEffectEvent((error: unknown) => {
    if (error instanceof Problem && error.status === 412)
      hooks.onConflict(error.theirs as OtherCopy);
    setProblem(sayProblem(error));
  });
  const [pressed] = useState(
    () =>
      new Pressed<Pending, Receipt>({ key: handInKey(view), send: send(view.id) }, browserWorld),
  );
  const { act, reached } = useObserved(pressed);
  useEffect(
    () =>
      pressed.start({
        onAnswered: (receipt) => handedIn(receipt),
        onRefused: (error) => refused(error),
      }),
    [pressed],
  );
  useEffect(() => pressed.isReady(ready), [pressed, ready]);

  async function press(work: Work, said: { self: SaidOfIt; changes: string }, revision: number) {
    setProblem(null);
    const pressedAt = new Date().toISOString();
    await pressed.press({ key: crypto.randomUUID(), pressedAt, work, ...said, revision });
  }
  return {
    pending: act,
    reached,
    waiting: act !== null && (!ready || !reached),
    problem,
    setProblem,
    press,
    unpress: pressed.unpress,
  };
}
