"use client";

import Link from "next/link";
import { useEffect, useEffectEvent, useRef, useState } from "react";
import { contract } from "@/core/api/contract";
import { sayPick, stepsOf } from "@/core/rubrics/rubric";
import type { AcrossCriterion, AcrossLine } from "@/core/views/deskViews";
import { call, Problem, sayProblem } from "../../client";
import { Button } from "../../kit/Button";
import { Moon } from "../../kit/Moon";
import { Empty, Notice } from "../../kit/Notice";
import { Page } from "../../kit/Page";
import { classes } from "../../kit/classes";

/** Letters of a piece that are shown before "all of it". */
const SHORT = 700;

/** One criterion through all pieces in a row: the same question to each, with nothing else in the way. */
export function ByCriterion({ handOutId, across }: { handOutId: string; across: AcrossCriterion }) {
  const [lines, setLines] = useState(across.lines);
  const [problem, setProblem] = useState<string | null>(null);
  const rows = useRef<(HTMLElement | null)[]>([]);
  // Keys are taken at once, at the first piece that has no level yet.
  const begin = useEffectEvent(() => {
    const first = lines.findIndex((line) => !line.picks[across.criterionId] && !line.locked);
    rows.current[Math.max(0, first)]?.focus({ preventScroll: first <= 0 });
  });
  useEffect(() => begin(), []);
  const { rubric } = across.rubric;
  const criterion = rubric.criteria.find((c) => c.id === across.criterionId)!;
  const steps = stepsOf(criterion, rubric.halves ?? false);
  const chosen = lines.filter((l) => l.picks[criterion.id]).length;
  const counts = steps.map((step) => lines.filter((l) => same(l, criterion.id, step)).length);

  async function choose(line: AcrossLine, step: { levelId: string; points: string } | null) {
    if (line.locked) return;
    const pick =
      step && same(line, criterion.id, step)
        ? null
        : step && { levelId: step.levelId, points: step.points };
    const { [criterion.id]: _, ...others } = line.picks;
    setLines((old) =>
      old.map((l) =>
        l.pieceId === line.pieceId
          ? { ...l, picks: pick ? { ...others, [criterion.id]: pick } : others }
          : l,
      ),
    );
    try {
      const kept = await call(contract.choosePick, {
        params: { pieceId: line.pieceId },
        body: { criterionId: criterion.id, pick },
        revision: line.revision,
      });
      setLines((old) =>
        old.map((l) =>
          l.pieceId === line.pieceId ? { ...l, picks: kept.picks, revision: kept.revision } : l,
        ),
      );
      setProblem(null);
    } catch (error) {
      const theirs =
        error instanceof Problem && error.status === 412
          ? (error.theirs as { picks: AcrossLine["picks"]; revision: number })
          : null;
      setLines((old) =>
        old.map((l) => (l.pieceId === line.pieceId ? { ...line, ...(theirs ?? {}) } : l)),
      );
      setProblem(`${line.student}: ${sayProblem(error)}`);
    }
  }

  function keys(event: React.KeyboardEvent, n: number) {
    const line = lines[n]!;
    const whole = steps.filter((s) => !s.half);
    const now = steps.findIndex((s) => same(line, criterion.id, s));
    const focus = (to: number) =>
      rows.current[Math.min(lines.length - 1, Math.max(0, to))]?.focus();
    const digit = /^[1-9]$/.test(event.key) ? whole[Number(event.key) - 1] : undefined;
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    if (digit) {
      if (!same(line, criterion.id, digit)) void choose(line, digit);
      focus(n + 1);
    } else if (event.key === "ArrowDown" || event.key === "n") focus(n + 1);
    else if (event.key === "ArrowUp" || event.key === "p") focus(n - 1);
    else if (event.key === "ArrowRight")
      void (now < steps.length - 1 && choose(line, steps[now + 1]!));
    else if (event.key === "ArrowLeft") void (now > 0 && choose(line, steps[now - 1]!));
    else if (event.key === "Backspace") void (now !== -1 && choose(line, steps[now]!));
    else return;
    event.preventDefault();
  }

  return (
    <Page width="table" title={`${criterion.name}: ${across.handOut}`}>
      <p className="text-sm">
        <Link href={`/desk?handOut=${handOutId}&pile=all`}>← the Desk</Link>
      </p>
      <h1 className="mt-1">{criterion.name}</h1>
      <p className="text-soft">
        <em className="font-serif">{across.handOut}</em> · {across.section} · {chosen} of{" "}
        {lines.length} chosen · keys: 1 to {criterion.levels.length} choose and go on, ↑ ↓ between
        pieces, ← → half a step
      </p>
      <nav aria-label="Criteria" className="mt-3 flex flex-wrap gap-1 border-b border-line pb-2">
        {rubric.criteria.map((c) => (
          <Link
            key={c.id}
            href={`/desk/criterion?handOut=${handOutId}&criterion=${c.id}`}
            aria-current={c.id === criterion.id ? "page" : undefined}
            className={classes(
              "border px-2 py-1 text-sm no-underline",
              c.id === criterion.id
                ? "border-tide bg-tide-wash font-semibold text-ink"
                : "border-line-strong",
            )}
          >
            {c.name}
          </Link>
        ))}
      </nav>
      {criterion.note ? <p className="mt-3 font-serif">{criterion.note}</p> : null}
      <dl className="mt-3 grid gap-x-6 text-sm sm:grid-cols-2 lg:grid-cols-4">
        {steps.map((step, n) => (
          <div
            key={`${step.levelId} ${step.points}`}
            className={step.half ? "hidden" : "border-l border-line-strong pl-2"}
          >
            <dt className="font-semibold">
              {step.name}{" "}
              <span className="font-normal text-soft">
                {step.points} · {counts[n]} {counts[n] === 1 ? "piece" : "pieces"}
              </span>
            </dt>
            <dd className="text-soft">
              {criterion.levels.find((l) => l.id === step.levelId)?.descriptor}
            </dd>
          </div>
        ))}
      </dl>
      {problem ? (
        <Notice
          ink="ember"
          className="mt-3"
          acts={
            <Button small onClick={() => setProblem(null)}>
              Close
            </Button>
          }
        >
          {problem}
        </Notice>
      ) : null}
      {lines.length === 0 ? (
        <Empty title="Nothing is in yet">Pieces come here as they are handed in.</Empty>
      ) : null}
      <ol className="mt-4">
        {lines.map((line, n) => {
          const pick = line.picks[criterion.id];
          return (
            <li key={line.pieceId}>
              <section
                ref={(element) => {
                  rows.current[n] = element;
                }}
                tabIndex={0}
                data-arrows
                aria-label={`${line.student}: ${pick ? sayPick(criterion, pick) : "nothing chosen"}`}
                onKeyDown={(event) => keys(event, n)}
                className={classes(
                  "grid gap-x-8 gap-y-2 border-t border-line py-4 outline-offset-4 lg:grid-cols-[minmax(0,1fr)_16rem]",
                  pick && "bg-sunk/50",
                )}
              >
                <div className="min-w-0">
                  <p className="flex items-baseline gap-2">
                    <Moon moon={line.moon} size={18} named={false} />
                    <span className="font-semibold">{line.student}</span>
                    <Link
                      href={`/desk?handOut=${handOutId}&pile=all&piece=${line.pieceId}`}
                      className="text-sm"
                    >
                      on the Desk
                    </Link>
                  </p>
                  <Words line={line} />
                </div>
                <div>
                  <div
                    role="group"
                    aria-label={`Levels for ${line.student}`}
                    className="flex flex-wrap gap-1"
                  >
                    {steps.map((step) => {
                      const here = same(line, criterion.id, step);
                      return (
                        <button
                          key={`${step.levelId} ${step.points}`}
                          type="button"
                          tabIndex={-1}
                          disabled={line.locked !== null}
                          aria-pressed={here}
                          aria-label={step.half ? `${step.name}, ${step.points}` : undefined}
                          onClick={() => void choose(line, step)}
                          className={classes(
                            "min-h-8 cursor-pointer border text-sm disabled:cursor-default disabled:opacity-60",
                            step.half ? "px-1" : "px-2",
                            here
                              ? "border-tide bg-tide-wash font-semibold"
                              : "border-line-strong bg-raised",
                          )}
                        >
                          {here ? "✓ " : ""}
                          {step.half ? "½" : step.name}
                        </button>
                      );
                    })}
                  </div>
                  {line.locked ? <p className="mt-1 text-sm text-soft">{line.locked}</p> : null}
                  {line.passages.map((p, k) => (
                    <p key={k} className="mt-2 border-l-2 border-tide pl-2 text-sm">
                      {p.body}
                    </p>
                  ))}
                </div>
              </section>
            </li>
          );
        })}
      </ol>
    </Page>
  );
}

