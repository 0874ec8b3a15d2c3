"use client";

import Link from "next/link";
import type { SectionView } from "@/core/views/overviewViews";
import { Moon } from "../kit/Moon";
import { NotTheirs } from "../kit/NotTheirs";
import { Empty } from "../kit/Notice";

/** The moon board: students × current work at a glance. */
export function MoonBoard({ view }: { view: SectionView }) {
  if (view.roster.length === 0)
    return <Empty title="Nobody is on this roster yet">The office brings rosters in.</Empty>;
  return (
    <div className="overflow-x-auto [scroll-padding-inline-start:14rem] max-sm:[scroll-padding-inline-start:0]">
      <table className="sheet-table w-auto!">
        <caption className="sr-only">Students of {view.name} and where each piece is</caption>
        <thead>
          <tr>
            <th scope="col" className="label sticky left-0 bg-paper max-sm:static">
              student
            </th>
            {view.handOuts.map((handOut) => (
              <th key={handOut.id} scope="col" className="max-w-32 min-w-24 align-bottom">
                <Link
                  href={`/hand-outs/${handOut.id}`}
                  prefetch={false}
                  className="line-clamp-3 font-serif leading-tight text-ink"
                >
                  {handOut.title}
                </Link>
                <span className="block text-xs text-soft">due {handOut.due}</span>
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {view.roster.map((line) => (
            <tr key={line.studentId}>
              <th
                scope="row"
                className="sticky left-0 border-b max-sm:static border-line! bg-paper whitespace-nowrap"
              >
                <Link
                  href={`/students/${line.studentId}`}
                  prefetch={false}
                  className="text-ink no-underline hover:underline"
                >
                  {line.name}
                </Link>
              </th>
              {line.moons.map(({ pieceId, moon, takenOff = false }, n) => (
                <td key={view.handOuts[n]!.id} className={moon || takenOff ? undefined : "hatched"}>
                  {moon && !pieceId ? <Moon moon={moon} /> : null}
                  {moon && pieceId ? (
                    <Link
                      href={`/desk?pile=all&handOut=${view.handOuts[n]!.id}&piece=${pieceId}`}
                      prefetch={false}
                      className="inline-flex min-h-7 min-w-7 items-center"
                    >
                      <Moon moon={moon} />
                    </Link>
                  ) : null}
                  {moon ? null : <NotTheirs takenOff={takenOff} />}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

/** What the shapes mean, in words. */
export function MoonKey() {
  const moon = { round: 1, late: false, missing: false, excused: false };
  const entries = [
    { moon: { ...moon, state: "not_opened" as const }, words: "not opened" },
    { moon: { ...moon, state: "started" as const }, words: "started" },
    { moon: { ...moon, state: "handed_in" as const }, words: "handed in" },
    { moon: { ...moon, state: "handed_back" as const }, words: "handed back" },
    { moon: { ...moon, state: "to_revise" as const }, words: "back to revise" },
    { moon: { ...moon, state: "reworking" as const, round: 2 }, words: "reworking, round 2" },
    { moon: { ...moon, state: "handed_in" as const, late: true }, words: "a notch: late" },
    { moon: { ...moon, state: "not_opened" as const, excused: true }, words: "excused" },
  ];
  return (
    <ul
      className="mt-4 flex flex-wrap gap-x-5 gap-y-1 text-sm text-soft"
      aria-label="What the moons mean"
    >
      {entries.map((entry) => (
        <li key={entry.words} className="flex items-center gap-1.5">
          <Moon moon={entry.moon} named={false} size={20} /> {entry.words}
        </li>
      ))}
    </ul>
  );
}
