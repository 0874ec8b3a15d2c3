import type { LedgerCell, LedgerColumn, LedgerRow, LedgerWithGrades } from "../views/ledgerViews";
import { cellText } from "./cell";

/** A cell on its way out: what stands in it, as a number where it is one, and what a spreadsheet's note says of it. */
export type OutCell = { words: string; number: boolean; note: string };
export type OutTable = { head: string[]; rows: OutCell[][] };

/** The first column's head, and those of the grade. */
export const STUDENT = "student";
export const GRADE_HEADS = ["grade in percent", "grade"] as const;

/** What a column is called outside: title and points; where two are called alike, the day too. */
export function headsOf(columns: readonly LedgerColumn[]): string[] {
  const plain = columns.map(({ title, possible }) =>
    possible ? `${title} (of ${possible})` : title,
  );
  return plain.map((head, n) =>
    plain.filter((other) => other === head).length > 1 ? `${head}, ${columns[n]!.dueOn}` : head,
  );
}

/** What stands in a cell outside: the score as it counts or is drafted, else the word of a flag. It can be brought back. */
export function outText(cell: LedgerCell | null): string {
  if (!cell) return "";
  return (cell.draft ?? cell.score ?? "") || cellText({ ...cell.work, score: "" });
}

/** What is written beside cells, by their pieces. */
export type OutNotes = ReadonlyMap<string, string>;

/** The Ledger as a table: a row for each student, the grade at the end. */
export function outTable(view: LedgerWithGrades, notes: OutNotes = new Map()): OutTable {
  return {
    head: [STUDENT, ...headsOf(view.columns), ...GRADE_HEADS],
    rows: view.rows.map((row) => rowOf(row, view, notes)),
  };
}

function rowOf(row: LedgerRow, view: LedgerWithGrades, notes: OutNotes): OutCell[] {
  const grade = view.grades[row.studentId];
  const frozen = grade?.frozen ? "frozen" : "";
  return [
    text(row.student),
    ...row.cells.map((cell, n) => outCell(cell, { takenOff: row.takenOff[n]!, notes })),
    { ...text(grade?.percent ?? ""), number: Boolean(grade?.percent), note: frozen },
    text(grade?.name ?? ""),
  ];
}

const text = (words: string): OutCell => ({ words, number: false, note: "" });

function outCell(
  cell: LedgerCell | null,
  { takenOff, notes }: { takenOff: boolean; notes: OutNotes },
): OutCell {
  if (!cell) return { ...text(""), note: takenOff ? "taken off again" : "not given" };
  const words = outText(cell);
  const written = cell.pieceId ? notes.get(cell.pieceId) : undefined;
  return {
    words,
    number: /^-?\d+(\.\d+)?$/.test(words),
    note: [noteOf(cell), written].filter(Boolean).join("\n"),
  };
}

function noteOf({ draft, work, moon }: LedgerCell): string {
  return [
    draft === null ? "" : "draft, not handed back",
    work.excused ? "excused" : "",
    work.flag ?? "",
    moon.late && work.flag !== "late" ? "late" : "",
    moon.missing && work.flag !== "missing" ? "missing" : "",
  ]
    .filter(Boolean)
    .join(", ");
}
