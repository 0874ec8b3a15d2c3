import { fold, wordsOf } from "../text/finding";
import type { LedgerRow, LedgerWithGrades } from "../views/ledgerViews";
import { PASTE_LIMITS, placeTyped, type Planned, type TargetAt } from "./changes";
import { GRADE_HEADS, headsOf, outText, STUDENT } from "./outTable";

/** What a table would change, and what of it belongs to nobody or nothing here. */
export type BroughtIn = Planned & { strangers: string[]; unknownWork: string[]; tooMany: boolean };

type About = {
  view: Pick<LedgerWithGrades, "columns">;
  /** Those that are shown, in the order that `targetAt` counts them in. */ rows: readonly LedgerRow[];
  targetAt: TargetAt;
};

/**
 * A table that comes back, by student and column: the first row names the work as it went out (or by its title alone,
 * where only one is called so), the first column names the students, in whatever order. A cell that says what it said when
 * it went out changes nothing; an empty one neither, for a table may hold only some of the scores.
 */
export function planBringIn(
  table: readonly (readonly string[])[],
  { view, rows, targetAt }: About,
): BroughtIn {
  const kept = table.slice(0, PASTE_LIMITS.rows);
  const [head = [], ...lines] = kept;
  const columns = head.map((name, n) => (n === 0 ? null : columnOf(name, view)));
  const byName = new Map(rows.map((row, n) => [keyOf(row.student), n]));
  const planned: BroughtIn = {
    ...{ changes: [], misfits: [], strangers: [] },
    unknownWork: head.filter((name, n) => n > 0 && columns[n] === "unknown"),
    tooMany: table.length > kept.length,
  };
  for (const [name = "", ...cells] of lines) {
    const row = byName.get(keyOf(name));
    if (row === undefined) {
      if (name.trim() !== "") planned.strangers.push(name.trim());
      continue;
    }
    for (const [n, typed] of cells.entries()) {
      const column = columns[n + 1];
      if (typeof column !== "number" || typed.trim() === "") continue;
      if (typed.trim() === outText(rows[row]!.cells[column] ?? null)) continue;
      // The Ledger's columns begin after the grade.
      const at = { row, column: column + 1 };
      placeTyped(planned, at, targetAt(at), typed.trim());
    }
  }
  return planned;
}

/** A name in whatever order its words stand, "Sørby, Ines" as "Ines Sørby". */
const keyOf = (name: string): string => wordsOf(fold(name)).sort().join(" ");

const NOT_TYPED = [STUDENT, ...GRADE_HEADS].map(fold);

/** The number of the column; null: nothing is brought into it; "unknown": no such work is here. */
function columnOf(
  name: string,
  { columns }: Pick<LedgerWithGrades, "columns">,
): number | null | "unknown" {
  const wanted = fold(name.trim());
  if (wanted === "" || NOT_TYPED.includes(wanted)) return null;
  const byHead = headsOf(columns).findIndex((head) => fold(head) === wanted);
  if (byHead >= 0) return byHead;
  const titled = columns.flatMap(({ title }, n) => (fold(title) === wanted ? [n] : []));
  return titled.length === 1 ? titled[0]! : "unknown";
}
