"use client";

import Link from "next/link";
import type { LedgerGrade, LedgerView, LedgerWithGrades } from "@/core/views/overviewViews";
import { sayState } from "@/core/views/states";
import { Moon } from "../kit/Moon";
import { NotTheirs } from "../kit/NotTheirs";
import { Empty } from "../kit/Notice";

/** Students down, hand-outs across in the order of their due times; a cell is the score with its lateness. */
export function Ledger({ view }: { view: LedgerWithGrades }) {
  if (view.columns.length === 0)
    return <Empty title="Nothing has been handed out to this section yet" />;
  return (
    <div className="overflow-x-auto">
      <table className="sheet-table w-auto! text-sm!">
        <caption className="sr-only">Scores of {view.section.name}</caption>
        <thead>
          <tr>
            <th scope="col" className="label sticky left-0 z-10 bg-paper">
              student
            </th>
            <th scope="col" className="label min-w-20">
              grade
              {view.term ? (
                <span className="block text-xs normal-case">{view.term} term</span>
              ) : null}
            </th>
            {view.columns.map((column) => (
              <th key={column.handOutId} scope="col" className="max-w-32 min-w-28">
                <Link
                  href={`/hand-outs/${column.handOutId}`}
                  prefetch={false}
                  className="line-clamp-2 font-serif leading-tight text-ink"
                >
                  {column.title}
                </Link>
                <span className="block text-xs text-soft">
                  due {column.due}
                  <br />
                  {column.possible ? `of ${column.possible}` : "words only"}
                  {column.about ? ` · ${column.about}` : ""}
                </span>
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {view.rows.map((row) => (
            <tr key={row.studentId}>
              <th
                scope="row"
                className="sticky left-0 z-10 border-b border-line! bg-paper whitespace-nowrap"
              >
                {row.student}
              </th>
              <td className="whitespace-nowrap">
                <Link
                  href={`/ledger/${view.section.id}/grades/${row.studentId}`}
                  prefetch={false}
                  className="font-serif text-base text-ink no-underline hover:underline"
                  aria-label={`${row.student}: the grade and its sum, ${sayGrade(view.grades[row.studentId])}`}
                >
                  {sayGrade(view.grades[row.studentId])}
                </Link>
              </td>
              {row.cells.map((cell, n) => (
                <td
                  key={view.columns[n]!.handOutId}
                  className={cell || row.takenOff[n] ? undefined : "hatched"}
                >
                  {cell ? (
                    <LedgerCell
                      cell={cell}
                      href={
                        cell.pieceId
                          ? `/desk?pile=all&handOut=${view.columns[n]!.handOutId}&piece=${cell.pieceId}`
                          : null
                      }
                      words={`${row.student}, ${view.columns[n]!.title}: ${cell.score ? `${cell.score}, ` : ""}${sayState(cell.moon)}`}
                    />
                  ) : (
                    <NotTheirs takenOff={row.takenOff[n] ?? false} />
                  )}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

function sayGrade(grade: LedgerGrade | undefined): string {
  if (!grade?.percent) return "none yet";
  return grade.name ? `${grade.name} ${grade.percent}` : grade.percent;
}

type Cell = NonNullable<LedgerView["rows"][number]["cells"][number]>;
const CELL = "flex min-h-7 items-center gap-2 text-ink no-underline";

/** One piece: a way to the Desk, or (while it is read without its name) what it is alone. */
function LedgerCell({ cell, href, words }: { cell: Cell; href: string | null; words: string }) {
  const { moon, score } = cell;
  const inside = (
    <>
      <Moon moon={moon} size={17} named={false} />
      <span className="min-w-8 text-right">{score ?? ""}</span>
      {moon.late || moon.missing ? (
        <span className="text-xs text-ember">{moon.late ? "late" : "missing"}</span>
      ) : null}
    </>
  );
  if (href)
    return (
      <Link href={href} prefetch={false} className={`${CELL} hover:underline`} aria-label={words}>
        {inside}
      </Link>
    );
  return (
    <span className={CELL} role="img" aria-label={words}>
      {inside}
    </span>
  );
}
