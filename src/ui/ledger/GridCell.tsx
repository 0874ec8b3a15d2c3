"use client";

import { useId } from "react";
import type { CellNoted } from "@/core/views/ledgerViews";
import { isWithin, type Spot } from "@/core/ledger/rect";
import { classes } from "../kit/classes";
import { Moon } from "../kit/Moon";
import { NotTheirs } from "../kit/NotTheirs";
import { FlagSign } from "../kit/FlagSign";
import { moonHere, sayCell, scoreHere, type CellHere } from "./sayCell";
import type { LedgerHands } from "./useLedger";

type Props = {
  spot: Spot;
  left: number;
  width: number;
  takenOff: boolean;
  label: string;
  hands: LedgerHands;
};

/** One cell: state, flag and score; a field while it is typed into; hatched where there is no piece. */
export function GridCell(props: Props) {
  const { spot, left, width, takenOff, label, hands } = props;
  const here = hands.hereAt(spot);
  const isAt = hands.at.row === spot.row && hands.at.column === spot.column;
  const selected = isWithin(spot, hands.rect);
  if (isAt && hands.typing !== null)
    return (
      <div
        role="gridcell"
        aria-colindex={spot.column + 2}
        aria-selected={selected}
        data-spot={`${spot.row}:${spot.column}`}
        className={lookOf({ selected, isAt, hatched: false, two: false })}
        style={{ left, width }}
      >
        <CellField label={label} hands={hands} />
      </div>
    );
  const look = { selected, isAt, hatched: !here && !takenOff, two: Boolean(here?.touched?.theirs) };
  return (
    <div
      role="gridcell"
      aria-colindex={spot.column + 2}
      aria-selected={selected}
      aria-readonly={here?.cell.pieceId ? undefined : "true"}
      aria-label={here ? `${label}: ${sayCell(here)}` : undefined}
      tabIndex={isAt ? 0 : -1}
      data-spot={`${spot.row}:${spot.column}`}
      data-focus=""
      className={lookOf(look)}
      style={{ left, width }}
    >
      {here ? <Inside here={here} /> : <NotTheirs takenOff={takenOff} />}
    </div>
  );
}

const lookOf = (cell: { selected: boolean; isAt: boolean; hatched: boolean; two: boolean }) =>
  classes(
    "absolute top-0 flex h-full cursor-cell items-center gap-1 border-l border-line px-1.5 select-none",
    cell.selected && "bg-tide-wash",
    cell.isAt && "outline-2 -outline-offset-2 outline-tide",
    cell.hatched && "hatched",
    cell.two && "border-2! border-ember!",
  );

/** The corner of a cell beside which something is written: hollow for a word to the student, filled where some of it is private. */
const NoteCorner = ({ noted }: { noted: CellNoted }) => (
  <svg aria-hidden="true" viewBox="0 0 9 9" className="absolute top-0 right-0 size-2 text-soft">
    <path
      d="M1 0.5 H8.5 V8 Z"
      fill={noted.kept > 0 ? "currentColor" : "none"}
      stroke="currentColor"
    />
  </svg>
);

function Inside({ here }: { here: CellHere }) {
  const { words, draft } = scoreHere(here);
  const { flag, excused } = here.work;
  const sign = excused ? "excused" : flag;
  return (
    <span aria-hidden="true" className="flex w-full items-center gap-1">
      {here.cell.noted ? <NoteCorner noted={here.cell.noted} /> : null}
      <Moon moon={moonHere(here)} size={15} named={false} />
      {sign ? <FlagSign flag={sign} size={15} /> : null}
      {here.touched?.theirs ? <span className="font-bold text-ember">≠</span> : null}
      <span
        data-draft={draft ? "" : undefined}
        className={classes(
          "min-w-0 flex-1 truncate text-right",
          draft && "underline decoration-dotted decoration-tide underline-offset-4",
        )}
      >
        {words === "" && draft ? "–" : words}
        {here.touched?.unsent ? <span className="text-soft"> …</span> : null}
      </span>
    </span>
  );
}

/** The cell as a field: what is not understood is said at once, and nothing of it goes. */
function CellField({ label, hands }: { label: string; hands: LedgerHands }) {
  const id = useId();
  const { text, why } = hands.typing!;
  return (
    <>
      <input
        autoFocus
        aria-label={label}
        aria-invalid={why !== ""}
        aria-describedby={why ? id : undefined}
        data-typing
        className="h-7 w-full min-w-0 bg-raised px-1 text-right text-ink outline-2 outline-tide aria-invalid:outline-ember"
        value={text}
        maxLength={60}
        onChange={(event) => hands.setTyping({ text: event.target.value, why: "" })}
        onBlur={() => hands.leave()}
      />
      {why ? (
        <p
          id={id}
          role="alert"
          className="absolute top-full right-0 z-30 w-72 border border-ember bg-raised p-2 text-sm text-ember"
        >
          {why}
        </p>
      ) : null}
    </>
  );
}
