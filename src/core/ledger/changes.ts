import Papa from "papaparse";
import type { Scale } from "../scores/scales";
import { cellText, EMPTY_CELL, readCell, sameCell, withFlag, type CellWork } from "./cell";
import { isOneCell, spotsOf, type Rect, type Spot } from "./rect";
import type { Sign } from "../pieces/flags";

/** One cell before and after; a step of the Ledger is some of these, and its undoing is the same the other way round. */
export type Change = { pieceId: string; before: CellWork; after: CellWork };

/** A cell as acts on many of them find it; `refuses` says why nothing can be typed there. */
export type Target = { pieceId: string; work: CellWork; scale: Scale } | { refuses: string };
export type TargetAt = (spot: Spot) => Target;

/** What stays out of an act, and why. */
export type Misfit = Spot & { typed: string; why: string };
export type Planned = { changes: Change[]; misfits: Misfit[] };

const isBlank = (work: CellWork): boolean => sameCell(work, EMPTY_CELL);

/** What is typed goes to one place, where it is understood. */
export function placeTyped(planned: Planned, at: Spot, target: Target, typed: string): void {
  if ("refuses" in target) {
    if (typed.trim() !== "") planned.misfits.push({ ...at, typed, why: target.refuses });
    return;
  }
  const read = readCell(typed, target.scale, target.work);
  if (!read.ok) planned.misfits.push({ ...at, typed, why: read.why });
  else add(planned, target, read.work);
}

function add(planned: Planned, target: { pieceId: string; work: CellWork }, after: CellWork): void {
  if (!sameCell(target.work, after))
    planned.changes.push({ pieceId: target.pieceId, before: target.work, after });
}

/** The same text into every cell of a stretch; cells that take nothing are passed over in silence where they are many. */
export function planTyped(
  typed: string,
  rect: Rect,
  targetAt: TargetAt,
  only: "all" | "blanks" = "all",
): Planned {
  const planned: Planned = { changes: [], misfits: [] };
  for (const spot of spotsOf(rect)) {
    const target = targetAt(spot);
    if ("refuses" in target && !isOneCell(rect)) continue;
    if (only === "blanks" && "work" in target && !isBlank(target.work)) continue;
    placeTyped(planned, spot, target, typed);
  }
  return planned;
}

/** The first row over those below it, or the first column over those beside it. */
export function planFill(
  way: "down" | "across",
  rect: Rect,
  targetAt: TargetAt,
  only: "all" | "blanks" = "all",
): Planned {
  const planned: Planned = { changes: [], misfits: [] };
  for (const spot of spotsOf(rect)) {
    const source = way === "down" ? { ...spot, row: rect.top } : { ...spot, column: rect.left };
    if (source.row === spot.row && source.column === spot.column) continue;
    const [from, target] = [targetAt(source), targetAt(spot)];
    if ("refuses" in from || "refuses" in target) continue;
    if (only === "blanks" && !isBlank(target.work)) continue;
    if (from.work.score === "") add(planned, target, from.work);
    else placeTyped(planned, spot, target, from.work.score);
  }
  return planned;
}

/** One flag on every cell of a stretch that has a piece: a student who is away for two weeks is one row of it. */
export function planFlag(flag: Sign | null, rect: Rect, targetAt: TargetAt): Planned {
  const planned: Planned = { changes: [], misfits: [] };
  for (const spot of spotsOf(rect)) {
    const target = targetAt(spot);
    if ("work" in target) add(planned, target, withFlag(target.work, flag));
    else if (isOneCell(rect)) planned.misfits.push({ ...spot, typed: "", why: target.refuses });
  }
  return planned;
}

export const PASTE_LIMITS = { rows: 300, columns: 200, characters: 1_000_000 } as const;

/**
 * What a spreadsheet puts on the clipboard: cells parted by tabs, rows by line ends, quoted where they hold either.
 * Rows without anything stand for rows to be emptied; only the last line end says nothing.
 */
export function readPasted(text: string): { rows: string[][]; tooMany: boolean } {
  const read = text.slice(0, PASTE_LIMITS.characters);
  const { data } = Papa.parse<string[]>(read.replace(/(\r\n|\n|\r)$/, ""), {
    delimiter: "\t",
    preview: PASTE_LIMITS.rows + 1,
  });
  const rows = data.slice(0, PASTE_LIMITS.rows).map((row) => row.slice(0, PASTE_LIMITS.columns));
  const tooMany =
    read.length < text.length ||
    data.length > rows.length ||
    data.some((r) => r.length > PASTE_LIMITS.columns);
  return { rows, tooMany };
}

/** The cells of a stretch as a spreadsheet takes them. */
export function writeCopied(rect: Rect, targetAt: TargetAt): string {
  const rows: string[][] = [];
  for (const { row, column } of spotsOf(rect)) {
    const target = targetAt({ row, column });
    (rows[row - rect.top] ??= []).push("work" in target ? cellText(target.work) : "");
  }
  return Papa.unparse(rows, { delimiter: "\t", newline: "\n" });
}

/**
 * Where pasted cells go: from the upper left corner on, one cell over the whole stretch that is chosen. What lies outside
 * the Ledger or is not understood is a misfit and changes nothing.
 */
export function planPaste(
  rows: readonly (readonly string[])[],
  rect: Rect,
  extent: { rows: number; columns: number },
  targetAt: TargetAt,
): Planned {
  if (rows.length === 1 && rows[0]!.length === 1) return planTyped(rows[0]![0]!, rect, targetAt);
  const planned: Planned = { changes: [], misfits: [] };
  for (const [y, cells] of rows.entries())
    for (const [x, typed] of cells.entries()) {
      const at = { row: rect.top + y, column: rect.left + x };
      const outside = at.row >= extent.rows || at.column >= extent.columns;
      if (!outside) placeTyped(planned, at, targetAt(at), typed);
      else if (typed.trim() !== "")
        planned.misfits.push({ ...at, typed, why: "It lies outside of the Ledger." });
    }
  return planned;
}

/** The step that takes this one back. */
export const inverse = (changes: readonly Change[]): Change[] =>
  changes.map(({ pieceId, before, after }) => ({ pieceId, before: after, after: before }));
