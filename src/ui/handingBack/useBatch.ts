"use client";

import { useCallback, useEffect, useState } from "react";
import { contract } from "@/core/api/contract";
import type { BatchView } from "@/core/views/handBackViews";
import { call, sayProblem } from "../client";

const LOOK_MS = 700;
/** One that goes at a far time is not asked after all the while. */
const NEAR_MS = 15 * 60_000;

/**
 * An act of handing back as it goes on: asked after while anything may change, with how long it can still be called
 * back.
 */
export function useBatch(first: BatchView) {
  const [batch, setBatch] = useState(first);
  const [problem, setProblem] = useState<string | null>(null);
  const [left, setLeft] = useState<number | null>(null);
  const { id, state, goesIn } = batch;
  const moving = state === "waiting" || state === "going";
  useEffect(() => {
    if (!moving || goesIn > NEAR_MS) return;
    // Counted from when the server said it, by a clock that nobody sets.
    const goes = performance.now() + goesIn;
    const timer = setInterval(() => {
      const ms = goes - performance.now();
      setLeft(Math.max(0, Math.ceil(ms / 1000)));
      // Nothing is asked while nothing can have happened.
      if (ms > 0) return;
      call(contract.handBackAct, { params: { batchId: id } }).then(
        (next) => {
          setBatch(next);
          setProblem(null);
        },
        (error: unknown) => setProblem(sayProblem(error)),
      );
    }, LOOK_MS);
    return () => clearInterval(timer);
  }, [id, moving, goesIn]);
  const act = useCallback(async (work: () => Promise<BatchView>) => {
    try {
      setBatch(await work());
      setProblem(null);
    } catch (error) {
      setProblem(sayProblem(error));
    }
  }, []);
  const params = { batchId: id };
  return {
    batch,
    problem,
    /** Seconds; null where it is not near. */
    left: moving ? left : null,
    callBack: () => act(() => call(contract.callHandBack, { params })),
    goOn: () => act(() => call(contract.goOnHandBack, { params })),
  };
}
