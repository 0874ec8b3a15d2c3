import type { PieceFlag } from "../pieces/flags";
import type { PieceState } from "../pieces/life";
import type { LedgerCell, LedgerPage, LedgerRow } from "../views/ledgerViews";

/** A cell in a line: its fields in this order, with those that are yes or no as bits of one number. */
type PackedCell = [
  pieceId: string | null,
  typed: string,
  flag: PieceFlag | null,
  score: string | null,
  draft: string | null,
  kept: number | null,
  state: PieceState,
  round: number,
  bits: number,
];
type PackedRow = Omit<LedgerRow, "cells" | "takenOff"> & {
  cells: (PackedCell | null)[];
  /** The numbers of the columns. */ takenOff: number[];
};
type Packed = Omit<LedgerPage, "rows"> & { rows: PackedRow[] };

const EXCUSED = 1;
const LATE = 2;
const MISSING = 4;
const NOTED_TO_STUDENT = 8;
/** A cell without a name says that it is excused, and has nothing typed. */
const MOON_EXCUSED = 16;

/**
 * A Ledger as text for the way to the browser: 18,000 cells as objects are four times as long, and take the server as
 * long to write as all else of the page.
 *
 * @returns JSON; `unpackLedger` gives back the same Ledger
 */
export function packLedger(view: LedgerPage): string {
  const packed: Packed = {
    ...view,
    rows: view.rows.map(({ cells, takenOff, ...row }) => ({
      ...row,
      cells: cells.map((cell) => cell && packCell(cell)),
      takenOff: takenOff.flatMap((isOff, n) => (isOff ? [n] : [])),
    })),
  };
  return JSON.stringify(packed);
}

function packCell({ pieceId, work, score, draft, noted, moon }: LedgerCell): PackedCell {
  const bits =
    (work.excused ? EXCUSED : 0) |
    (moon.late ? LATE : 0) |
    (moon.missing ? MISSING : 0) |
    (noted?.toStudent ? NOTED_TO_STUDENT : 0) |
    (moon.excused ? MOON_EXCUSED : 0);
  const kept = noted && noted.kept;
  return [pieceId, work.score, work.flag, score, draft, kept, moon.state, moon.round, bits];
}

/** The Ledger that was packed. */
export function unpackLedger(text: string): LedgerPage {
  const packed = JSON.parse(text) as Packed;
  return {
    ...packed,
    rows: packed.rows.map(({ cells, takenOff, ...row }) => {
      const off = new Set(takenOff);
      return {
        ...row,
        cells: cells.map((cell) => cell && unpackCell(cell)),
        takenOff: cells.map((_, n) => off.has(n)),
      };
    }),
  };
}

function unpackCell(packed: PackedCell): LedgerCell {
  const [pieceId, typed, flag, score, draft, kept, state, round, bits] = packed;
  const has = (bit: number) => (bits & bit) !== 0;
  return {
    ...{ pieceId, score, draft },
    work: { score: typed, flag, excused: has(EXCUSED) },
    noted: kept === null ? null : { kept, toStudent: has(NOTED_TO_STUDENT) },
    moon: { state, round, late: has(LATE), missing: has(MISSING), excused: has(MOON_EXCUSED) },
  };
}
