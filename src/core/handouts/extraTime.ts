import { addSchoolDays, type SchoolCalendar } from "../time/term";
import { addDays, instantToWall, wallToInstant } from "../time/zone";

/** A group's standing extra time, for example + 2 school days. */
export const EXTRA_UNITS = ["school days", "days", "hours"] as const;
export type ExtraTime = { amount: number; unit: (typeof EXTRA_UNITS)[number] };

/**
 * A due time with extra time added. Days keep the wall-clock time of the school (16:00 stays 16:00
 * across a change of clocks); hours are hours by the clock on the wall that has run.
 *
 * @example withExtraTime(friday16, { amount: 2, unit: "school days" }, calendar, zone) // Tuesday 16:00
 */
export function withExtraTime(
  due: Date,
  extra: ExtraTime,
  calendar: SchoolCalendar,
  zone: string,
): Date {
  if (extra.unit === "hours") return new Date(due.getTime() + extra.amount * 3_600_000);
  const wall = instantToWall(due, zone);
  const day =
    extra.unit === "days"
      ? addDays(wall.slice(0, 10), extra.amount)
      : addSchoolDays(wall.slice(0, 10), extra.amount, calendar);
  return wallToInstant(`${day}${wall.slice(10)}`, zone).at;
}

/** The due time a student has through the groups they are in: the latest of them; null when none gives extra time. */
export function dueThroughGroups(
  due: Date,
  extras: readonly ExtraTime[],
  calendar: SchoolCalendar,
  zone: string,
): Date | null {
  const times = extras
    .filter((e) => e.amount > 0)
    .map((extra) => withExtraTime(due, extra, calendar, zone).getTime());
  return times.length > 0 ? new Date(Math.max(...times)) : null;
}

/** @example sayExtraTime({ amount: 2, unit: "school days" }) // "+ 2 school days" */
export function sayExtraTime({ amount, unit }: ExtraTime): string {
  return `+ ${amount} ${amount === 1 ? unit.replace(/s$/, "") : unit}`;
}
