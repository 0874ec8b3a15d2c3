import type { LedgerCell, LedgerWithGrades } from "@/core/views/ledgerViews";

/** The cells that something can be typed into, by their pieces. */
export function cellsOf(view: Pick<LedgerWithGrades, "rows">): Map<string, LedgerCell> {
  const cells = new Map<string, LedgerCell>();
  for (const row of view.rows)
    for (const cell of row.cells) if (cell?.pieceId) cells.set(cell.pieceId, cell);
  return cells;
}

/** Whose section each of these is, where sections stand side by side; empty where one stands alone. */
export function sectionsOf(view: Pick<LedgerWithGrades, "rows">): Map<string, string> {
  const sections = new Map<string, string>();
  for (const { section, cells } of view.rows)
    for (const cell of section ? cells : [])
      if (cell?.pieceId) sections.set(cell.pieceId, section!.id);
  return sections;
}
