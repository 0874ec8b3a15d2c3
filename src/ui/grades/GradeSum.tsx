"use client";

import { useMemo, useState } from "react";
import { gradeOf, type GradeEntry, type GradeLine, type GradePart } from "@/core/grades/grade";
import { sayGrade } from "@/core/grades/sayGrade";
import { toDecimal } from "@/core/scores/decimal";
import { sayCount } from "@/core/text/sayCount";
import type { GradeSource } from "@/core/views/gradeViews";
import { Button } from "../kit/Button";
import { classes } from "../kit/classes";
import { sayRules } from "./sayRules";

/** What is tried: a score for a column, as typed. It is never stored. */
type Trials = ReadonlyMap<string, string>;

/** A grade opened into the sum that makes it, where one can try what other scores would do. */
export function GradeSum({ source }: { source: GradeSource }) {
  const [trials, setTrials] = useState<Trials>(new Map());
  const { rules, categories, columns, entries } = source;
  const real = useMemo(
    () => gradeOf(rules, categories, columns, entries),
    [rules, categories, columns, entries],
  );
  const tried = useMemo(
    () =>
      trials.size === 0 ? real : gradeOf(rules, categories, columns, withTrials(entries, trials)),
    [real, rules, categories, columns, entries, trials],
  );
  const change = (id: string, typed: string) =>
    setTrials((old) => {
      const next = new Map(old);
      if (typed.trim() === "") next.delete(id);
      else next.set(id, typed);
      return next;
    });
  const trying = trials.size > 0;
  const drafts = new Set(entries.filter((entry) => entry.draft).map((entry) => entry.columnId));
  return (
    <div>
      <p className="flex flex-wrap items-baseline gap-x-4 border-b-2 border-ink pb-1" role="status">
        <span className="font-serif text-3xl">{sayGrade(real)}</span>
        {trying ? (
          <>
            <span className="font-serif text-2xl text-plum">tried: {sayGrade(tried)}</span>
            <Button small onClick={() => setTrials(new Map())}>
              Forget what was tried
            </Button>
          </>
        ) : null}
      </p>
      {drafts.size > 0 ? (
        <p className="mt-2 text-sm text-soft">
          {sayCount(drafts.size, "draft is", "drafts are")} in it. The student’s own grade has none
          until they are handed back.
        </p>
      ) : null}
      <div className="overflow-x-auto">
        <table className="sheet-table text-sm!">
          <thead>
            <tr>
              <th scope="col">work</th>
              <th scope="col" className="text-right!">
                points
              </th>
              <th scope="col" className="text-right!">
                of
              </th>
              <th scope="col">in the sum</th>
              {source.frozen ? null : <th scope="col">what would … do?</th>}
            </tr>
          </thead>
          {tried.parts.map((part) => (
            <PartRows
              key={part.name}
              part={part}
              weightless={rules.way === "weights" && part.weight === "0"}
              trials={trials}
              drafts={drafts}
              onTry={source.frozen ? null : change}
            />
          ))}
        </table>
      </div>
      {tried.percent === null ? (
        <p className="mt-3 text-soft">Nothing counts yet.</p>
      ) : (
        <Sum grade={tried} source={source} />
      )}
      <details className="mt-4" open>
        <summary className="label cursor-pointer max-sm:leading-[2.75rem]">
          how it is worked out
        </summary>
        <ul className="mt-1 list-disc pl-5 text-sm text-soft">
          {sayRules(rules).map((line) => (
            <li key={line}>{line}</li>
          ))}
        </ul>
      </details>
    </div>
  );
}

const NUMBER = /^\d{1,4}([.,]\d{1,3})?$/;

function withTrials(entries: readonly GradeEntry[], trials: Trials): GradeEntry[] {
  return entries.map((entry) => {
    const typed = trials.get(entry.columnId)?.trim() ?? "";
    return NUMBER.test(typed)
      ? { columnId: entry.columnId, state: "scored", points: toDecimal(typed) }
      : entry;
  });
}

const TREATMENTS: Readonly<Record<GradeLine["treatment"], { words: string; ink: string }>> = {
  counts: { words: "counts", ink: "" },
  extra: { words: "+ extra credit", ink: "text-moss" },
  "as zero": { words: "○ missing: counts as 0", ink: "text-ember" },
  dropped: { words: "– dropped, that helps most", ink: "text-soft" },
  "left out": { words: "nothing yet, left out", ink: "text-soft" },
  excused: { words: "excused, left out", ink: "text-soft" },
  "does not count": { words: "does not count", ink: "text-soft" },
};

