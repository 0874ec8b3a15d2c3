"use client";

import { useState } from "react";
import { contract } from "@/core/api/contract";
import {
  checkQuestions,
  QUESTION_KINDS,
  type Question,
  type QuestionKind,
} from "@/core/questions/question";
import { call } from "../client";
import { WritingField } from "../comments/WritingField";
import { Button } from "../kit/Button";
import { TextField } from "../kit/Field";
import { Notice } from "../kit/Notice";
import { useAct } from "../useAct";
import { KeyFields } from "./KeyFields";

export type EditingSet = {
  id: string | null;
  name: string;
  questions: Question[];
  revision: number;
  usedIn: number;
};

const newId = () => crypto.randomUUID();
const choice = (text = "") => ({ id: newId(), text });

/** A new question of a kind, with room to fill in. */
export function blankQuestion(kind: QuestionKind): Question {
  const base = { id: newId(), text: "", points: "1" };
  switch (kind) {
    case "one choice": {
      const choices = [choice(), choice(), choice()];
      return { ...base, kind, choices, right: "" };
    }
    case "several choices":
      return { ...base, kind, choices: [choice(), choice(), choice(), choice()], right: [] };
    case "short text":
      return {
        ...base,
        kind,
        accepted: [""],
        exactCase: false,
        exactAccents: false,
        exactSpaces: false,
      };
    case "number":
      return { ...base, kind, value: "", unit: "", tolerance: "" };
    case "matching": {
      const left = [choice(), choice(), choice()];
      const right = left.map(() => choice());
      return {
        ...base,
        kind,
        left,
        right,
        pairs: Object.fromEntries(left.map((l, n) => [l.id, right[n]!.id])),
      };
    }
    case "ordering":
      return { ...base, kind, items: [choice(), choice(), choice()] };
    case "free text":
      return { ...base, kind, lines: 4 };
  }
}

/** A set of questions being written, with its key beside each. */
export function SetEditor({
  first,
  unread,
  onDone,
}: {
  first: EditingSet;
  unread: readonly { where: string; words: string }[];
  onDone: (words: string | null) => void;
}) {
  const { act, busy, problem } = useAct();
  const [name, setName] = useState(first.name);
  const [questions, setQuestions] = useState<Question[]>(first.questions);
  const [tried, setTried] = useState(false);
  const faults = checkQuestions(questions);
  const change = (next: Question) =>
    setQuestions((old) => old.map((q) => (q.id === next.id ? next : q)));
  const move = (n: number, by: number) =>
    setQuestions((old) => {
      const next = [...old];
      const [q] = next.splice(n, 1);
      next.splice(n + by, 0, q!);
      return next;
    });

  async function keep() {
    setTried(true);
    if (Object.keys(faults).length > 0 || !name.trim()) return;
    const body = { name, questions };
    const done = first.id
      ? await act(() =>
          call(contract.changeQuestionSet, {
            params: { setId: first.id! },
            body,
            revision: first.revision,
          }),
        )
      : await act(() => call(contract.addQuestionSet, { body }));
    if (done)
      onDone(
        first.usedIn > 0 && done.version > 1
          ? `Version ${done.version} of “${done.name}” is made; work that was handed out keeps the one it has.`
          : `“${done.name}” is on the Shelf.`,
      );
  }

  return (
    <form
      className="grid gap-5"
      onSubmit={(event) => {
        event.preventDefault();
        void keep();
      }}
    >
      {problem ? <Notice ink="ember">{problem}</Notice> : null}
      {unread.length > 0 ? (
        <Notice ink="ember">
          {unread.length === 1 ? "One item" : `${unread.length} items`} could not be read:{" "}
          {unread.map((u) => `${u.where}: ${u.words}`).join("; ")}. The others are below.
        </Notice>
      ) : null}
      {first.usedIn > 0 ? (
        <Notice ink="tide">
          This set was handed out. A change makes its next version; work that has this one keeps it.
        </Notice>
      ) : null}
      <div className="max-w-xl">
        <TextField
          label="Name of the set"
          value={name}
          autoFocus
          onChange={(event) => setName(event.target.value)}
          error={tried && !name.trim() ? "Give the set a name." : undefined}
        />
      </div>
      <ol className="grid gap-4">
        {questions.map((q, n) => (
          <li
            key={q.id}
            className="border border-line-strong p-4"
            aria-label={`Question ${n + 1}: ${q.kind}`}
          >
            <div className="mb-2 flex flex-wrap items-baseline gap-3">
              <span className="font-serif text-lg">
                {n + 1}. {q.kind}
              </span>
              <span className="ml-auto flex gap-1">
                <Button
                  small
                  disabled={n === 0}
                  aria-label={`Question ${n + 1} earlier`}
                  onClick={() => move(n, -1)}
                >
                  ↑
                </Button>
                <Button
                  small
                  disabled={n === questions.length - 1}
                  aria-label={`Question ${n + 1} later`}
                  onClick={() => move(n, 1)}
                >
                  ↓
                </Button>
                <Button
                  small
                  aria-label={`Take question ${n + 1} out`}
                  onClick={() => setQuestions((old) => old.filter((x) => x.id !== q.id))}
                >
                  Take out
                </Button>
              </span>
            </div>
            <div className="grid gap-3 sm:grid-cols-[1fr_6rem]">
              <WritingField
                label="Question"
                rows={2}
                value={q.text}
                onChange={(text) => change({ ...q, text })}
                error={tried ? faults[`questions[${n}]`] : undefined}
              />
              <TextField
                label="Points"
                value={q.points}
                onChange={(event) => change({ ...q, points: event.target.value })}
              />
            </div>
            <div className="mt-3">
              <KeyFields question={q} onChange={change} />
            </div>
          </li>
        ))}
      </ol>
      <div role="group" aria-label="Add a question" className="flex flex-wrap gap-2">
        {QUESTION_KINDS.map((kind) => (
          <Button
            key={kind}
            small
            onClick={() => setQuestions((old) => [...old, blankQuestion(kind)])}
          >
            + {kind}
          </Button>
        ))}
      </div>
      {tried && faults.questions ? (
        <p role="alert" className="text-ember">
          ▲ {faults.questions}
        </p>
      ) : null}
      <div className="flex gap-3">
        <Button ink="tide" type="submit" disabled={busy}>
          Keep the set
        </Button>
        <Button onClick={() => onDone(null)}>Leave it as it was</Button>
      </div>
    </form>
  );
}
