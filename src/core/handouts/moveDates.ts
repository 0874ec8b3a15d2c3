import { lessonsOfTerm, nextLesson, type Lesson, type Meeting } from "../time/lessons";
import {
  addSchoolDays,
  isSchoolDay,
  sameDistance,
  schoolDayFrom,
  schoolDaysBetween,
  termOn,
  type SchoolCalendar,
  type Term,
} from "../time/term";
import { addDays, weekdayOf, type Day, type WallTime } from "../time/zone";

/** The dates of a hand-out as wall-clock times of the school; null where there is none. */
export type WallDates = {
  opens: WallTime | null;
  due: WallTime;
  closes: WallTime | null;
  promised: WallTime | null;
};

/** A section with its calendar and the term its work falls in. */
export type Timetable = {
  meetings: readonly Meeting[];
  calendar: SchoolCalendar;
  term: Term | null;
};

/**
 * The dates of a hand-out for another section or another term: from the lesson it was due in to the
 * corresponding lesson.
 *
 * Corresponding means: what was due in the 14th lesson of its term is due in the 14th lesson of the
 * other. Where it was not due in a lesson (16:00, say), the nth school day of the term corresponds to
 * the nth. If that is past already, or within a day from now (a copy made for later in the same term), it is the
 * next lesson, or the next school day, a day from now at the earliest. Opens, closes and promised back keep their distance from due in school days,
 * and their time of day.
 *
 * @param now wall-clock time of the school
 */
export function moveDates(
  dates: WallDates,
  from: Timetable,
  to: Timetable,
  now: WallTime,
): WallDates {
  const due = moveDue(dates.due, from, to, now);
  const shift = (wall: WallTime | null): WallTime | null => {
    if (wall === null) return null;
    const [anchor, day, target] = [dates.due, wall, due].map((w) => w.slice(0, 10)) as [
      Day,
      Day,
      Day,
    ];
    const calendars = { calendar: from.calendar, to: to.calendar };
    return `${sameDistance(anchor, day, target, calendars)}${wall.slice(10)}`;
  };
  // A clock earlier on the day of the new lesson could put "closes" before "due": the day is kept, never the disorder.
  const notBefore = (wall: WallTime | null) => (wall !== null && wall < due ? due : wall);
  const opens = shift(dates.opens);
  return {
    opens: opens !== null && opens > now && opens <= due ? opens : null,
    due,
    closes: notBefore(shift(dates.closes)),
    promised: notBefore(shift(dates.promised)),
  };
}

function moveDue(due: WallTime, from: Timetable, to: Timetable, now: WallTime): WallTime {
  const [today, day, clock] = [now.slice(0, 10), due.slice(0, 10), due.slice(10)];
  // Nobody is to find out that something is due in an hour.
  const earliest = `${addDays(today, 1)}${now.slice(10)}`;
  const found = lessonOf(due, from);
  if (found) {
    const target = to.term && correspondingLesson(found.index, to, to.term);
    if (target && within(target, found.lesson, due) > earliest)
      return within(target, found.lesson, due);
    const next = nextLesson(earliest, to.meetings, to.calendar);
    if (next) return within(next, found.lesson, due);
  }
  const moved = `${correspondingDay(day, from, to)}${clock}`;
  if (moved > earliest) return moved;
  const fits = isSchoolDay(day, from.calendar)
    ? (d: Day) => isSchoolDay(d, to.calendar)
    : (d: Day) => weekdayOf(d) === weekdayOf(day);
  const last = addDays(earliest.slice(0, 10), 366);
  for (let d = earliest.slice(0, 10); d < last; d = addDays(d, 1))
    if (fits(d) && `${d}${clock}` > earliest) return `${d}${clock}`;
  return `${addDays(earliest.slice(0, 10), 1)}${clock}`;
}

/** The lesson something was due in, and its place among those of the term. */
function lessonOf(
  due: WallTime,
  { term, meetings, calendar }: Timetable,
): { lesson: Lesson; index: number } | null {
  if (!term) return null;
  const lessons = lessonsOfTerm(term, meetings, calendar);
  const index = lessons.findIndex((l) => l.starts <= due && due <= l.ends);
  return index === -1 ? null : { lesson: lessons[index]!, index };
}

function correspondingLesson(
  index: number,
  { meetings, calendar }: Timetable,
  term: Term,
): Lesson | null {
  const lessons = lessonsOfTerm(term, meetings, calendar);
  return lessons[Math.min(index, lessons.length - 1)] ?? null;
}

/** The same place within another lesson: at its start, at its end, or as many minutes in. */
function within(target: Lesson, source: Lesson, due: WallTime): WallTime {
  if (due === source.ends) return target.ends;
  const minutes = minutesOf(target.starts) + minutesOf(due) - minutesOf(source.starts);
  const at = `${target.starts.slice(0, 10)}T${twoSigns(Math.floor(minutes / 60))}:${twoSigns(minutes % 60)}`;
  return at < target.ends ? at : target.ends;
}
const minutesOf = (wall: WallTime) => Number(wall.slice(11, 13)) * 60 + Number(wall.slice(14, 16));
const twoSigns = (n: number) => String(n).padStart(2, "0");

/**
 * The nth school day of one term is the nth of the other. What is due on a day without school (a Sunday evening) stays on
 * that weekday, after the school day that corresponds to the one before it.
 */
function correspondingDay(day: Day, from: Timetable, to: Timetable): Day {
  let base = day;
  for (let n = 0; n < 366 && !isSchoolDay(base, from.calendar); n += 1) base = addDays(base, -1);
  let moved = correspondingSchoolDay(base, from, to);
  if (base === day) return moved;
  do moved = addDays(moved, 1);
  while (weekdayOf(moved) !== weekdayOf(day));
  return moved;
}

function correspondingSchoolDay(day: Day, from: Timetable, to: Timetable): Day {
  if (!from.term || !to.term || !termOn(day, [from.term])) return schoolDayFrom(day, to.calendar);
  const nth = schoolDaysBetween(from.term.startsOn, day, from.calendar);
  const moved = addSchoolDays(schoolDayFrom(to.term.startsOn, to.calendar), nth, to.calendar);
  return moved <= to.term.endsOn ? moved : to.term.endsOn;
}
