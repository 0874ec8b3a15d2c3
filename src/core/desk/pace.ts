import { quartilesOf } from "../figures/quartiles";

/** How long the pieces of a pile took, and what that says of the rest. Seconds in, whole minutes out in words. */
export type Pace = {
  median: number;
  pieces: number;
  /** The middle half lies between these (quartiles); null with fewer than four. */ between:
    [number, number] | null;
};

/**
 * The pace from the seconds spent on each piece that was read; null until there are three, since two say
 * nothing. The median, because one piece during which the telephone rang must not count for all.
 */
export function paceOf(seconds: readonly number[]): Pace | null {
  const sorted = seconds.filter((s) => s >= 5).sort((a, b) => a - b);
  if (sorted.length < 3) return null;
  const { median, lower, upper } = quartilesOf(sorted);
  return { median, pieces: sorted.length, between: sorted.length < 4 ? null : [lower, upper] };
}

/**
 * @example sayPace({ median: 240, pieces: 8, between: [180, 300] }, 12) // "4 min a piece; 12 more: about 50 min (35 to 60)"
 */
export function sayPace(pace: Pace | null, left: number): string | null {
  if (!pace) return null;
  const each = `${minutes(pace.median)} a piece`;
  if (left === 0) return each;
  const range =
    pace.between && pace.between[0] < pace.between[1] && left > 1
      ? ` (${about(pace.between[0] * left)} to ${about(pace.between[1] * left)})`
      : "";
  return `${each}; ${left} more: about ${hours(about(pace.median * left))}${range}`;
}

function minutes(seconds: number): string {
  if (seconds < 90) return `${Math.max(1, Math.round(seconds / 10)) * 10} s`;
  const halves = Math.round(seconds / 30) / 2;
  return `${halves} min`;
}

/** Minutes, to the nearest five above a quarter of an hour: an estimate is not more exact than that. */
function about(seconds: number): number {
  const whole = Math.max(1, Math.round(seconds / 60));
  return whole <= 15 ? whole : Math.round(whole / 5) * 5;
}

const hours = (whole: number) =>
  whole < 90
    ? `${whole} min`
    : `${Math.floor(whole / 60)} h${whole % 60 ? ` ${whole % 60} min` : ""}`;
