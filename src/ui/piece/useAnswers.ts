"use client";

import { useEffect, useEffectEvent, useState } from "react";
import { contract } from "@/core/api/contract";
import type { AnsweredMark, PieceView } from "@/core/views/views";
import { call } from "../client";
import { useObserved } from "../keeping/useObserved";
import { browserWorld } from "../keeping/world";
import { MarkAnswers, type Given } from "./MarkAnswers";

export type SetView = (change: (old: PieceView) => PieceView) => void;

/** Changes what the page shows of a mark. */
export const patchMark =
  (setView: SetView) =>
  (id: string, change: (mark: AnsweredMark) => AnsweredMark): void =>
    setView((old) => ({ ...old, marks: old.marks.map((m) => (m.id === id ? change(m) : m)) }));

/** What the student does about marks; see `MarkAnswers`. */
export function useAnswers(view: PieceView, setView: SetView) {
  const [answers] = useState(
    () =>
      new MarkAnswers(
        view.id,
        (markId, body) => call(contract.answerMark, { params: { pieceId: view.id, markId }, body }),
        browserWorld,
      ),
  );
  const state = useObserved(answers);
  const shown = useEffectEvent((markId: string) => view.marks.find((m) => m.id === markId));
  useEffect(
    () =>
      answers.start({
        shown: (markId) => shown(markId),
        show: (markId, what) => patchMark(setView)(markId, (mark) => ({ ...mark, ...what })),
        onAnswered: (openRequests) => setView((old) => ({ ...old, openRequests })),
      }),
    [answers, setView],
  );
  return {
    ...state,
    patch: patchMark(setView),
    answer: (mark: AnsweredMark, given: Given) => answers.answer(mark.id, given),
  };
}
