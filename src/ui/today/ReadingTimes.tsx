"use client";

import { useState } from "react";
import { contract } from "@/core/api/contract";
import type { Meeting } from "@/core/time/lessons";
import { call } from "../client";
import { Button } from "../kit/Button";
import { Notice } from "../kit/Notice";
import { WhenField } from "../kit/WhenField";
import { useAct } from "../useAct";

const DAYS = ["Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday"];
const FIELD = "min-h-8 rounded-[3px] border border-line-strong bg-raised px-1 max-sm:min-h-11";

/** When one means to read in a week: found between the lessons, or one's own. */
export function ReadingTimes({ times: first, own }: { times: readonly Meeting[]; own: boolean }) {
  const { act, busy, problem, fields } = useAct();
  const [times, setTimes] = useState<Meeting[]>(() => first.map((time) => ({ ...time })));
  const change = (n: number, part: Partial<Meeting>) =>
    setTimes((old) => old.map((time, m) => (m === n ? { ...time, ...part } : time)));
  const keep = (kept: Meeting[]) =>
    void act(() => call(contract.setReadingTimes, { body: { times: kept } }));
  return (
    <section aria-labelledby="times">
      <h2 id="times">Time to read</h2>
      <p className="text-sm text-soft">
        {own
          ? "Every week, as you set it."
          : "Found between your lessons. Change it, and it is yours."}
      </p>
      <ul className="mt-2 grid gap-1">
        {times.map(({ weekday, starts, ends }, n) => (
          <li key={n} className="flex flex-wrap items-center gap-1">
            <select
              aria-label={`Day of time ${n + 1}`}
              className={FIELD}
              value={weekday}
              onChange={(event) => change(n, { weekday: Number(event.target.value) })}
            >
              {DAYS.map((day, d) => (
                <option key={day} value={d + 1}>
                  {day}
                </option>
              ))}
            </select>
            <WhenField
              small
              hideLabel
              kind="time"
              label={`Time ${n + 1} begins`}
              value={starts}
              onChange={(typed) => change(n, { starts: typed })}
            />
            <WhenField
              small
              hideLabel
              kind="time"
              label={`Time ${n + 1} ends`}
              aria-invalid={fields[`times[${n}]`] ? true : undefined}
              value={ends}
              onChange={(typed) => change(n, { ends: typed })}
            />
            <Button
              small
              aria-label={`Take out time ${n + 1}`}
              onClick={() => setTimes((old) => old.filter((_, m) => m !== n))}
            >
              ×
            </Button>
            {fields[`times[${n}]`] ? (
              <span className="w-full text-sm text-ember">▲ {fields[`times[${n}]`]}</span>
            ) : null}
          </li>
        ))}
      </ul>
      {problem ? <Notice ink="ember">{problem}</Notice> : null}
      <div className="mt-3 flex flex-wrap gap-2">
        <Button
          small
          onClick={() =>
            setTimes((old) => [...old, { weekday: 1, starts: "16:00", ends: "16:45" }])
          }
        >
          + A time
        </Button>
        <Button small ink="tide" disabled={busy} onClick={() => keep(times)}>
          Plan with these
        </Button>
        {own ? (
          <Button small disabled={busy} onClick={() => keep([])}>
            Find them between my lessons
          </Button>
        ) : null}
      </div>
    </section>
  );
}
