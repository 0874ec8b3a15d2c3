import { addDays, weekdayOf, type Day } from "./zone";

export type Term = { name: string; startsOn: Day; endsOn: Day };
/** Days, both included, on which the school does not meet. */
export type Closure = { name: string; startsOn: Day; endsOn: Day };

/** The closure that covers a day, if one does. */
export function closureOn(day: Day, closures: readonly Closure[]): Closure | undefined {
  return closures.find((c) => c.startsOn <= day && day <= c.endsOn);
}

/** A school day is a weekday (Monday to Friday) inside the term that no closure covers. */
export function isSchoolDay(day: Day, term: Term, closures: readonly Closure[]): boolean {
  return term.startsOn <= day && day <= term.endsOn && weekdayOf(day) <= 5 && !closureOn(day, closures);
}

/**
 * The first weekday from `day` on that no closure covers.
 *
 * @example schoolDayFrom("2026-10-10", [thanksgiving]) // "2026-10-13"
 */
export function schoolDayFrom(day: Day, closures: readonly Closure[]): Day {
  let found = day;
  // A year of closures would be a mistake in the calendar, not a holiday.
  for (let n = 0; n < 366 && (weekdayOf(found) > 5 || closureOn(found, closures)); n += 1) found = addDays(found, 1);
  return found;
}

/**
 * The teaching week a day falls in, counted from 1; weeks without a single school day are not
 * counted, and days in them, or outside the term, have none.
 *
 * @example teachingWeek("2026-10-14", term, closures) // 6
 */
export function teachingWeek(day: Day, term: Term, closures: readonly Closure[]): number | null {
  if (day < term.startsOn || day > term.endsOn) return null;
  const thisMonday = mondayOf(day);
  let week = 0;
  for (let monday = mondayOf(term.startsOn); monday <= thisMonday; monday = addDays(monday, 7)) {
    const meets = [0, 1, 2, 3, 4].some((n) => isSchoolDay(addDays(monday, n), term, closures));
    if (meets) week += 1;
    else if (monday === thisMonday) return null;
  }
  return week;
}

export function mondayOf(day: Day): Day {
  return addDays(day, 1 - weekdayOf(day));
}
