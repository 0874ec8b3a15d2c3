import { quartilesOf, type Quartiles } from "./quartiles";

/** How scores lie: by tens of percent, with what stands in the middle. */
export type Spread = Quartiles & {
  count: number;
  /** So many from 0 to below 10, and so on; the last holds 90 and more. */ tens: number[];
  lowest: number;
  highest: number;
};

/** @param percents of what was possible, 0 and more @returns null where there are none */
export function spreadOf(percents: readonly number[]): Spread | null {
  if (percents.length === 0) return null;
  const sorted = [...percents].sort((a, b) => a - b);
  const tens = Array.from({ length: 10 }, () => 0);
  for (const percent of sorted) tens[Math.min(9, Math.max(0, Math.floor(percent / 10)))]! += 1;
  return {
    count: sorted.length,
    tens,
    lowest: sorted[0]!,
    ...quartilesOf(sorted),
    highest: sorted.at(-1)!,
  };
}

/** How many were in by the end of each day. */
export type HandInDay = { day: string; came: number; together: number };

/** @param days of the first hand-ins, as ISO days of the school; days on which nothing came are left out */
export function handInCurve(days: readonly string[]): HandInDay[] {
  const counts = new Map<string, number>();
  for (const day of days) counts.set(day, (counts.get(day) ?? 0) + 1);
  let together = 0;
  return [...counts.keys()].sort().map((day) => {
    const came = counts.get(day)!;
    together += came;
    return { day, came, together };
  });
}