const same = (
  line: AcrossLine,
  criterionId: string,
  step: { levelId: string; points: string },
): boolean =>
  line.picks[criterionId]?.levelId === step.levelId &&
  line.picks[criterionId]?.points === step.points;

/** The words that matter: passages that marks about the criterion stand on, else the beginning; all of it on request. */
function Words({ line }: { line: AcrossLine }) {
  const [whole, setWhole] = useState(false);
  const long = line.text.length > SHORT;
  const pieces =
    whole || line.passages.length === 0
      ? []
      : line.passages.map((p) => ({
          ...p,
          from: Math.max(0, line.text.lastIndexOf("\n", p.start) + 1),
          to:
            line.text.indexOf("\n", p.end) === -1
              ? line.text.length
              : line.text.indexOf("\n", p.end),
        }));
  return (
    <div className="mt-1 font-serif leading-relaxed">
      {pieces.length > 0 ? (
        pieces.map((p, n) => (
          <p key={n} className="my-1">
            … {line.text.slice(p.from, p.start)}
            <mark className="on-words on-note">{line.text.slice(p.start, p.end)}</mark>
            {line.text.slice(p.end, p.to)} …
          </p>
        ))
      ) : (
        <p className="whitespace-pre-wrap">
          {whole || !long
            ? line.text || "(no words: see its files on the Desk)"
            : `${line.text.slice(0, line.text.lastIndexOf(" ", SHORT))} …`}
        </p>
      )}
      {long || pieces.length > 0 ? (
        <Button small ink="quiet" className="-ml-2" onClick={() => setWhole((on) => !on)}>
          {whole ? "Less" : "All of it"}
        </Button>
      ) : null}
    </div>
  );
}
