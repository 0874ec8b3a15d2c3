import { may } from "@/core/access/access";
import { mergeCell, type CellWork } from "@/core/ledger/cell";
import { Invalid, NotFound } from "@/core/refusals";
import { readScore, type Scale } from "@/core/scores/scales";
import type { LedgerCell, SavedCell, SavedCells } from "@/core/views/ledgerViews";
import { requireOnPieces, requireOnSection } from "../access/standing";
import type { Call } from "../call";
import { sectionGrades } from "../grades/grades";
import { lockPiece } from "../life/queries";
import { changeDraft } from "../marking/draft";
import { setExcused, setFlag } from "../marking/flag";
import {
  byPiece,
  cellOf,
  readCellRows,
  readCells,
  workOf,
  type CellRow,
  type CellScale,
} from "../grades/cells";
import { readColumns, scaleOfColumn } from "./view";

export type GivenCell = { pieceId: string; was: CellWork; now: CellWork };

/**
 * Keeps what was typed into cells of a section's Ledger: a score in the draft of the round that feedback is about (the
 * same draft, and the same score, as at the Desk), a flag, excused. Each cell by itself: one that was changed elsewhere
 * since it was read is told and left as it is (rows are locked in one order by all), one that cannot be understood says why, and the others are kept.
 *
 * @throws NotFound for a piece that is not of this section
 */
export async function saveCells(
  call: Call,
  sectionId: string,
  given: readonly GivenCell[],
  term: string | null = null,
): Promise<SavedCells> {
  const ids = given.map((cell) => cell.pieceId);
  if (new Set(ids).size < ids.length) throw new Invalid({ cells: "A cell is in here twice." });
  const standing = await requireOnSection(call.tx, call.who, sectionId, "ledger.see");
  await requireOnPieces(call, ids, "feedback.draft");
  for (const id of [...ids].sort()) await lockPiece(call.tx, id);
  const [rows, columns] = await Promise.all([
    readCellRows(call, sectionId, { pieceIds: ids }),
    readColumns(call, sectionId),
  ]);
  const before = new Map(rows.map((row) => [row.id, row]));
  const scales = new Map(columns.map((column) => [column.id, scaleOfColumn(column)]));
  const outcomes = new Map<string, Outcome>();
  for (const cell of given) {
    const row = before.get(cell.pieceId);
    if (!row || row.hidden) throw new NotFound();
    const { scale } = scales.get(row.handOutId)!;
    const about = { row, scale, mayExcept: may(standing, "piece.except") };
    outcomes.set(cell.pieceId, await saveCell(call, cell, about));
  }
  return answer(call, sectionId, { outcomes, scales, term });
}

type Outcome =
  { outcome: "saved" } | { outcome: "refused"; why: string } | { outcome: "conflict"; by: string };

async function saveCell(
  call: Call,
  { pieceId, was, now }: GivenCell,
  { row, scale, mayExcept }: { row: CellRow; scale: Scale; mayExcept: boolean },
): Promise<Outcome> {
  const stored = workOf(row);
  const merged = mergeCell(was, now, stored);
  if (!merged) {
    const byScore = stored.score !== was.score ? row.changedBy : null;
    return { outcome: "conflict", by: byScore ?? "Someone else" };
  }
  const why = refusal(stored, merged, { scale, mayExcept });
  if (why) return { outcome: "refused", why };
  if (stored.score !== merged.score)
    await changeDraft(call, pieceId, () => ({ score: merged.score }));
  if (stored.flag !== merged.flag) await setFlag(call, pieceId, { flag: merged.flag });
  if (stored.excused !== merged.excused) await setExcused(call, pieceId, merged);
  return { outcome: "saved" };
}

/** Why a cell cannot become what is wanted; asked before anything is written. */
function refusal(
  stored: CellWork,
  wanted: CellWork,
  { scale, mayExcept }: { scale: Scale; mayExcept: boolean },
): string | null {
  if (stored.excused !== wanted.excused && !mayExcept)
    return "Excusing a student is for the section’s owner and co-teachers who may hand back.";
  if (wanted.score === "" || wanted.score === stored.score) return null;
  const read = readScore(wanted.score, scale);
  return read.ok ? null : read.why;
}

/** The cells as they now stand, and the grades they make. */
async function answer(
  call: Call,
  sectionId: string,
  {
    outcomes,
    scales,
    term,
  }: {
    outcomes: ReadonlyMap<string, Outcome>;
    scales: ReadonlyMap<string, CellScale>;
    /** The one whose grades are looked at. */ term: string | null;
  },
): Promise<SavedCells> {
  const ids = [...outcomes.keys()];
  const { rows, scores } = await readCells(call, sectionId, { pieceIds: ids });
  const studentIds = [...new Set(rows.map((row) => row.studentId))];
  const { grades } = await sectionGrades(call, sectionId, { studentIds, term });
  const rounds = byPiece(scores);
  const cells = rows.map((row): SavedCell => {
    const scale: CellScale = scales.get(row.handOutId)!;
    const cell: LedgerCell = cellOf(row, scale, rounds.get(row.id) ?? []);
    return { pieceId: row.id, cell, ...outcomes.get(row.id)! };
  });
  return { cells, grades };
}
