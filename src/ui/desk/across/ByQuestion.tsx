"use client";

import Link from "next/link";
import { useState } from "react";
import { contract } from "@/core/api/contract";
import type { AcrossQuestions, QuestionGroups, Touched } from "@/core/views/deskViews";
import { call, sayProblem } from "../../client";
import { Button } from "../../kit/Button";
import { Notice } from "../../kit/Notice";
import { Page } from "../../kit/Page";
import { classes } from "../../kit/classes";

type Group = QuestionGroups["groups"][number];

const STATES: Record<Group["state"], { sign: string; words: string; ink: string }> = {
  right: { sign: "✓", words: "right by the key", ink: "text-moss" },
  partly: { sign: "◐", words: "partly right by the key", ink: "text-ember" },
  wrong: { sign: "✗", words: "wrong by the key", ink: "text-ember" },
  "nothing given": { sign: "–", words: "no answer", ink: "text-soft" },
  "for the teacher": { sign: "…", words: "for you to read", ink: "text-tide" },
};

/** One question after the other through all pieces: alike answers stand together, and one judgement serves them all. */
export function ByQuestion({ handOutId, first }: { handOutId: string; first: AcrossQuestions }) {
  const [across, setAcross] = useState(first);
  const [touched, setTouched] = useState<Touched | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const [at, setAt] = useState(0);
  const question = across.questions[Math.min(at, across.questions.length - 1)]!;

  async function attempt(work: () => Promise<{ touched: Touched; questions: AcrossQuestions }>) {
    try {
      const answer = await work();
      setAcross(answer.questions);
      setTouched(answer.touched);
      setProblem(null);
    } catch (error) {
      setProblem(sayProblem(error));
    }
  }
  const base = { partId: question.partId, questionId: question.questionId };
  const judgeAll = (group: Group, points: string | null) =>
    attempt(() =>
      call(contract.judgeAll, { params: { handOutId }, body: { ...base, key: group.key, points } }),
    );
  const judgeOne = (pieceId: string, alone: boolean, points: string | null) =>
    attempt(() =>
      call(contract.judgeOne, { params: { pieceId }, body: { ...base, alone, points } }),
    );

  return (
    <Page width="table" title={`Question ${question.number}: ${across.handOut}`}>
      <p className="text-sm">
        <Link href={`/desk?handOut=${handOutId}&pile=all`}>← the Desk</Link>
      </p>
      <h1 className="mt-1">
        {question.number}. {question.text}
      </h1>
      <p className="text-soft">
        <em className="font-serif">{across.handOut}</em> · {across.section} · {question.kind} ·{" "}
        {question.possible} {question.possible === "1" ? "point" : "points"}
        {question.key ? (
          <>
            {" "}
            · key: <strong className="text-ink">{question.key}</strong>
          </>
        ) : null}
      </p>
      <nav aria-label="Questions" className="mt-3 flex flex-wrap gap-1 border-b border-line pb-2">
        {across.questions.map((q, n) => (
          <button
            key={q.partId + q.questionId}
            type="button"
            aria-current={n === at ? "true" : undefined}
            onClick={() => {
              setAt(n);
              setTouched(null);
            }}
            className={classes(
              "min-h-8 min-w-8 cursor-pointer border px-2 text-sm",
              n === at ? "border-tide bg-tide-wash font-semibold" : "border-line-strong bg-raised",
            )}
          >
            {q.number}
            {q.groups.some((g) => g.state === "for the teacher" && g.points === null) ? " …" : ""}
          </button>
        ))}
      </nav>
      {problem ? (
        <Notice ink="ember" className="mt-3">
          {problem} Nothing was changed.
        </Notice>
      ) : null}
      {touched ? <TouchedList touched={touched} /> : null}
      <ol className="mt-3">
        {question.groups.map((group) => (
          <GroupRow
            key={group.key}
            group={group}
            possible={question.possible}
            onAll={(points) => void judgeAll(group, points)}
            onOne={(pieceId, alone, points) => void judgeOne(pieceId, alone, points)}
          />
        ))}
      </ol>
    </Page>
  );
}

