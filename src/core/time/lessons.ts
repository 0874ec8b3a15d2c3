import { isSchoolDay, schoolDayFrom, type SchoolCalendar, type Term } from "./term";
import { addDays, weekdayOf, type Day, type WallTime } from "./zone";

/** A weekly meeting of a section: `{ weekday: 2, starts: "09:05", ends: "09:55" }` is Tuesdays. */
export type Meeting = { weekday: number; starts: string; ends: string };
export type Lesson = { day: Day; starts: WallTime; ends: WallTime };

/** The lessons of one day, by the clock; none on a day without school. */
export function lessonsOn(
  day: Day,
  meetings: readonly Meeting[],
  calendar: SchoolCalendar,
): Lesson[] {
  if (!isSchoolDay(day, calendar)) return [];
  return meetings
    .filter((m) => m.weekday === weekdayOf(day))
    .map((m) => ({ day, starts: `${day}T${m.starts}`, ends: `${day}T${m.ends}` }))
    .sort((a, b) => a.starts.localeCompare(b.starts));
}

/** The first lesson that starts after a wall-clock time; null when the section does not meet within half a year. */
export function nextLesson(
  after: WallTime,
  meetings: readonly Meeting[],
  calendar: SchoolCalendar,
): Lesson | null {
  for (let n = 0; n < 190; n += 1) {
    const found = lessonsOn(addDays(after.slice(0, 10), n), meetings, calendar).find(
      (lesson) => lesson.starts > after,
    );
    if (found) return found;
  }
  return null;
}

/**
 * When a revision asked for today is likely due: at the start of the section's first lesson a week from today or
 * later; at 16:00 on the first school day then, where it does not meet.
 *
 * @example dueInAWeek("2026-10-14", [{ weekday: 4, starts: "09:05", ends: "09:55" }], calendar) // "2026-10-22T09:05"
 */
export function dueInAWeek(
  today: Day,
  meetings: readonly Meeting[],
  calendar: SchoolCalendar,
): WallTime {
  const week = addDays(today, 7);
  const lesson = nextLesson(`${addDays(week, -1)}T23:59`, meetings, calendar);
  return lesson?.starts ?? `${schoolDayFrom(week, calendar)}T16:00`;
}

/** All lessons of a section in a term, the first first. */
export function lessonsOfTerm(
  term: Term,
  meetings: readonly Meeting[],
  calendar: SchoolCalendar,
): Lesson[] {
  const lessons: Lesson[] = [];
  for (let day = term.startsOn; day <= term.endsOn; day = addDays(day, 1))
    lessons.push(...lessonsOn(day, meetings, calendar));
  return lessons;
}
