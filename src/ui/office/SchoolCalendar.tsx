"use client";

import { useState } from "react";
import { contract } from "@/core/api/contract";
import type { SchoolCalendarView } from "@/core/views/handOutViews";
import { call } from "../client";
import { Button } from "../kit/Button";
import { CheckField, TextField } from "../kit/Field";
import { Notice } from "../kit/Notice";
import { sayDate, WEEKDAYS } from "../time";
import { useAct } from "../useAct";
import { WhenField } from "../kit/WhenField";
import { ClosureImport } from "./ClosureImport";

/** When the school meets: weekdays, terms, and the days on which it does not. */
export function SchoolCalendar({ view }: { view: SchoolCalendarView }) {
  const { act, busy, problem } = useAct();
  const [meetsOn, setMeetsOn] = useState(view.meetsOn);
  const [dayEnds, setDayEnds] = useState(view.dayEnds);
  const changed = dayEnds !== view.dayEnds || meetsOn.join() !== view.meetsOn.join();
  return (
    <div className="grid gap-10">
      <section aria-labelledby="week">
        <h2 id="week">The week</h2>
        {problem ? <Notice ink="ember">{problem}</Notice> : null}
        <div className="mt-2 flex flex-wrap items-end gap-x-5 gap-y-2">
          {WEEKDAYS.map((name, n) => (
            <CheckField
              key={name}
              label={name}
              checked={meetsOn.includes(n + 1)}
              onChange={() =>
                setMeetsOn((old) =>
                  old.includes(n + 1) ? old.filter((d) => d !== n + 1) : [...old, n + 1].sort(),
                )
              }
            />
          ))}
        </div>
        <div className="mt-3 flex items-end gap-3">
          <div className="w-40">
            <WhenField
              label="The school day ends"
              kind="time"
              value={dayEnds}
              onChange={(typed) => setDayEnds(typed)}
            />
          </div>
          <Button
            disabled={busy || !changed}
            onClick={() =>
              void act(() => call(contract.setSchoolDays, { body: { meetsOn, dayEnds } }))
            }
          >
            {changed ? "Keep" : "Kept"}
          </Button>
        </div>
      </section>
      <Days
        title="Terms"
        what="term"
        rows={view.terms.map((t) => ({
          ...t,
          note: [t.used ? `${t.used} courses` : "", t.imported ? "from the records" : ""]
            .filter(Boolean)
            .join(", "),
          deletable: t.used === 0,
        }))}
        add={contract.addTerm}
        change={contract.changeTerm}
        remove={contract.deleteTerm}
        param="termId"
      />
      <Days
        title="Holidays and closures"
        what="closure"
        rows={view.closures.map((c) => ({
          ...c,
          note: c.source ? `from ${c.source}` : "",
          deletable: true,
        }))}
        add={contract.addClosure}
        change={contract.changeClosure}
        remove={contract.deleteClosure}
        param="closureId"
      />
      <ClosureImport />
    </div>
  );
}

type Row = {
  id: string;
  name: string;
  startsOn: string;
  endsOn: string;
  note: string;
  deletable: boolean;
};
type DaysProps = {
  title: string;
  what: string;
  rows: Row[];
  add: typeof contract.addTerm | typeof contract.addClosure;
  change: typeof contract.changeTerm | typeof contract.changeClosure;
  remove: typeof contract.deleteTerm | typeof contract.deleteClosure;
  param: "termId" | "closureId";
};
const NEW = { id: "", name: "", startsOn: "", endsOn: "" };

/** A list of named stretches of days that can be added to, changed and taken from. */
function Days({ title, what, rows, add, change, remove, param }: DaysProps) {
  const { act, busy, problem, fields } = useAct();
  const [editing, setEditing] = useState<typeof NEW>(NEW);
  const { id, ...body } = { ...editing, endsOn: editing.endsOn || editing.startsOn };
  return (
    <section aria-label={title}>
      <h2>{title}</h2>
      <ul className="mt-1 max-h-96 overflow-y-auto">
        {rows.map((row) => (
          <li
            key={row.id}
            className="flex flex-wrap items-baseline gap-x-4 border-t border-line py-1.5"
          >
            <span className="w-56 text-sm">
              {sayDate(row.startsOn)}
              {row.endsOn === row.startsOn ? "" : ` to ${sayDate(row.endsOn)}`}
            </span>
            <span className="flex-1">
              {row.name} <span className="text-sm text-soft">{row.note}</span>
            </span>
            <Button
              small
              ink="quiet"
              aria-label={`Change ${row.name}`}
              onClick={() =>
                setEditing({
                  id: row.id,
                  name: row.name,
                  startsOn: row.startsOn,
                  endsOn: row.endsOn,
                })
              }
            >
              Change
            </Button>
            {row.deletable ? (
              <Button
                small
                ink="quiet"
                disabled={busy}
                aria-label={`Delete ${row.name}`}
                onClick={() =>
                  void act(() =>
                    call(remove as typeof contract.deleteTerm, { params: { [param]: row.id } }),
                  )
                }
              >
                Delete
              </Button>
            ) : null}
          </li>
        ))}
      </ul>
      {rows.length === 0 ? <p className="text-soft">None yet.</p> : null}
      <form
        className="mt-3 flex flex-wrap items-start gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          void act(() =>
            id
              ? call(change as typeof contract.changeTerm, { params: { [param]: id }, body })
              : call(add as typeof contract.addTerm, { body }),
          ).then((done) => done && setEditing(NEW));
        }}
      >
        <div className="w-56">
          <TextField
            label={id ? `Change this ${what}` : `New ${what}`}
            value={editing.name}
            onChange={(event) => setEditing({ ...editing, name: event.target.value })}
            error={fields.name}
          />
        </div>
        <div className="w-44">
          <WhenField
            label="first day"
            kind="date"
            value={editing.startsOn}
            onChange={(typed) => setEditing({ ...editing, startsOn: typed })}
            error={fields.startsOn}
          />
        </div>
        <div className="w-44">
          <WhenField
            label="last day"
            kind="date"
            value={editing.endsOn}
            onChange={(typed) => setEditing({ ...editing, endsOn: typed })}
            error={fields.endsOn}
          />
        </div>
        <div className="flex gap-2 pt-6">
          <Button type="submit" disabled={busy || !editing.name || !editing.startsOn}>
            {id ? "Keep" : "Add"}
          </Button>
          {id ? <Button onClick={() => setEditing(NEW)}>Not now</Button> : null}
        </div>
      </form>
      {problem && Object.keys(fields).length === 0 ? (
        <p role="alert" className="text-sm text-ember">
          ▲ {problem}
        </p>
      ) : null}
    </section>
  );
}
