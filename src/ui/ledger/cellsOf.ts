import type { LedgerCell, LedgerWithGrades } from "@/core/views/ledgerViews";

/** The cells that something can be typed into, by their pieces. */
export function cellsOf(view: Pick<LedgerWithGrades, "rows">): Map<string, LedgerCell> {
  const cells = new Map<string, LedgerCell>();
  for (const row of view.rows)
    for (const cell of row.cells) if (cell?.pieceId) cells.set(cell.pieceId, cell);
  return cells;
}
