"use client";

import { useRouter } from "next/navigation";
import { useState } from "react";
import { sayProblem, Problem } from "./client";

/** An act that changes something and then shows the page as it now is; what went wrong is said in words. */
export function useAct() {
  const router = useRouter();
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const [fields, setFields] = useState<Readonly<Record<string, string>>>({});
  async function act<T>(work: () => Promise<T>): Promise<T | undefined> {
    setBusy(true);
    setProblem(null);
    setFields({});
    try {
      const answer = await work();
      router.refresh();
      return answer;
    } catch (error) {
      setProblem(sayProblem(error));
      if (error instanceof Problem) setFields(error.fields);
      return undefined;
    } finally {
      setBusy(false);
    }
  }
  return { act, busy, problem, fields, setProblem };
}