type RowsProps = {
  part: GradePart;
  /** By weights it has none, and brings nothing. */ weightless: boolean;
  trials: Trials;
  /** Columns with a draft in them. */ drafts: ReadonlySet<string>;
  /** Null: it is frozen, and nothing can be tried. */
  onTry: ((columnId: string, typed: string) => void) | null;
};

function PartRows({ part, weightless, trials, drafts, onTry }: RowsProps) {
  return (
    <tbody>
      <tr>
        <th
          scope="rowgroup"
          colSpan={5}
          className="border-t border-line-strong! pt-3! font-serif text-base!"
        >
          {part.name}
        </th>
      </tr>
      {part.lines.map((line) => (
        <LineRow
          key={line.columnId}
          line={line}
          draft={drafts.has(line.columnId)}
          typed={trials.get(line.columnId)}
          onTry={onTry}
        />
      ))}
      <tr className="font-semibold">
        <td>together</td>
        <td className="text-right">{part.earned}</td>
        <td className="text-right">{part.possible}</td>
        <td colSpan={2}>
          {part.percent === null ? "nothing counts yet" : `= ${part.percent} %`}
          {weightless ? ", without a weight: it brings nothing" : ""}
        </td>
      </tr>
    </tbody>
  );
}

function LineRow({
  line,
  draft,
  typed,
  onTry,
}: {
  line: GradeLine;
  draft: boolean;
  typed: string | undefined;
  onTry: RowsProps["onTry"];
}) {
  const { words, ink } = TREATMENTS[line.treatment];
  const struck = line.treatment === "dropped" ? "text-soft line-through" : undefined;
  return (
    <tr>
      <td className={struck}>{line.title}</td>
      <td className={classes("text-right", struck)}>{line.points ?? "–"}</td>
      <td className={classes("text-right", struck)}>{line.possible ?? "words only"}</td>
      <td className={ink}>{sayTreatment(words, draft)}</td>
      <td>
        {onTry && line.possible !== null && line.treatment !== "does not count" ? (
          <Trial {...{ line, typed, onTry }} />
        ) : null}
      </td>
    </tr>
  );
}

/** Where another score is tried. */
function Trial({
  line,
  typed,
  onTry,
}: {
  line: GradeLine;
  typed: string | undefined;
  onTry: NonNullable<RowsProps["onTry"]>;
}) {
  const wrong = typed !== undefined && !NUMBER.test(typed.trim());
  return (
    <>
      <input
        aria-label={`Try a score for ${line.title}, of ${line.possible}`}
        aria-invalid={wrong}
        inputMode="decimal"
        value={typed ?? ""}
        placeholder="try"
        onChange={(event) => onTry(line.columnId, event.target.value)}
        className={classes(
          "w-16 border bg-raised px-1 text-right max-sm:min-h-11",
          wrong ? "border-ember" : "border-line",
          typed !== undefined && !wrong && "border-plum text-plum",
        )}
      />
      {wrong ? <span className="ml-2 text-ember">▲ a number such as 7.5</span> : null}
    </>
  );
}

const sayTreatment = (words: string, draft: boolean): string =>
  draft ? `${words} · draft` : words;

/** The last lines: what each category brings, and what they add up to. */
function Sum({ grade, source }: { grade: ReturnType<typeof gradeOf>; source: GradeSource }) {
  const { rules } = source;
  const bringing = grade.parts.filter((part) => part.brings !== null);
  return (
    <div className="mt-4 max-w-xl">
      {rules.way === "weights" ? (
        <table className="sheet-table text-sm!">
          <caption className="label pb-1 text-left">the sum</caption>
          <tbody>
            {bringing.map((part) => (
              <tr key={part.name}>
                <td>{part.name}</td>
                <td className="text-soft">
                  {part.percent ?? "extra credit"} × {part.weight} ÷ {grade.ofWeight}
                </td>
                <td className="text-right tabular-nums">{part.brings}</td>
              </tr>
            ))}
            <tr className="font-semibold">
              <td>together</td>
              <td className="text-soft">rounded: {grade.percent}</td>
              <td className="text-right tabular-nums">{grade.unrounded}</td>
            </tr>
          </tbody>
        </table>
      ) : (
        <p className="text-sm">
          ({grade.parts.map((part) => part.earned).join(" + ")}) ÷ (
          {grade.parts.map((part) => part.possible).join(" + ")}) = {grade.unrounded} %, rounded:{" "}
          <strong>{grade.percent} %</strong>
        </p>
      )}
    </div>
  );
}
