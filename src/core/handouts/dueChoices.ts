import { lessonsOn, nextLesson, type Meeting } from "../time/lessons";
import { schoolDayFrom, type SchoolCalendar } from "../time/term";
import { addDays, weekdayOf, type WallTime } from "../time/zone";

export type DueChoice = { name: string; wall: WallTime };

export type SectionTimes = {
  meetings: readonly Meeting[];
  calendar: SchoolCalendar;
  /** When the school day ends: `15:30`. */ dayEnds: string;
};

const SUNDAY_EVENING = "20:00";

/**
 * Quick choices for a due time that are right for this section's calendar: lessons fall on days on
 * which it meets, and holidays are passed over. A choice that cannot be worked out (a section without
 * meeting times has no next lesson) is left out.
 *
 * @example dueChoices("2026-10-08T10:00", section)
 *   // [{ name: "start of the next lesson", wall: "2026-10-09T09:05" }, …]
 */
export function dueChoices(
  now: WallTime,
  { meetings, calendar, dayEnds }: SectionTimes,
): DueChoice[] {
  const today = now.slice(0, 10);
  const next = nextLesson(now, meetings, calendar);
  const choices: DueChoice[] = [];
  if (next) choices.push({ name: "start of the next lesson", wall: next.starts });
  choices.push({ name: "end of the school day", wall: endOfSchoolDay(now, calendar, dayEnds) });
  const inAWeek = lessonInAWeek(now, meetings, calendar);
  if (inAWeek) choices.push({ name: "in one week, same lesson", wall: inAWeek });
  const sunday = addDays(today, 7 - weekdayOf(today));
  const evening = `${sunday}T${SUNDAY_EVENING}`;
  choices.push({
    name: "Sunday evening",
    wall: evening > now ? evening : `${addDays(sunday, 7)}T${SUNDAY_EVENING}`,
  });
  return choices;
}

function endOfSchoolDay(now: WallTime, calendar: SchoolCalendar, dayEnds: string): WallTime {
  const today = `${schoolDayFrom(now.slice(0, 10), calendar)}T${dayEnds}`;
  return today > now
    ? today
    : `${schoolDayFrom(addDays(now.slice(0, 10), 1), calendar)}T${dayEnds}`;
}

/**
 * The lesson a week after the one that is on now, was on last today, or comes next. If that day has no
 * school, the next lesson after it.
 */
function lessonInAWeek(
  now: WallTime,
  meetings: readonly Meeting[],
  calendar: SchoolCalendar,
): WallTime | null {
  const begun = lessonsOn(now.slice(0, 10), meetings, calendar)
    .filter((lesson) => lesson.starts <= now)
    .at(-1);
  const from = begun ?? nextLesson(now, meetings, calendar);
  if (!from) return null;
  const day = addDays(from.day, 7);
  const clock = from.starts.slice(11);
  const same = lessonsOn(day, meetings, calendar).find((lesson) => lesson.starts.endsWith(clock));
  return same?.starts ?? nextLesson(`${day}T${clock}`, meetings, calendar)?.starts ?? null;
}

/**
 * Where a hand-out's dates begin on the form: due in a week in the same lesson (at the end of the
 * school day where the section has no lessons), promised back a week after that.
 */
export function suggestedDates(
  now: WallTime,
  times: SectionTimes,
): { due: WallTime; promised: WallTime } {
  const due =
    lessonInAWeek(now, times.meetings, times.calendar) ??
    `${schoolDayFrom(addDays(now.slice(0, 10), 7), times.calendar)}T${times.dayEnds}`;
  return {
    due,
    promised: `${schoolDayFrom(addDays(due.slice(0, 10), 7), times.calendar)}T${times.dayEnds}`,
  };
}
