import { noSchoolBecause, type SchoolCalendar } from "../time/term";
import { sayDay } from "../time/words";
import { instantToWall, wallToInstant, type Day, type WallTime } from "../time/zone";
import type { WallDates } from "./moveDates";

export type HandOutDates = {
  opensAt: Date;
  dueAt: Date;
  closesAt: Date | null;
  promisedAt: Date | null;
};

/**
 * What is wrong with a hand-out's dates, by field of the form; empty when they are in order:
 * opens ≤ due ≤ closes, due ≤ promised back, and not due in the past unless that is meant (work that
 * was done on paper last week).
 */
export function checkDates(
  { opensAt, dueAt, closesAt, promisedAt }: HandOutDates,
  now: Date,
  pastIsMeant = false,
): Record<string, string> {
  const faults: Record<string, string> = {};
  if (dueAt <= now && !pastIsMeant) faults.due = "The due time is in the past.";
  else if (dueAt < opensAt && opensAt > now) faults.due = "It would be due before it opens.";
  if (closesAt && closesAt < dueAt) faults.closes = "It would close before it is due.";
  if (promisedAt && promisedAt < dueAt)
    faults.promised = "It cannot be promised back before it is due.";
  return faults;
}

export type DateNote = { field: keyof WallDates; words: string };

const NAMES = { opens: "opens", due: "due", closes: "closes", promised: "promised back" } as const;

/**
 * What a teacher should know of dates that are in order all the same: a day without school, and an
 * hour that the change of clocks skips or repeats (resolved as RFC 5545, section 3.3.5, says).
 */
export function notesOnDates(
  dates: WallDates,
  calendar: SchoolCalendar,
  zone: string,
  today: Day,
): DateNote[] {
  return (Object.keys(NAMES) as (keyof WallDates)[]).flatMap((field) => {
    const wall = dates[field];
    if (!wall || !isWall(wall)) return [];
    const day = wall.slice(0, 10);
    const notes: DateNote[] = [];
    const closed = field === "opens" ? null : noSchoolBecause(day, calendar);
    if (closed)
      notes.push({ field, words: `${sayDay(day, today)} is not a school day (${closed}).` });
    const odd = sayOddHour(wall, zone);
    if (odd) notes.push({ field, words: odd });
    return notes;
  });
}

/** What happens to a wall-clock time in the night the clocks change; null for every other. */
export function sayOddHour(wall: WallTime, zone: string): string | null {
  const { at, reading } = wallToInstant(wall, zone);
  if (reading === "plain") return null;
  const clock = wall.slice(11, 16);
  return reading === "skipped"
    ? `${clock} does not exist that night: the clocks go forward. It means ${instantToWall(at, zone).slice(11)}.`
    : `${clock} comes twice that night: the clocks go back. It means the first of the two.`;
}

export function isWall(text: string): boolean {
  if (!/^\d{4}-\d\d-\d\dT\d\d:\d\d$/.test(text)) return false;
  return (
    !Number.isNaN(Date.parse(`${text}:00Z`)) &&
    new Date(`${text}:00Z`).toISOString().startsWith(text.slice(0, 10))
  );
}

/**
 * How many of these students have other things due on a day.
 *
 * @param dueDays per student, the days on which other work of theirs is due (a day twice: two things)
 * @example sayLoad(["a", "b"], new Map([["a", ["2026-11-06", "2026-11-06"]]]), "2026-11-06")
 *   // "1 student already has two things due on that day."
 */
export function sayLoad(
  students: readonly string[],
  dueDays: ReadonlyMap<string, readonly Day[]>,
  day: Day,
): string | null {
  const counts = students.map((id) => (dueDays.get(id) ?? []).filter((d) => d === day).length);
  const words = ["", "one thing", "two things", "three things"];
  const most = Math.min(3, Math.max(0, ...counts));
  if (most === 0) return null;
  // Two things or more is what a student feels; where nobody has that many, one is said.
  const least = Math.min(2, most);
  const many = counts.filter((n) => n >= least).length;
  const things = most > least ? `${words[least]} or more` : words[least];
  return `${many} ${many === 1 ? "student already has" : "students already have"} ${things} due on that day.`;
}
