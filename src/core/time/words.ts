import { DateTime } from "luxon";
import { dayOf, type Day } from "./zone";

/**
 * Times as people read them, in the school's zone.
 *
 * Within a week of `now` the weekday is enough; further off the date is added, and the year only
 * where it is another one.
 *
 * @example sayTime(due, now, zone) // "Fri 16:00" · "Fri 16 Oct, 16:00"
 */
export function sayTime(at: Date, now: Date, zone: string): string {
  const time = DateTime.fromJSDate(at, { zone });
  const today = DateTime.fromJSDate(now, { zone });
  const days = Math.round(time.startOf("day").diff(today.startOf("day"), "days").days);
  const clock = time.toFormat("HH:mm");
  if (days === 0) return `today ${clock}`;
  if (days === 1) return `tomorrow ${clock}`;
  if (days === -1) return `yesterday ${clock}`;
  return `${sayDay(dayOf(at, zone), dayOf(now, zone))}, ${clock}`;
}

/** @example sayDay("2026-10-16", "2026-10-14") // "Fri 16 Oct" */
export function sayDay(day: Day, today: Day): string {
  const date = DateTime.fromISO(day, { zone: "utc", locale: "en-GB" });
  return date.toFormat(date.year === Number(today.slice(0, 4)) ? "ccc d LLL" : "ccc d LLL yyyy");
}

/** The exact time, to the second, for receipts: `Friday 16 October 2026, 15:58:07 ADT`. */
export function sayExactly(at: Date, zone: string): string {
  const time = DateTime.fromJSDate(at, { zone }).setLocale("en-CA");
  return `${time.setLocale("en-GB").toFormat("cccc d LLLL yyyy, HH:mm:ss")} ${time.toFormat("ZZZZ")}`;
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
 * @example saySpan(due, handedIn, zone) // "2 days 3 h" · "40 min" · "less than a minute"
 */
export function saySpan(from: Date, to: Date, zone: string): string {
  const span = DateTime.fromJSDate(to, { zone }).diff(DateTime.fromJSDate(from, { zone }), [
    "days",
    "hours",
    "minutes",
  ]);
  const { days, hours } = span;
  const minutes = Math.floor(span.minutes);
  const parts = [
    days ? `${days} ${days === 1 ? "day" : "days"}` : "",
    hours ? `${hours} h` : "",
    minutes && !days ? `${minutes} min` : "",
  ];
  return parts.filter(Boolean).join(" ") || "less than a minute";
}
