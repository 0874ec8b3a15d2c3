"use client";

import { useState } from "react";
import { contract } from "@/core/api/contract";
import type { AnsweredMark, PieceView } from "@/core/views/views";
import { call, sayProblem } from "../client";

export type SetView = (change: (old: PieceView) => PieceView) => void;

/** What the student does about marks; shown at once, and taken back with a sentence if the server says no. */
export function useAnswers(view: PieceView, setView: SetView) {
  const [problem, setProblem] = useState<string | null>(null);
  const patch = (id: string, change: (mark: AnsweredMark) => AnsweredMark) =>
    setView((old) => ({ ...old, marks: old.marks.map((m) => (m.id === id ? change(m) : m)) }));
  async function answer(
    mark: AnsweredMark,
    given: { request: "open" | "done" | null; decision: "accepted" | "declined" | null },
  ): Promise<boolean> {
    patch(mark.id, (m) => ({
      ...m,
      request: given.request ?? m.request,
      decision: given.decision,
    }));
    try {
      const { openRequests } = await call(contract.answerMark, {
        params: { pieceId: view.id, markId: mark.id },
        body: given,
      });
      setView((old) => ({ ...old, openRequests }));
      setProblem(null);
      return true;
    } catch (error) {
      patch(mark.id, () => mark);
      setProblem(sayProblem(error));
      return false;
    }
  }
  return { problem, patch, answer };
}