function GroupRow({
  group,
  possible,
  onAll,
  onOne,
}: {
  group: Group;
  possible: string;
  onAll: (points: string | null) => void;
  onOne: (pieceId: string, alone: boolean, points: string | null) => void;
}) {
  const [points, setPoints] = useState("");
  const { sign, words, ink } = STATES[group.state];
  const half = String(Number(possible) / 2);
  return (
    <li className="border-t border-line py-3">
      <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
        <p className="min-w-0 flex-1 font-serif text-lg break-words">
          {group.shown}
          {group.also.length > 0 ? (
            <span className="ml-3 font-sans text-sm text-soft">
              also: {group.also.slice(0, 4).join(" · ")}
            </span>
          ) : null}
        </p>
        <p className={classes("text-sm", ink)}>
          {sign} {words}
        </p>
        <p className="text-sm">
          <strong>{group.points ?? group.keyPoints ?? "?"}</strong>/{possible}
          {group.points !== null ? <span className="text-tide"> · your judgement</span> : null}
        </p>
      </div>
      <div className="mt-1 flex flex-wrap items-center gap-2 text-sm">
        <span className="label">
          {group.given.length} {group.given.length === 1 ? "student" : "students"}
        </span>
        {group.state === "nothing given" ? null : (
          <>
            <Button
              small
              onClick={() => onAll(possible)}
              aria-label={`Accept “${group.shown}”: ${possible} points for all`}
            >
              Accept for all
            </Button>
            <Button
              small
              onClick={() => onAll(half)}
              aria-label={`Half the points for “${group.shown}”`}
            >
              Half
            </Button>
            <Button small onClick={() => onAll("0")} aria-label={`No points for “${group.shown}”`}>
              None
            </Button>
            <form
              className="flex gap-1"
              onSubmit={(event) => {
                event.preventDefault();
                if (/^\d{1,4}(\.\d{1,3})?$/.test(points)) onAll(points);
              }}
            >
              <input
                aria-label={`Points for “${group.shown}”`}
                value={points}
                onChange={(event) =>
                  setPoints(event.target.value.replace(",", ".").replace(/[^\d.]/g, ""))
                }
                placeholder="points"
                className="min-h-7 w-16 border border-line-strong bg-raised px-1"
              />
            </form>
            {group.points !== null ? (
              <Button small ink="quiet" onClick={() => onAll(null)}>
                As the key says
              </Button>
            ) : null}
          </>
        )}
      </div>
      <ul className="mt-1 flex flex-wrap gap-x-4 gap-y-1 text-sm">
        {group.given.map((g) => (
          <li key={g.pieceId} className="flex items-baseline gap-1">
            <span>
              {g.student}
              {g.excepted ? (
                <span className="text-plum">
                  {" "}
                  ({g.own === null ? "by the key" : `${g.own} for this one`})
                </span>
              ) : null}
            </span>
            {group.points !== null || g.excepted ? (
              <button
                type="button"
                className="cursor-pointer text-tide underline underline-offset-4"
                onClick={() => onOne(g.pieceId, !g.excepted, null)}
                aria-label={
                  g.excepted
                    ? `${g.student}: as for all again`
                    : `${g.student}: take the judgement back for this one`
                }
              >
                {g.excepted ? "as for all" : "not this one"}
              </button>
            ) : null}
          </li>
        ))}
      </ul>
    </li>
  );
}

const FOLLOWED: Record<Touched[number]["score"], string> = {
  followed: "the score followed",
  "looks different": "the score stays: look at it",
  none: "",
};

function TouchedList({ touched }: { touched: Touched }) {
  return (
    <Notice ink="moss" className="mt-3">
      {touched.length === 0
        ? "Nobody’s points changed."
        : `${touched.length} ${touched.length === 1 ? "student’s points" : "students’ points"} changed: `}
      {touched.map((t, n) => (
        <span key={t.pieceId}>
          {n > 0 ? "; " : ""}
          {t.student} {t.before} → {t.after}
          {FOLLOWED[t.score] ? ` (${FOLLOWED[t.score]})` : ""}
        </span>
      ))}
    </Notice>
  );
}
