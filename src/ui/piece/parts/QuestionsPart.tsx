"use client";

import { useRef, useState } from "react";
import { contract } from "@/core/api/contract";
import { isGiven, type Answer, type AskedQuestion } from "@/core/questions/question";
import type { PartView, ShownVerdict } from "@/core/views/workViews";
import { call, sayProblem } from "../../client";
import { Button } from "../../kit/Button";
import { TextArea, TextField } from "../../kit/Field";
import { SelectField } from "../../kit/Choices";
import { Hear } from "../../voice/Hear";

type Given = Record<string, Answer>;

/** A set of questions to answer. Where right and wrong are shown at once, each has its own "Check". */
export function QuestionsPart({
  part,
  pieceId,
  given,
  onAnswer,
  locked,
}: {
  part: PartView;
  pieceId: string;
  given: Given;
  onAnswer: (questionId: string, answer: Answer) => void;
  locked?: boolean;
}) {
  const set = part.questions!;
  const answered = set.asked.filter((q) => isGiven(given[q.id])).length;
  return (
    <div>
      <p className="text-sm text-soft">
        {answered} of {set.asked.length} answered
        {sayShowing(part)}
      </p>
      <ol className="mt-2 grid gap-6">
        {set.asked.map((question, n) => (
          <li key={question.id} className="border-t border-line pt-3">
            <OneQuestion
              part={part}
              pieceId={pieceId}
              question={question}
              number={n + 1}
              answer={given[question.id] ?? null}
              onAnswer={(answer) => onAnswer(question.id, answer)}
              locked={locked ?? false}
              first={set.verdicts[question.id] ?? null}
              used={set.triesUsed[question.id] ?? 0}
            />
          </li>
        ))}
      </ol>
    </div>
  );
}

type OneProps = {
  part: PartView;
  pieceId: string;
  question: AskedQuestion;
  number: number;
  answer: Answer;
  onAnswer: (answer: Answer) => void;
  locked: boolean;
  first: ShownVerdict | null;
  used: number;
};

function OneQuestion({
  part,
  pieceId,
  question,
  number,
  answer,
  onAnswer,
  locked,
  first,
  used,
}: OneProps) {
  const [verdict, setVerdict] = useState(first);
  const [tries, setTries] = useState(used);
  const [changed, setChanged] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const key = useRef<string | null>(null);
  const checks = part.show === "at once" && question.kind !== "free text";
  const usedUp =
    checks && (verdict?.state === "right" || (part.tries !== null && tries >= part.tries));
  const shut = locked || usedUp;
  function give(next: Answer) {
    setChanged(true);
    key.current = null;
    onAnswer(next);
  }
  async function check() {
    setProblem(null);
    key.current ??= crypto.randomUUID();
    try {
      const {
        triesUsed,
        triesLeft: _,
        ...told
      } = await call(contract.tryAnswer, {
        params: { pieceId },
        body: { partId: part.id, questionId: question.id, answer },
        key: key.current,
      });
      setVerdict(told);
      setTries(triesUsed);
      setChanged(false);
    } catch (error) {
      setProblem(sayProblem(error));
    }
  }
  return (
    <fieldset disabled={shut} className="min-w-0">
      <legend className="mb-2 text-lg whitespace-pre-wrap">
        <span className="mr-2 font-serif text-soft">{number}.</span>
        {question.text} <Hear text={question.text} />{" "}
        <span className="text-sm text-soft">
          ({question.points} {question.points === "1" ? "point" : "points"})
        </span>
      </legend>
      <Field
        question={question}
        answer={answer}
        onAnswer={give}
        name={`${part.id} ${question.id}`}
      />
      {checks && !locked ? (
        <div className="mt-2 flex flex-wrap items-center gap-3">
          {usedUp ? null : (
            <Button
              className="max-sm:min-h-11"
              disabled={!isGiven(answer)}
              onClick={() => void check()}
            >
              Check
            </Button>
          )}
          {part.tries !== null && verdict?.state !== "right" ? (
            <span className="text-sm text-soft">
              {part.tries - tries} of {part.tries} {part.tries === 1 ? "try" : "tries"} left
            </span>
          ) : null}
        </div>
      ) : null}
      {verdict && !changed ? <SaidOfIt verdict={verdict} /> : null}
      {verdict?.rows && !changed ? <KeyBeside rows={verdict.rows} /> : null}
      {problem ? (
        <p role="alert" className="mt-1 text-ember">
          ▲ {problem}
        </p>
      ) : null}
    </fieldset>
  );
}

const SIGNS: Record<ShownVerdict["state"], { sign: string; words: string; ink: string }> = {
  right: { sign: "✓", words: "right", ink: "text-moss" },
  partly: { sign: "◐", words: "partly right", ink: "text-ember" },
  wrong: { sign: "✗", words: "not right", ink: "text-ember" },
  "nothing given": { sign: "–", words: "no answer", ink: "text-soft" },
  "for the teacher": { sign: "…", words: "your teacher reads this", ink: "text-soft" },
};

export function SaidOfIt({ verdict }: { verdict: ShownVerdict }) {
  const { sign, words, ink } = SIGNS[verdict.state];
  return (
    <p role="status" className={`mt-2 font-semibold ${ink}`}>
      {sign} {words}
      {verdict.note ? <span className="font-normal"> · {verdict.note}</span> : null}
    </p>
  );
}

