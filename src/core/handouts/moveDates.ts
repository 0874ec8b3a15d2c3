import { lessonsOfTerm, nextLesson, type Meeting } from "../time/lessons";
import {
  addSchoolDays,
  sameDistance,
  schoolDayFrom,
  schoolDaysBetween,
  termOn,
  type SchoolCalendar,
  type Term,
} from "../time/term";
import type { Day, WallTime } from "../time/zone";

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
 * the nth. If that is past already (a copy made for later in the same term), it is the next lesson, or
 * the next school day. Opens, closes and promised back keep their distance from due in school days,
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
  const lesson = correspondingLesson(due, from, to);
  if (lesson)
    return lesson > now ? lesson : (nextLesson(now, to.meetings, to.calendar)?.starts ?? lesson);
  const clock = due.slice(10);
  const day = correspondingDay(due.slice(0, 10), from, to);
  if (`${day}${clock}` > now) return `${day}${clock}`;
  const today = schoolDayFrom(now.slice(0, 10), to.calendar);
  return `${today}${clock}` > now
    ? `${today}${clock}`
    : `${addSchoolDays(today, 1, to.calendar)}${clock}`;
}

/** Keeps the place within the lesson: due at its start stays at the start, at its end at the end, 10 min in stays inside. */
function correspondingLesson(due: WallTime, from: Timetable, to: Timetable): WallTime | null {
  if (!from.term || !to.term) return null;
  const index = lessonsOfTerm(from.term, from.meetings, from.calendar).findIndex(
    (l) => l.starts <= due && due <= l.ends,
  );
  if (index === -1) return null;
  const source = lessonsOfTerm(from.term, from.meetings, from.calendar)[index]!;
  const lessons = lessonsOfTerm(to.term, to.meetings, to.calendar);
  const target = lessons[Math.min(index, lessons.length - 1)];
  if (!target) return null;
  return due === source.ends ? target.ends : target.starts;
}

function correspondingDay(day: Day, from: Timetable, to: Timetable): Day {
  if (!from.term || !to.term || !termOn(day, [from.term])) return schoolDayFrom(day, to.calendar);
  const nth = schoolDaysBetween(from.term.startsOn, day, from.calendar);
  const moved = addSchoolDays(schoolDayFrom(to.term.startsOn, to.calendar), nth, to.calendar);
  return moved <= to.term.endsOn ? moved : to.term.endsOn;
}
