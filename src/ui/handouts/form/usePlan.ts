"use client";

import { useCallback, useEffect, useRef, useState } from "react";
import { contract } from "@/core/api/contract";
import type { Plan } from "@/core/handouts/plan";
import { call, Problem } from "../../client";
import { keep, kept as onDevice, release } from "../../device";

export type DraftState = { id: string; revision: number; kept: boolean };
const PAUSE = 900;

/**
 * The plan on the page, kept as a draft a moment after every change: on the device at once, on the
 * server soon after. `words` says where it is. Without a draft to keep (changing what was handed out)
 * it only holds the plan.
 */
export function usePlan(first: Plan, draft: DraftState | null, keeping: boolean) {
  const [plan, setPlan] = useState(first);
  const [words, setWords] = useState(draft ? "Draft kept" : "");
  const state = useRef<DraftState | null>(draft);
  const latest = useRef(first);
  const stored = useRef(first);
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  const queue = useRef<Promise<boolean>>(Promise.resolve(true));

  const send = useCallback(async (kept?: boolean): Promise<boolean> => {
    const sending = latest.current;
    try {
      if (state.current === null) {
        const id = crypto.randomUUID();
        const { revision } = await call(contract.beginDraft, {
          body: { id, plan: sending, kept: kept ?? false },
        });
        state.current = { id, revision, kept: kept ?? false };
        window.history.replaceState(null, "", `/hand-out?draft=${id}`);
      } else {
        const { id, revision } = state.current;
        const keepOn = kept ?? state.current.kept;
        state.current = {
          id,
          kept: keepOn,
          revision: (
            await call(contract.saveDraft, {
              params: { draftId: id },
              body: { plan: sending, kept: keepOn },
              revision,
            })
          ).revision,
        };
      }
      stored.current = sending;
      await release("hand-out draft");
      if (latest.current === sending)
        setWords(
          `Draft kept ${new Date().toLocaleTimeString("en-GB", { hour: "2-digit", minute: "2-digit" })}`,
        );
      return true;
    } catch (error) {
      setWords(
        error instanceof Problem
          ? error.message
          : "No connection: the draft is kept on this device.",
      );
      return false;
    }
  }, []);

  const flush = useCallback(
    (kept?: boolean): Promise<boolean> => {
      clearTimeout(timer.current);
      queue.current = queue.current.then(() =>
        latest.current === stored.current && kept === undefined ? true : send(kept),
      );
      return queue.current;
    },
    [send],
  );

  const change = useCallback(
    (make: (old: Plan) => Plan) => {
      latest.current = make(latest.current);
      setPlan(latest.current);
      if (!keeping) return;
      setWords("Kept on this device …");
      void keep(
        "hand-out draft",
        { plan: latest.current, draftId: state.current?.id ?? null },
        state.current?.revision ?? 0,
      );
      clearTimeout(timer.current);
      timer.current = setTimeout(() => void flush(), PAUSE);
    },
    [flush, keeping],
  );

  // What a dead tab or a lost connection left on the device is offered again, on its own page or a new one.
  const [found, setFound] = useState<Plan | null>(null);
  const opened = draft?.id ?? null;
  useEffect(() => {
    if (!keeping) return;
    void onDevice<{ plan: Plan; draftId: string | null }>("hand-out draft").then((left) => {
      if (left?.value?.plan && (left.value.draftId === opened || left.value.draftId === null))
        setFound(left.value.plan);
    });
  }, [keeping, opened]);
  const takeFound = (take: boolean) => {
    if (take && found) change(() => found);
    else void release("hand-out draft");
    setFound(null);
  };

  useEffect(() => () => clearTimeout(timer.current), []);
  const draftId = useCallback(() => state.current?.id ?? null, []);
  /** Stops keeping: it is handed out, or thrown away. */
  const stop = useCallback(async () => {
    clearTimeout(timer.current);
    await queue.current;
    stored.current = latest.current;
    await release("hand-out draft");
  }, []);
  return { plan, change, words, flush, draftId, stop, found, takeFound };
}
