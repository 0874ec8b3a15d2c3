import { fold } from "../text/finding";
import type { LedgerRow } from "../views/ledgerViews";

/** Which students are shown: all, or those with something that wants a look. */
export const ROWS_SHOWN = ["all", "missing", "late", "draft", "blank"] as const;
export type RowsShown = (typeof ROWS_SHOWN)[number];

/** What is asked of a cell as it stands on the screen. */
export type CellSigns = { missing: boolean; late: boolean; draft: boolean; blank: boolean };

/**
 * Whether a row is among those that are wanted: any of its cells is missing, late or a draft that was not handed back; or
 * there is no score in the column one is at, and something can be typed there.
 *
 * @param signs of the cells of the row, null where the work was not given
 * @param column the one one is at, counted from 0; -1: none
 */
export function isShown(
  signs: readonly (CellSigns | null)[],
  shown: RowsShown,
  column: number,
): boolean {
  if (shown === "all") return true;
  if (shown === "blank") return signs[column]?.blank ?? false;
  return signs.some((cell) => cell?.[shown] ?? false);
}

/** Where a row stands by what it is sorted by; null: it has nothing to be sorted by, and comes last either way. */
type Worth = { key: string; n: number; worth: number | null };

/**
 * The keys of rows as they are sorted: the same are in the order of their names. Where sections stand side by side and are
 * not mixed, each section's rows stay together, in the order of the sections.
 *
 * @param rows in the order of sections and names
 */
export function sortedKeys(
  rows: readonly LedgerRow[],
  worthOf: (row: LedgerRow) => number | null,
  { down, mixed }: { down: boolean; mixed: boolean },
): string[] {
  const places = new Map<string, number>();
  for (const { section } of rows)
    if (section && !places.has(section.id)) places.set(section.id, places.size);
  const sectionPlace = (row: LedgerRow) =>
    mixed || !row.section ? 0 : places.get(row.section.id)!;
  return rows
    .map((row, n) => ({ key: row.key, n, worth: worthOf(row), place: sectionPlace(row) }))
    .sort((a, b) => a.place - b.place || compareWorth(a, b, down))
    .map(({ key }) => key);
}

function compareWorth(a: Worth, b: Worth, down: boolean): number {
  if (a.worth === null || b.worth === null)
    return Number(a.worth === null) - Number(b.worth === null) || a.n - b.n;
  return (down ? b.worth - a.worth : a.worth - b.worth) || a.n - b.n;
}

/** The students whose names have what is looked for, whatever its accents. */
export function namedLike(rows: readonly LedgerRow[], query: string): readonly LedgerRow[] {
  const wanted = fold(query.trim());
  return wanted === "" ? rows : rows.filter((row) => fold(row.student).includes(wanted));
}
