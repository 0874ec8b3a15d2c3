import { isSchoolDay, type SchoolCalendar, type Term } from "./term";
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
