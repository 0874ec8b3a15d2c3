import { mondayOf } from "../time/term";
import type { LedgerView } from "../views/ledgerViews";

export const GROUPINGS = ["none", "category", "month", "week"] as const;
export type Grouping = (typeof GROUPINGS)[number];

/** How a teacher has laid out a section's Ledger, by its hand-outs. Work that came later stands behind what was ordered. */
export type LedgerLayout = {
  hidden: string[];
  order: string[];
  group: Grouping;
  sort: LedgerSort;
  /** In CSS pixels, of those that were made wider or narrower. */ widths: ColumnWidth[];
};
export type ColumnWidth = { id: string; px: number };
/** How the rows are sorted: by name, grade, or the scores of a hand-out. */
export type LedgerSort = { by: string; down: boolean };
export const PLAIN_LAYOUT: LedgerLayout = {
  ...{ hidden: [], order: [], group: "none", widths: [] },
  sort: { by: "name", down: false },
};

/** A score with its signs is always in sight, and no column takes the whole screen. */
export const WIDTHS = { least: 72, most: 420, step: 16 } as const;

/** A width as near as can be to what is wanted, in whole pixels. */
export const widthNear = (px: number): number =>
  Math.round(Math.max(WIDTHS.least, Math.min(WIDTHS.most, px)));

/** More columns than this no Ledger has. */
export const MOST_COLUMNS = 400;

type Column = LedgerView["columns"][number];

/**
 * The Ledger as it was laid out: without hidden columns, in the teacher's order, and by groups where they are asked for
 * (within a group the order stays). No column is lost: what the layout does not name comes after what it does, by its day.
 */
export function laidOut<V extends LedgerView>(view: V, layout: LedgerLayout): V {
  const places = new Map(layout.order.map((id, n) => [id, n]));
  const hidden = new Set(layout.hidden);
  const placeOf = (n: number) => places.get(view.columns[n]!.handOutId) ?? layout.order.length + n;
  const widths = new Map(layout.widths.map(({ id, px }) => [id, px]));
  const groups = view.columns.map((column) => groupOf(column, layout.group));
  const first = new Map<string, number>();
  const byPlace = view.columns
    .map((_, n) => n)
    .filter((n) => !hidden.has(view.columns[n]!.handOutId))
    .sort((a, b) => placeOf(a) - placeOf(b));
  for (const [at, n] of byPlace.entries()) if (!first.has(groups[n]!)) first.set(groups[n]!, at);
  const kept = byPlace.sort((a, b) => first.get(groups[a]!)! - first.get(groups[b]!)!);
  const pick = <T>(all: readonly T[]): T[] => kept.map((n) => all[n]!);
  return {
    ...view,
    columns: pick(
      view.columns.map((column, n) => ({
        ...{ ...column, group: groups[n]! },
        width: widths.get(column.handOutId) ?? null,
      })),
    ),
    rows: view.rows.map((row) => ({
      ...row,
      takenOff: pick(row.takenOff),
      cells: pick(row.cells),
    })),
  };
}

const MONTHS = [
  ...["January", "February", "March", "April", "May", "June"],
  ...["July", "August", "September", "October", "November", "December"],
];

/** What a column's group is called; "" where there are none. */
function groupOf({ category, dueOn }: Column, group: Grouping): string {
  const said: Record<Grouping, () => string> = {
    none: () => "",
    category: () => category || "no category",
    month: () => MONTHS[Number(dueOn.slice(5, 7)) - 1]!,
    week: () => `week of ${Number(mondayOf(dueOn).slice(8))} ${monthIn(mondayOf(dueOn))}`,
  };
  return said[group]();
}

const monthIn = (day: string): string => MONTHS[Number(day.slice(5, 7)) - 1]!.slice(0, 3);
