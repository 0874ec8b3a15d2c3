"use client";

import Link from "next/link";
import { lastDayOf } from "@/core/views/ribbon";
import type { RibbonView } from "@/core/views/overviewViews";
import { classes } from "../kit/classes";

/** A line is a target for a finger: 24 px and no less (WCAG 2.2, 2.5.8). */
const ROW = 24;

/**
 * The ribbon: this week and next (or, asked for, two weeks back and three ahead), a thin lane per section. A line runs
 * from opens to due; a disc is due, a bar closes, a ring promised back. Days without school are hatched. It never takes
 * more than a third of the window: what is longer scrolls in itself.
 */
export function Ribbon({ view }: { view: RibbonView }) {
  const n = view.days.length;
  const at = (index: number) => `${(Math.min(n, Math.max(0, index)) / n) * 100}%`;
  return (
    <section
      aria-label="The ribbon of days"
      // What scrolls can be scrolled by keys.
      tabIndex={0}
      className="max-h-[33vh] overflow-auto border-b border-line"
    >
      <div className={classes("px-4 pb-1 sm:px-6", view.long ? "min-w-[56rem]" : "min-w-[40rem]")}>
        <div
          className="sticky top-0 z-10 grid bg-paper pl-20 text-center text-[0.6875rem] leading-tight text-soft"
          style={{ gridTemplateColumns: `repeat(${n}, minmax(0, 1fr))` }}
        >
          {view.days.map((day) => (
            <div
              key={day.day}
              className={classes(
                "py-0.5",
                day.closed && "hatched",
                day.today && "bg-tide font-bold text-paper",
              )}
              title={day.closed ?? undefined}
            >
              {day.weekday}
              {view.long ? <br /> : " "}
              {day.label}
              {day.today ? <span className="sr-only"> today</span> : null}
            </div>
          ))}
        </div>
        {view.lanes.map((lane) => (
          <div key={lane.sectionId} className="flex items-stretch border-t border-line">
            <Link
              href={`/sections/${lane.sectionId}`}
              prefetch={false}
              className="flex min-h-6 w-20 shrink-0 items-center text-sm text-ink no-underline hover:underline"
            >
              {lane.section}
            </Link>
            <div
              className="relative flex-1"
              style={{
                height: `${Math.max(1, ...lane.lines.map((line) => line.row + 1)) * ROW}px`,
              }}
            >
              <div
                className="absolute inset-0 grid"
                style={{ gridTemplateColumns: `repeat(${n}, minmax(0, 1fr))` }}
                aria-hidden="true"
              >
                {view.days.map((day) => (
                  <div
                    key={day.day}
                    className={classes(
                      day.closed && "hatched opacity-60",
                      day.today && "bg-tide-wash",
                    )}
                  />
                ))}
              </div>
              {lane.lines.map((line) => (
                <Link
                  key={line.handOutId}
                  href={`/hand-outs/${line.handOutId}`}
                  prefetch={false}
                  className="group absolute block h-6 min-w-6 text-ink no-underline"
                  style={{
                    top: `${line.row * ROW}px`,
                    left: at(line.from),
                    right: `calc(100% - ${at(lastDayOf(line) + 1)})`,
                  }}
                  aria-label={`${line.title}, ${lane.section}`}
                  title={line.title}
                >
                  <LineMarks line={line} n={n} />
                </Link>
              ))}
            </div>
          </div>
        ))}
        <p className="mt-0.5 flex items-center gap-x-5 text-xs text-soft">
          <Link
            href={view.long ? "/today" : "/today?days=all"}
            prefetch={false}
            className="inline-flex min-h-6 items-center"
          >
            {view.long ? "this week and next" : "two weeks back, three ahead"}
          </Link>
          {SIGNS.map((sign) => (
            <span key={sign} aria-hidden="true" className="whitespace-nowrap">
              {sign}
            </span>
          ))}
        </p>
      </div>
    </section>
  );
}

const SIGNS = [
  "─ from opens",
  "● due",
  "▏closes",
  "○ promised back",
  "▷ goes back by itself",
  "hatched: no school",
];

function LineMarks({ line, n }: { line: RibbonView["lanes"][number]["lines"][number]; n: number }) {
  const first = Math.max(0, line.from);
  const last = Math.min(n, lastDayOf(line) + 1);
  const within = (index: number) =>
    `${Math.min(100, ((index + 0.5 - first) / Math.max(1, last - first)) * 100)}%`;
  // On the day of the promise the two signs stand beside each other.
  const besideRing = line.goesBack !== null && line.goesBack === line.promised;
  const shown = (index: number | null): index is number =>
    index !== null && index >= 0 && index < n;
  return (
    <>
      <span
        className="absolute inset-x-1 top-0 truncate text-[0.6875rem] leading-[14px] group-hover:underline"
        aria-hidden="true"
      >
        {line.title}
      </span>
      <span
        className="absolute top-[17px] left-0 border-t-2 border-ink group-hover:border-tide"
        style={{ width: line.due < 0 ? 0 : within(line.due) }}
      />
      {shown(line.due) ? (
        <span
          data-dot
          className="absolute top-[13px] size-[9px] -translate-x-1/2 rounded-full bg-ink group-hover:bg-tide"
          style={{ left: within(line.due) }}
        />
      ) : null}
      {shown(line.closes) ? (
        <span
          className="absolute top-[12px] h-[11px] -translate-x-1/2 border-l-2 border-ink"
          style={{ left: within(line.closes) }}
        />
      ) : null}
      {shown(line.promised) ? (
        <span
          data-dot
          className="absolute top-[13px] size-[9px] -translate-x-1/2 rounded-full border-[1.5px] border-moss bg-paper"
          style={{ left: within(line.promised) }}
        />
      ) : null}
      {shown(line.goesBack) ? (
        <span
          className="absolute top-[11px] -translate-x-1/2 text-[0.75rem] leading-none text-tide"
          style={{ left: within(line.goesBack), marginLeft: besideRing ? 11 : 0 }}
        >
          ▷
        </span>
      ) : null}
    </>
  );
}