/** The key beside one's own answer. */
function KeyBeside({ rows }: { rows: NonNullable<ShownVerdict["rows"]> }) {
  const labelled = rows.some((row) => row.label !== "");
  return (
    <table className="sheet-table mt-2 text-sm">
      <thead>
        <tr className="label">
          {labelled ? <th scope="col">part</th> : null}
          <th scope="col">your answer</th>
          <th scope="col">the key</th>
        </tr>
      </thead>
      <tbody>
        {rows.map((row, n) => (
          <tr key={n}>
            {labelled ? <th scope="row">{row.label}</th> : null}
            <td className={row.same ? "text-moss" : "text-ember"}>
              {row.same ? "✓" : "✗"} {row.given}
            </td>
            <td>{row.key}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function Field({
  question,
  answer,
  onAnswer,
  name,
}: {
  question: AskedQuestion;
  answer: Answer;
  onAnswer: (answer: Answer) => void;
  name: string;
}) {
  const line = "flex min-h-9 max-sm:min-h-11 items-center gap-3";
  switch (question.kind) {
    case "one choice":
      return (
        <div>
          {question.choices.map((c) => (
            <label key={c.id} className={line}>
              <input
                type="radio"
                name={name}
                className="size-5 accent-tide"
                checked={answer === c.id}
                onChange={() => onAnswer(c.id)}
              />
              {c.text}
            </label>
          ))}
        </div>
      );
    case "several choices": {
      const chosen = (answer as string[] | null) ?? [];
      return (
        <div>
          <p className="text-sm text-soft">Several can be right.</p>
          {question.choices.map((c) => (
            <label key={c.id} className={line}>
              <input
                type="checkbox"
                className="size-5 accent-tide"
                checked={chosen.includes(c.id)}
                onChange={(event) =>
                  onAnswer(
                    event.target.checked ? [...chosen, c.id] : chosen.filter((id) => id !== c.id),
                  )
                }
              />
              {c.text}
            </label>
          ))}
        </div>
      );
    }
    case "short text":
      return (
        <TextField
          label="Answer"
          hideLabel
          className="max-w-md"
          value={(answer as string | null) ?? ""}
          maxLength={400}
          onChange={(event) => onAnswer(event.target.value)}
        />
      );
    case "number":
      return (
        <TextField
          label={question.unit ? "Number and unit" : "Number"}
          className="max-w-60"
          value={(answer as string | null) ?? ""}
          maxLength={60}
          autoComplete="off"
          onChange={(event) => onAnswer(event.target.value)}
          hint={question.unit ? "for example 1.25 m" : undefined}
        />
      );
    case "matching": {
      const pairs = (answer as Record<string, string> | null) ?? {};
      return (
        <div className="grid gap-2">
          {question.choices.map((l) => (
            <div
              key={l.id}
              className="grid items-center gap-x-4 sm:grid-cols-[minmax(8rem,16rem)_minmax(10rem,18rem)]"
            >
              <span>{l.text}</span>
              <SelectField
                label={`Partner of ${l.text}`}
                hideLabel
                value={pairs[l.id] ?? ""}
                onChange={(event) => onAnswer({ ...pairs, [l.id]: event.target.value })}
              >
                <option value="">(choose)</option>
                {question.right.map((r) => (
                  <option key={r.id} value={r.id}>
                    {r.text}
                  </option>
                ))}
              </SelectField>
            </div>
          ))}
        </div>
      );
    }
    case "ordering":
      return (
        <Ordering question={question} answer={answer as string[] | null} onAnswer={onAnswer} />
      );
    case "free text":
      return (
        <TextArea
          label="Answer"
          hideLabel
          rows={question.lines}
          value={(answer as string | null) ?? ""}
          maxLength={20_000}
          onChange={(event) => onAnswer(event.target.value)}
        />
      );
  }
}

function Ordering({
  question,
  answer,
  onAnswer,
}: {
  question: AskedQuestion;
  answer: string[] | null;
  onAnswer: (answer: Answer) => void;
}) {
  const [said, setSaid] = useState("");
  // Until something is moved nothing is answered: the order shown first is chance.
  const order = (answer ?? question.choices.map((c) => c.id)).flatMap(
    (id) => question.choices.find((c) => c.id === id) ?? [],
  );
  function move(n: number, by: number) {
    const ids = order.map((c) => c.id);
    const [id] = ids.splice(n, 1);
    ids.splice(n + by, 0, id!);
    onAnswer(ids);
    setSaid(`${order[n]!.text}: place ${n + by + 1}`);
  }
  return (
    <div>
      {answer === null ? (
        <p className="text-sm text-soft">Put these in order; as they stand it is chance.</p>
      ) : null}
      <ol className="mt-1 max-w-xl border-t border-line">
        {order.map((c, n) => (
          <li key={c.id} className="flex min-h-11 items-center gap-2 border-b border-line">
            <span className="w-6 text-soft">{n + 1}.</span>
            <span className="flex-1">{c.text}</span>
            <Button
              small
              className="min-w-11 max-sm:min-h-11"
              disabled={n === 0}
              aria-label={`${c.text} up`}
              onClick={() => move(n, -1)}
            >
              ↑
            </Button>
            <Button
              small
              className="min-w-11 max-sm:min-h-11"
              disabled={n === order.length - 1}
              aria-label={`${c.text} down`}
              onClick={() => move(n, 1)}
            >
              ↓
            </Button>
          </li>
        ))}
      </ol>
      {answer === null ? (
        <Button
          small
          className="mt-2 max-sm:min-h-11"
          onClick={() => onAnswer(order.map((c) => c.id))}
        >
          This order is my answer
        </Button>
      ) : null}
      <p className="sr-only" role="status">
        {said}
      </p>
    </div>
  );
}

/** When right and wrong are shown; nothing is said where that is when it is handed back. */
function sayShowing({ show, tries }: Pick<PartView, "show" | "tries">): string {
  if (show === "at hand-in") return " · right and wrong are shown when you hand in";
  if (show !== "at once") return "";
  const often = tries ? `, ${tries} ${tries === 1 ? "try" : "tries"} each` : "";
  return ` · each can be checked${often}`;
}
