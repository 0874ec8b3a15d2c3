"use client";

import { useEffect, useState } from "react";
import { contract } from "@/core/api/contract";
import type { FoundView } from "@/core/views/overviewViews";
import { call, sayProblem } from "../client";

/** So long nothing more is typed, in milliseconds, before it is asked. */
const PAUSE = 120;

type State = { for: string; found: FoundView[]; problem: string | null };
const NOTHING: State = { for: "", found: [], problem: null };

/**
 * What the server finds for what is typed. While it looks, what was found before stays; an answer that comes after
 * something else was typed is let go.
 */
export function useFind(typed: string): State & { looking: boolean } {
  const [state, setState] = useState(NOTHING);
  const text = typed.trim();
  useEffect(() => {
    if (text === "") return;
    const ended = new AbortController();
    const settle = (found: FoundView[], problem: string | null) => {
      if (!ended.signal.aborted) setState({ for: text, found, problem });
    };
    const timer = setTimeout(
      () =>
        void call(contract.find, { query: { text }, signal: ended.signal }).then(
          (found) => settle(found, null),
          (error: unknown) => settle([], sayProblem(error)),
        ),
      PAUSE,
    );
    return () => {
      clearTimeout(timer);
      ended.abort();
    };
  }, [text]);
  return text === "" ? { ...NOTHING, looking: false } : { ...state, looking: state.for !== text };
}
