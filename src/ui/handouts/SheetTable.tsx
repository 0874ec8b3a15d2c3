"use client";

import { fold } from "@/core/text/finding";
import { isNothingIn } from "@/core/pieces/life";
import { sayCount } from "@/core/text/sayCount";
import Link from "next/link";
import { useState } from "react";
import type { HandOutSheet, SheetLine } from "@/core/views/overviewViews";
import { FlagSign } from "../kit/FlagSign";
import { Moon } from "../kit/Moon";
import { TextField } from "../kit/Field";
import { classes } from "../kit/classes";
import { useChoosing } from "../kit/useChoosing";
import { SheetChosen } from "./SheetChosen";
import { StudentDialog } from "./StudentActs";

type Filter = { name: string; test: (line: SheetLine) => boolean };
const FILTERS: Filter[] = [
  { name: "all", test: () => true },
  {
    name: "not in",
    test: ({ moon, excused }) => isNothingIn(moon.state) && !excused,
  },
  { name: "in", test: (line) => line.moon.state === "handed_in" },
  {
    name: "in again",
    test: ({ moon }) => moon.state === "handed_in" && moon.round > 1,
  },
  { name: "late", test: (line) => line.moon.late },
  { name: "missing", test: (line) => line.moon.missing },
  { name: "drafted", test: (line) => line.drafted },
  {
    name: "out for revision",
    test: (line) => line.moon.state === "to_revise" || line.moon.state === "reworking",
  },
  { name: "handed back", test: (line) => line.moon.state === "handed_back" },
  { name: "not read yet", test: (line) => line.unread },
  { name: "flagged", test: (line) => line.flag !== null || line.excused },
  { name: "open requests", test: (line) => line.openRequests > 0 },
];

/** One line per student, with what can be asked of it: filters with their counts, and a search. */
export function SheetTable({ sheet }: { sheet: HandOutSheet }) {
  const { id: handOutId, lines } = sheet;
  const [setting, setSetting] = useState<SheetLine | null>(null);
  const [filter, setFilter] = useState(FILTERS[0]!);
  const [search, setSearch] = useState("");
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const choose = (ids: readonly string[], on: boolean) =>
    setChosen((old) => new Set([...old].filter((id) => !ids.includes(id)).concat(on ? ids : [])));
  const shown = lines.filter(
    (line) => filter.test(line) && fold(line.student).includes(fold(search)),
  );
  const ids = shown.map((line) => line.pieceId);
  const press = useChoosing(ids, chosen, choose);
  const all = ids.length > 0 && ids.every((id) => chosen.has(id));
  return (
    <>
      <div className="no-print mb-3 flex flex-wrap items-end gap-x-4 gap-y-2">
        <div className="flex flex-wrap" role="group" aria-label="Show">
          {FILTERS.map((entry) => {
            const count = lines.filter(entry.test).length;
            return (
              <button
                key={entry.name}
                type="button"
                aria-pressed={entry === filter}
                onClick={() => setFilter(entry)}
                className={classes(
                  "min-h-9 cursor-pointer border-b-2 px-1.5 text-sm whitespace-nowrap",
                  entry === filter
                    ? "border-tide font-semibold"
                    : "border-transparent text-soft hover:text-ink",
                )}
              >
                {entry.name} {count}
              </button>
            );
          })}
        </div>
        <div className="ml-auto w-44">
          <TextField
            label="Find a student"
            hideLabel
            placeholder="Find a student"
            value={search}
            onChange={(event) => setSearch(event.target.value)}
          />
        </div>
      </div>
      {sheet.lines.some((line) => !line.onDesk) ? (
        <p className="my-2 text-sm text-soft">
          Names are hidden on the Desk. Of what is read without its name this sheet says only
          whether it is in, and no name leads there.
        </p>
      ) : null}
      <SheetChosen sheet={sheet} chosen={lines.filter((line) => chosen.has(line.pieceId))} />
      <div className="overflow-x-auto">
        <table className="sheet-table">
          <thead>
            <tr className="label">
              <th scope="col" className="no-print">
                <input
                  type="checkbox"
                  className="size-5 accent-tide"
                  aria-label="All that are shown"
                  checked={all}
                  onChange={() => choose(ids, !all)}
                />
              </th>
              <th scope="col">student</th>
              <th scope="col">where it is</th>
              <th scope="col">handed in</th>
              <th scope="col">lateness</th>
              <th scope="col">requests</th>
              <th scope="col">score</th>
              <th scope="col">feedback</th>
              {sheet.mayChange ? <th scope="col">for them</th> : null}
            </tr>
          </thead>
          <tbody>
            {shown.map((line) => (
              <tr key={line.pieceId}>
                <td className="no-print">
                  <input
                    type="checkbox"
                    className="size-5 accent-tide"
                    aria-label={`Choose ${line.student}`}
                    checked={chosen.has(line.pieceId)}
                    onClick={(event) => press(line.pieceId, event.shiftKey)}
                    onChange={() => undefined}
                  />
                </td>
                <th scope="row" className="border-b border-line! font-normal">
                  {line.onDesk ? (
                    <Link
                      href={`/desk?pile=all&handOut=${handOutId}&piece=${line.pieceId}`}
                      prefetch={false}
                    >
                      {line.student}
                    </Link>
                  ) : (
                    line.student
                  )}
                </th>
                <td>
                  <span className="flex items-center gap-2 whitespace-nowrap">
                    <Moon moon={line.moon} named={false} />{" "}
                    {line.flag ? <FlagSign flag={line.flag} /> : null}
                    {line.flag ? <span className="sr-only">{line.flag}</span> : null}
                    {line.left ? `${line.state}, left the section` : line.state}
                    {line.checkpoints > 0 ? (
                      <span className="text-soft">
                        {" "}
                        · {sayCount(line.checkpoints, "checkpoint")}
                      </span>
                    ) : null}
                  </span>
                </td>
                <td className="whitespace-nowrap">{line.handedIn ?? "–"}</td>
                <td className="text-ember">{line.lateness ? `◥ ${line.lateness}` : ""}</td>
                <td>
                  {line.openRequests > 0 ? (
                    <span className="text-ember">{line.openRequests} open </span>
                  ) : null}
                  {line.settledRequests > 0 ? (
                    <span className="text-moss">{line.settledRequests} settled</span>
                  ) : null}
                </td>
                <td className="whitespace-nowrap">{line.score ?? ""}</td>
                <td className="min-w-40 text-sm text-soft">{line.feedback}</td>
                {sheet.mayChange ? (
                  <td className="text-sm">
                    <button
                      type="button"
                      aria-label={`What is other for ${line.student}`}
                      onClick={() => setSetting(line)}
                      className={classes(
                        "min-h-7 cursor-pointer text-left text-tide underline underline-offset-2",
                        sayOther(line) && "on-paper",
                      )}
                    >
                      {sayOther(line) || "set"}
                    </button>
                  </td>
                ) : null}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {setting ? (
        <StudentDialog line={setting} sheet={sheet} onClose={() => setSetting(null)} />
      ) : null}
      {shown.length === 0 ? <p className="py-6 text-center text-soft">Nobody here fits.</p> : null}
    </>
  );
}

/** What is other for a student than for the class; "" where nothing is. */
function sayOther({ ownDue, excused, version }: SheetLine): string {
  const due = ownDue ? `due ${ownDue.words}${ownDue.from === "group" ? " (group)" : ""}` : "";
  return [due, excused ? "excused" : "", version ?? ""].filter(Boolean).join(" · ");
}
