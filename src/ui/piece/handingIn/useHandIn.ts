"use client";

import { useCallback, useEffect, useRef, useState } from "react";
import { contract } from "@/core/api/contract";
import type { PieceView, Receipt } from "@/core/views/views";
import { call, Problem, Unreachable, sayProblem } from "../../client";
import { keep, kept, release } from "../../device";
import type { Work } from "../useSaving";

export type SaidOfIt = { choice: string | null; words: string } | null;
/** Pressed, and not sent yet. All attempts say the same, so that the server takes only one. */
type Pending = { key: string; pressedAt: string; work: Work; self: SaidOfIt; revision: number };

const RETRY = 4000;
export const handInKey = (view: Pick<PieceView, "id" | "receipts">) =>
  `hand-in ${view.id} ${view.receipts.length}`;

/**
 * Handing in, also without a connection: what is pressed is on the device first, with its time, and is sent as soon as it
 * can be, also by a page that is opened later.
 *
 * @param ready whether all files have arrived; until then it waits
 */
export function useHandIn(
  view: PieceView,
  ready: boolean,
  hooks: { onHandedIn: (receipt: Receipt) => void; onConflict: (theirs: never) => void },
) {
  const place = handInKey(view);
  const [pending, setPending] = useState<Pending | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const [reached, setReached] = useState(true);
  const given = useRef(hooks);
  const sending = useRef(false);
  useEffect(() => {
    given.current = hooks;
  });

  useEffect(() => {
    void kept<Pending>(place).then((left) => left && setPending(left.value));
  }, [place]);

  const attempt = useCallback(
    async (now: Pending) => {
      if (sending.current) return;
      sending.current = true;
      try {
        const receipt = await call(contract.handIn, {
          params: { pieceId: view.id },
          body: { ...now.work, self: now.self, pressedAt: now.pressedAt },
          revision: now.revision,
          key: now.key,
        });
        await release(place);
        setPending(null);
        setProblem(null);
        given.current.onHandedIn(receipt);
      } catch (error) {
        if (error instanceof Unreachable || (error instanceof Problem && error.status >= 500))
          return setReached(false);
        await release(place);
        setPending(null);
        if (error instanceof Problem && error.status === 412)
          given.current.onConflict(error.theirs as never);
        setProblem(sayProblem(error));
      } finally {
        sending.current = false;
      }
    },
    [place, view.id],
  );

  // Goes on trying for as long as something is pressed and not sent.
  useEffect(() => {
    if (!pending || !ready) return;
    const soon = setTimeout(() => void attempt(pending), 0);
    const timer = setInterval(() => void attempt(pending), RETRY);
    const online = () => void attempt(pending);
    window.addEventListener("online", online);
    return () => {
      clearTimeout(soon);
      clearInterval(timer);
      window.removeEventListener("online", online);
    };
  }, [attempt, pending, ready]);

  const press = useCallback(
    async (work: Work, self: SaidOfIt, revision: number) => {
      const now: Pending = {
        key: crypto.randomUUID(),
        pressedAt: new Date().toISOString(),
        work,
        self,
        revision,
      };
      await keep(place, now, 0);
      setReached(true);
      setProblem(null);
      setPending(now);
    },
    [place],
  );
  /** Goes on writing instead; nothing was sent. */
  const unpress = useCallback(async () => {
    await release(place);
    setPending(null);
  }, [place]);

  return {
    pending,
    reached,
    waiting: pending !== null && (!ready || !reached),
    problem,
    setProblem,
    press,
    unpress,
  };
}
