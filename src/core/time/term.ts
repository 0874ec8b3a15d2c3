import { addDays, weekdayOf, type Day } from "./zone";

export type Term = { name: string; startsOn: Day; endsOn: Day };
/** Days, both included, on which the school does not meet. */
export type Closure = { name: string; startsOn: Day; endsOn: Day };

/** When a school meets: on which weekdays (1 is Monday, as in ISO 8601), in which terms, and when not. */
export type SchoolCalendar = {
  meetsOn: readonly number[];
  terms: readonly Term[];
  closures: readonly Closure[];
};

/** Monday to Friday, nothing closed: for tests, and for a school that has typed nothing yet. */
export const PLAIN_CALENDAR: SchoolCalendar = { meetsOn: [1, 2, 3, 4, 5], terms: [], closures: [] };

/** The closure that covers a day, if one does. */
export function closureOn(day: Day, closures: readonly Closure[]): Closure | undefined {
  return closures.find((c) => c.startsOn <= day && day <= c.endsOn);
}

/** The term a day is in; of several (a records system may send the whole year beside its terms) the shortest. */
export function termOn(day: Day, terms: readonly Term[]): Term | undefined {
  const days = (t: Term) => Date.parse(t.endsOn) - Date.parse(t.startsOn);
  return terms
    .filter((t) => t.startsOn <= day && day <= t.endsOn)
    .sort((a, b) => days(a) - days(b))[0];
}

/**
 * Whether the school meets: on one of its weekdays, no closure, and not between two terms.
 *
 * Before the first term and after the last the calendar knows nothing, so a weekday counts there: a
 * due date set in August for a year whose terms are not typed yet must still be able to move.
 *
 * @example isSchoolDay("2026-10-12", { meetsOn: [1, 2, 3, 4, 5], terms: [], closures: [thanksgiving] }) // false
 */
export function isSchoolDay(day: Day, calendar: SchoolCalendar): boolean {
  return noSchoolBecause(day, calendar) === null;
}

/** Why the school does not meet on a day, in words; null when it does. */
export function noSchoolBecause(
  day: Day,
  { meetsOn, terms, closures }: SchoolCalendar,
): string | null {
  const closure = closureOn(day, closures);
  if (closure) return closure.name;
  if (!meetsOn.includes(weekdayOf(day)))
    return weekdayOf(day) > 5 ? "weekend" : "the school does not meet on this weekday";
  if (terms.length === 0 || termOn(day, terms)) return null;
  const between = terms.some((t) => t.endsOn < day) && terms.some((t) => t.startsOn > day);
  return between ? "between two terms" : null;
}

/** Further than any holiday: a calendar that is closed for longer is a mistake in it. */
const LONGEST_BREAK = 366;

/**
 * The first school day from `day` on.
 *
 * @example schoolDayFrom("2026-10-10", calendar) // "2026-10-13", the 12th being a holiday
 */
export function schoolDayFrom(day: Day, calendar: SchoolCalendar): Day {
  return step(day, 1, calendar, true);
}

/** `day` itself or the nearest school day in the direction given; a year without school ends the search at `day`. */
function step(day: Day, direction: 1 | -1, calendar: SchoolCalendar, self: boolean): Day {
  let found = self ? day : addDays(day, direction);
  for (let n = 0; !isSchoolDay(found, calendar); n += 1) {
    if (n > LONGEST_BREAK) return day;
    found = addDays(found, direction);
  }
  return found;
}

/**
 * The day `n` school days after `day` (before it, when n is negative). From a day without school the
 * first step leads to the next day that has it; n = 0 gives the school day from `day` on.
 *
 * Moving by n and back by n is the identity on school days.
 *
 * @example addSchoolDays("2026-10-09", 2, calendar) // Friday + 2, Monday being a holiday: "2026-10-14"
 */
export function addSchoolDays(day: Day, n: number, calendar: SchoolCalendar): Day {
  let found = n === 0 ? schoolDayFrom(day, calendar) : day;
  for (let left = Math.abs(n); left > 0; left -= 1)
    found = step(found, n > 0 ? 1 : -1, calendar, false);
  return found;
}

/**
 * How many school days lie after `from` up to and including `to`; negative when `to` is earlier.
 *
 * @example schoolDaysBetween("2026-10-09", "2026-10-14", calendar) // 2
 */
export function schoolDaysBetween(from: Day, to: Day, calendar: SchoolCalendar): number {
  if (to < from) return -schoolDaysBetween(to, from, calendar);
  let count = 0;
  for (let day = addDays(from, 1); day <= to; day = addDays(day, 1))
    if (isSchoolDay(day, calendar)) count += 1;
  return count;
}

/**
 * The day that lies from `target` as `day` lies from `anchor`, counted in school days. What lies on a day
 * without school (closes on Sunday evening) keeps its distance from the school day before it, so that
 * Friday to Sunday becomes Tuesday to Thursday and not the same day.
 *
 * @param to the calendar of `target`; that of `anchor` when left out
 * @example sameDistance("2026-10-16", "2026-10-20", "2026-10-23", { calendar }) // two school days on: "2026-10-27"
 */
export function sameDistance(
  anchor: Day,
  day: Day,
  target: Day,
  { calendar, to = calendar }: { calendar: SchoolCalendar; to?: SchoolCalendar },
): Day {
  if (day < anchor) {
    const back = schoolDaysBetween(anchor, day, calendar);
    return back === 0 ? target : addSchoolDays(target, back, to);
  }
  let base = day;
  while (base > anchor && !isSchoolDay(base, calendar)) base = addDays(base, -1);
  const distance = base > anchor ? schoolDaysBetween(anchor, base, calendar) : 0;
  const rest = Math.round((Date.parse(day) - Date.parse(base)) / 86_400_000);
  return addDays(distance === 0 ? target : addSchoolDays(target, distance, to), rest);
}

/**
 * The teaching week a day falls in, counted from 1; weeks without a single school day are not
 * counted, and days in them, or outside the term, have none.
 *
 * @example teachingWeek("2026-10-14", term, calendar) // 6
 */
export function teachingWeek(day: Day, term: Term, calendar: SchoolCalendar): number | null {
  if (day < term.startsOn || day > term.endsOn) return null;
  const thisMonday = mondayOf(day);
  const within: SchoolCalendar = { ...calendar, terms: [term] };
  const meets = (d: Day) => d >= term.startsOn && d <= term.endsOn && isSchoolDay(d, within);
  let week = 0;
  for (let monday = mondayOf(term.startsOn); monday <= thisMonday; monday = addDays(monday, 7)) {
    if ([0, 1, 2, 3, 4, 5, 6].some((n) => meets(addDays(monday, n)))) week += 1;
    else if (monday === thisMonday) return null;
  }
  return week;
}

export function mondayOf(day: Day): Day {
  return addDays(day, 1 - weekdayOf(day));
}
