"use client";

import { useEffect, useEffectEvent, useState } from "react";
import { sayProblem } from "./client";

/**
 * What is fetched for as long as it is shown, and again when its key changes; an answer that comes too late is let go.
 *
 * @param key all that the answer depends on
 */
export function useFetched<T>(
  key: string,
  load: () => Promise<T>,
): { found: T | null; problem: string | null } {
  const [found, setFound] = useState<T | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const fetchNow = useEffectEvent(load);
  useEffect(() => {
    let wanted = true;
    fetchNow().then(
      (answer) => wanted && setFound(answer),
      (error: unknown) => wanted && setProblem(sayProblem(error)),
    );
    return () => {
      wanted = false;
    };
  }, [key]);
  return { found, problem };
}
