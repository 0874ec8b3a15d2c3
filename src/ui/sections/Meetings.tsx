"use client";

import { useState } from "react";
import { contract } from "@/core/api/contract";
import type { SectionSetUp } from "@/core/views/handOutViews";
import { call } from "../client";
import { Button } from "../kit/Button";
import { WEEKDAYS } from "../time";
import { WhenField } from "../kit/WhenField";
import { useAct } from "../useAct";

type Line = { weekday: number; starts: string; ends: string };

/** Lessons by weekday: due times, "the next lesson" and copies to other sections follow from them. */
export function Meetings({ view }: { view: SectionSetUp }) {
  const { act, busy, problem, fields } = useAct();
  const [lines, setLines] = useState<Line[]>(
    view.meetings.map(({ weekday, starts, ends }) => ({ weekday, starts, ends })),
  );
  const [saved, setSaved] = useState(true);
  const set = (n: number, part: Partial<Line>) => {
    setLines((old) => old.map((line, k) => (k === n ? { ...line, ...part } : line)));
    setSaved(false);
  };
  return (
    <section aria-labelledby="meets">
      <h2 id="meets">Meets</h2>
      <ul className="mt-2 grid gap-2">
        {lines.map((line, n) => (
          <li key={n} className="flex flex-wrap items-center gap-2">
            <select
              aria-label={`Lesson ${n + 1}: weekday`}
              value={line.weekday}
              onChange={(event) => set(n, { weekday: Number(event.target.value) })}
              className="min-h-9 border border-line-strong bg-raised px-2"
            >
              {WEEKDAYS.map((name, k) => (
                <option key={name} value={k + 1}>
                  {name}
                </option>
              ))}
            </select>
            <WhenField
              small
              hideLabel
              kind="time"
              label={`Lesson ${n + 1}: starts`}
              value={line.starts}
              onChange={(typed) => set(n, { starts: typed })}
            />
            <span className="text-soft">to</span>
            <WhenField
              small
              hideLabel
              kind="time"
              label={`Lesson ${n + 1}: ends`}
              value={line.ends}
              onChange={(typed) => set(n, { ends: typed })}
            />
            <Button
              small
              ink="quiet"
              aria-label={`Take out lesson ${n + 1}`}
              onClick={() => {
                setLines((old) => old.filter((_, k) => k !== n));
                setSaved(false);
              }}
            >
              Take out
            </Button>
            {fields[`meetings[${n}].starts`] || fields[`meetings[${n}].ends`] ? (
              <span role="alert" className="text-sm text-ember">
                ▲ {fields[`meetings[${n}].starts`] ?? fields[`meetings[${n}].ends`]}
              </span>
            ) : null}
          </li>
        ))}
      </ul>
      {lines.length === 0 ? (
        <p className="text-soft">
          No lessons yet. With them, due times can be “the start of the next lesson”.
        </p>
      ) : null}
      {problem ? (
        <p role="alert" className="mt-1 text-sm text-ember">
          ▲ {problem}
        </p>
      ) : null}
      <div className="mt-3 flex gap-2">
        <Button
          small
          onClick={() => {
            setLines((old) => [...old, { weekday: 1, starts: "09:00", ends: "09:50" }]);
            setSaved(false);
          }}
        >
          Add a lesson
        </Button>
        <Button
          small
          ink="tide"
          disabled={busy || saved}
          onClick={() =>
            void act(() =>
              call(contract.setMeetings, {
                params: { sectionId: view.id },
                body: { meetings: lines },
              }),
            ).then((done) => done && setSaved(true))
          }
        >
          {saved ? "Kept" : "Keep the lessons"}
        </Button>
      </div>
    </section>
  );
}
