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
  return localIso(at, zone).slice(0, 16);
}

/** @example dayOf(new Date("2026-10-17T01:00Z"), "America/Halifax") // "2026-10-16" */
export function dayOf(at: Date, zone: string): Day {
  return localIso(at, zone).slice(0, 10);
}

/** The wall clock of a zone in ISO form; an instant beyond the years 0 to 9999 is for the library. */
function localIso(at: Date, zone: string): string {
  const iso = new Date(at.getTime() + offsetAt(at, zone) * 60_000).toISOString();
  return iso.length === 24 ? iso : DateTime.fromJSDate(at, { zone }).toFormat("yyyy-MM-dd'T'HH:mm");
}

const DAY_MS = 86_400_000;
/** Days of a year or two, for some zones; beyond that it begins anew. */
const MOST_KEPT = 4000;
let kept = new Map<string, number | null>();

/**
 * Minutes by which a zone's clocks are ahead of UTC at an instant. A page says hundreds of times of a few days, and
 * asking the library for each was a third of its work: so it is kept for whole days of UTC on which it does not
 * change, and asked for on the others.
 *
 * @throws RangeError when the zone is not known
 */
export function offsetAt(at: Date, zone: string): number {
  const day = Math.floor(at.getTime() / DAY_MS);
  const key = `${zone} ${day}`;
  let offset = kept.get(key);
  if (offset === undefined) {
    const [begins, ends] = [day * DAY_MS, (day + 1) * DAY_MS - 1].map((ms) => asked(ms, zone));
    offset = begins === ends ? begins! : null;
    if (kept.size >= MOST_KEPT) kept = new Map();
    kept.set(key, offset);
  }
  return offset ?? asked(at.getTime(), zone);
}

function asked(ms: number, zone: string): number {
  const { isValid, offset } = DateTime.fromMillis(ms, { zone });
  if (!isValid) throw new RangeError(`Not a known time zone, or no time: ${zone}`);
  return offset;
}

/** @example addDays("2026-10-30", 3) // "2026-11-02" */
export function addDays(day: Day, n: number): Day {
  return new Date(startOf(day) + n * DAY_MS).toISOString().slice(0, 10);
}

/** Monday is 1, Sunday is 7 (ISO 8601). */
export function weekdayOf(day: Day): number {
  return new Date(startOf(day)).getUTCDay() || 7;
}

/** How many days `to` lies after `from`; negative when before. @example daysBetween("2026-10-30", "2026-11-02") // 3 */
export function daysBetween(from: Day, to: Day): number {
  return Math.round((startOf(to) - startOf(from)) / DAY_MS);
}

/** @throws RangeError when it is no day */
function startOf(day: Day): number {
  const ms = Date.parse(`${day}T00:00:00Z`);
  if (Number.isNaN(ms)) throw new RangeError(`Not a day: ${day}`);
  return ms;
}
