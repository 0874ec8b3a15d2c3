import { EMPTY_CELL, type CellWork } from "../src/core/ledger/cell";
import { dayOf } from "../src/core/time/zone";
import type { Call } from "../src/server/call";
import { handBack } from "../src/server/handingBack/handBack";
import { addColumn } from "../src/server/ledger/addColumn";
import { saveCellNote } from "../src/server/ledger/notes";
import { saveCells } from "../src/server/ledger/save";

/** What stands in the Ledger of a quiz on paper, in the order of the roster, over and over. */
const CELLS: readonly Partial<CellWork>[] = [
  { score: "9" },
  { score: "7.5" },
  { score: "8" },
  { flag: "missing" },
  { score: "10" },
  { score: "6", flag: "late" },
  { score: "8.5" },
  { flag: "away" },
  { score: "4", flag: "unfinished" },
  { score: "9.5" },
  { excused: true },
  { score: "7", flag: "on paper" },
];
/** What is written beside some of them, to the student. */
const NOTES: readonly (readonly [number, string])[] = [
  [0, "The bowline was perfect."],
  [8, "Finish questions 5 and 6 on Friday in the break."],
];
const DAYS_AGO = 16;
const DAY = 86_400_000;

/** A quiz on paper in one section, typed into the Ledger with every flag there is, and handed back where it was scored. */
export async function scorePaper(call: Call, sectionId: string): Promise<void> {
  const then = new Date(call.now.getTime() - DAYS_AGO * DAY);
  const at = { ...call, now: then };
  const on = dayOf(then, call.who.zone);
  const column = { title: "Quiz: knots and bearings", points: "10", on, category: "" };
  const { handOutId } = await addColumn(at, sectionId, column);
  const pieces = await call.tx<{ id: string }[]>`
    select piece.id
    from piece
    join person on person.id = piece.student_id
    where piece.hand_out_id = ${handOutId}
    order by person.sort_name, person.id`;
  const cells = pieces.map(({ id }, n) => ({
    pieceId: id,
    was: EMPTY_CELL,
    now: { ...EMPTY_CELL, ...CELLS[n % CELLS.length] },
  }));
  await saveCells(at, sectionId, cells);
  for (const [n, note] of NOTES) await saveCellNote(at, cells[n]!.pieceId, { was: "", note });
  for (const { pieceId, now } of cells)
    if (now.score !== "") await handBack(at, pieceId, { outcome: "final", due: null });
}
