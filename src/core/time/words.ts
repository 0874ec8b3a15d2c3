import { DateTime } from "luxon";
import { dayOf, daysBetween, instantToWall, offsetAt, weekdayOf, type Day } from "./zone";

/** The short names as the locale has them, asked for once: "Mon" and "Sept". */
const named = (month: number, day: number, format: string) =>
  DateTime.utc(2024, month, day, { locale: "en-GB" }).toFormat(format);
const MONTHS = Array.from({ length: 12 }, (_, n) => named(n + 1, 1, "LLL"));
// The first of January 2024 was a Monday.
const WEEKDAYS = Array.from({ length: 7 }, (_, n) => named(1, n + 1, "ccc"));

/**
 * Times as people read them, in the school's zone.
 *
 * Within a week of `now` the weekday is enough; further off the date is added, and the year only
 * where it is another one.
 *
 * @example sayTime(due, now, zone) // "Fri 16:00" · "Fri 16 Oct, 16:00"
 */
export function sayTime(at: Date, now: Date, zone: string): string {
  const day = sayDayOf(at, now, zone);
  const clock = instantToWall(at, zone).slice(11);
  return NEAR.includes(day) ? `${day} ${clock}` : `${day}, ${clock}`;
}

const NEAR = ["yesterday", "today", "tomorrow"];

/** The day of a time, where the hour does not matter. @example sayDayOf(due, now, zone) // "today" · "Fri 16 Oct" */
export function sayDayOf(at: Date, now: Date, zone: string): string {
  const [day, today] = [dayOf(at, zone), dayOf(now, zone)];
  return NEAR[daysBetween(today, day) + 1] ?? sayDay(day, today);
}

/** @example sayDay("2026-10-16", "2026-10-14") // "Fri 16 Oct" */
export function sayDay(day: Day, today: Day): string {
  const [year, month, date] = day.split("-").map(Number) as [number, number, number];
  const words = `${WEEKDAYS[weekdayOf(day) - 1]} ${date} ${MONTHS[month - 1]}`;
  return year === Number(today.slice(0, 4)) ? words : `${words} ${year}`;
}

/** The exact time, to the second, for receipts: `Friday 16 October 2026, 15:58:07 ADT`. */
export function sayExactly(at: Date, zone: string): string {
  const time = DateTime.fromJSDate(at, { zone }).setLocale("en-CA");
  return `${time.setLocale("en-GB").toFormat("cccc d LLLL yyyy, HH:mm:ss")} ${time.toFormat("ZZZZ")}`;
}

/** A moment that is read on another day than it was written: `Friday 16 October, 16:00`. */
export function sayMoment(at: Date, zone: string): string {
  return DateTime.fromJSDate(at, { zone }).setLocale("en-GB").toFormat("cccc d LLLL, HH:mm");
}

/** The date as it stands on the masthead: `Wednesday, 14 October 2026`. */
export function sayAlmanacDate(day: Day): string {
  return DateTime.fromISO(day, { zone: "utc", locale: "en-GB" }).toFormat("cccc, d LLLL yyyy");
}

/**
 * A span of time in its two largest units, rounded down.
 *
 * Days are calendar days in the zone, not spans of 24 hours: from Saturday 16:00 to Sunday 16:00 is
 * one day also on the night the clocks change.
 *
 * @example saySpan(due, handedIn, zone) // "2 days 3 h" · "1 day 30 min" · "40 min" · "less than a minute"
 */
export function saySpan(from: Date, to: Date, zone: string): string {
  const { days, hours, minutes } = spanOf(from, to, zone);
  const parts = [
    days ? `${days} ${days === 1 ? "day" : "days"}` : "",
    hours ? `${hours} h` : "",
    minutes && !(days && hours) ? `${minutes} min` : "",
  ];
  return parts.filter(Boolean).join(" ") || "less than a minute";
}

const MINUTE = 60_000;
const DAY = 1440 * MINUTE;

/** Where no clock is changed between, a calendar day has 24 hours; else the library counts. */
function spanOf(
  from: Date,
  to: Date,
  zone: string,
): { days: number; hours: number; minutes: number } {
  const ms = to.getTime() - from.getTime();
  const offset = offsetAt(from, zone);
  const steady = [to, new Date(to.getTime() - DAY)].every((at) => offsetAt(at, zone) === offset);
  if (ms >= 0 && steady) {
    const minutes = Math.floor(ms / MINUTE);
    return {
      days: Math.floor(minutes / 1440),
      hours: Math.floor((minutes % 1440) / 60),
      minutes: minutes % 60,
    };
  }
  const { days, hours, minutes } = DateTime.fromJSDate(to, { zone }).diff(
    DateTime.fromJSDate(from, { zone }),
    ["days", "hours", "minutes"],
  );
  return { days, hours, minutes: Math.floor(minutes) };
}
