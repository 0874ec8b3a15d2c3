import { DateTime } from "luxon";

/** A wall-clock time without a zone: `2026-10-16T16:00`. */
export type WallTime = string;
/** A calendar day: `2026-10-16`. */
export type Day = string;

export type ResolvedWallTime = {
  at: Date;
  /** `skipped`: this wall time does not exist (clocks go forward); `twice`: it comes two times that night. */
  reading: "plain" | "skipped" | "twice";
};

/**
 * The instant of a wall-clock time in an IANA zone.
 *
 * RFC 5545, section 3.3.5, rules the two odd nights of the year: a time that comes twice means the
 * first of the two; a time that does not exist is read with the offset in force before the gap, so
 * it falls as long after the gap began as it was written.
 *
 * @throws RangeError when the text is not a wall time or the zone is not known.
 * @example wallToInstant("2026-03-08T02:30", "America/New_York")
 *   // { at: 2026-03-08T07:30Z (03:30 EDT), reading: "skipped" }
 */
export function wallToInstant(wall: WallTime, zone: string): ResolvedWallTime {
  const naive = DateTime.fromISO(wall, { zone: "utc" });
  if (!naive.isValid || !/^\d{4}-\d\d-\d\dT\d\d:\d\d(:\d\d)?$/.test(wall))
    throw new RangeError(`Not a wall-clock time: ${wall}`);
  if (!DateTime.local({ zone }).isValid) throw new RangeError(`Not a known time zone: ${zone}`);
  const offsets = [
    ...new Set(
      [naive.minus({ hours: 26 }), naive.plus({ hours: 26 })].map((t) => t.setZone(zone).offset),
    ),
  ];
  const candidates = offsets
    .map((offset) => naive.minus({ minutes: offset }))
    .filter((instant) => instant.setZone(zone).toFormat("yyyy-MM-dd'T'HH:mm") === wall.slice(0, 16))
    .sort((a, b) => a.toMillis() - b.toMillis());
  const [first, second] = candidates;
  if (first) return { at: first.toJSDate(), reading: second ? "twice" : "plain" };
  const before = naive.minus({ hours: 26 }).setZone(zone).offset;
  return { at: naive.minus({ minutes: before }).toJSDate(), reading: "skipped" };
}

/** @example instantToWall(new Date("2026-10-16T19:00Z"), "America/Halifax") // "2026-10-16T16:00" */
export function instantToWall(at: Date, zone: string): WallTime {
  return DateTime.fromJSDate(at, { zone }).toFormat("yyyy-MM-dd'T'HH:mm");
}

/** @example dayOf(new Date("2026-10-17T01:00Z"), "America/Halifax") // "2026-10-16" */
export function dayOf(at: Date, zone: string): Day {
  return DateTime.fromJSDate(at, { zone }).toFormat("yyyy-MM-dd");
}

/** @example addDays("2026-10-30", 3) // "2026-11-02" */
export function addDays(day: Day, n: number): Day {
  return DateTime.fromISO(day, { zone: "utc" }).plus({ days: n }).toFormat("yyyy-MM-dd");
}

/** Monday is 1, Sunday is 7 (ISO 8601). */
export function weekdayOf(day: Day): number {
  return DateTime.fromISO(day, { zone: "utc" }).weekday;
}
