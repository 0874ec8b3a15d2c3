"use client";

import Link from "next/link";
import type { CellWork } from "@/core/ledger/cell";
import type { LedgerWithGrades } from "@/core/views/ledgerViews";
import { MineOrTheirs } from "../kit/MineOrTheirs";
import { sayCell, scoreHere, type CellHere } from "./sayCell";
import type { LedgerStage, LedgerStore, Touched } from "./LedgerStore";
import { deskOf } from "./useGridHands";
import { GRADE_COLUMN, type LedgerHands } from "./useLedger";

const STAGES: Readonly<Record<LedgerStage, string>> = {
  saved: "Saved",
  changed: "Saving…",
  sending: "Saving…",
  waiting: "No connection: what you typed is kept on this device and goes by itself",
  "signed out": "Sign in again: what you typed is kept on this device",
};

type Props = { store: LedgerStore; view: LedgerWithGrades; hands: LedgerHands };

/** What one is at, in words, and whether what was typed has arrived. */
export function CellLine({ store, view, hands }: Props) {
  const { state } = hands;
  const here = hands.hereAt(hands.at);
  const desk = deskOf({ hands, view });
  return (
    <div className="no-print mb-2">
      <p className="flex min-h-7 flex-wrap items-baseline gap-x-4">
        <span className="min-w-0">
          <strong>{hands.rows[hands.at.row]!.student}</strong> · {sayColumn(view, hands.at.column)}
          {here ? <span className="text-soft">: {sayHere(here)}</span> : null}
        </span>
        {desk ? (
          <Link href={desk} prefetch={false} className="inline-flex min-h-6 items-center">
            Open at the Desk <kbd className="ml-1 max-sm:hidden">Alt+Enter</kbd>
          </Link>
        ) : null}
        <span className="ml-auto text-sm text-soft" role="status" data-saving>
          {STAGES[state.stage]}
          {state.deviceKeeps ? "" : " · this browser keeps nothing on the device"}
        </span>
      </p>
      {here?.touched?.theirs && here.cell.pieceId ? (
        <Conflict touched={here.touched} onChoose={(w) => store.choose(here.cell.pieceId!, w)} />
      ) : null}
    </div>
  );
}

const sayColumn = (view: LedgerWithGrades, column: number): string =>
  column === GRADE_COLUMN ? "the grade" : view.columns[column - 1]!.title;

/** The cell in words; where a draft stands over what was handed back, that too. */
function sayHere(here: CellHere): string {
  const { score } = here.cell;
  return score !== null && scoreHere(here).draft
    ? `${sayCell(here)}; handed back: ${score}`
    : sayCell(here);
}

function Conflict({
  touched,
  onChoose,
}: {
  touched: Touched;
  onChoose: (which: "mine" | "theirs") => void;
}) {
  const { by, cell } = touched.theirs!;
  return (
    <div
      role="group"
      aria-label="Changed by two"
      className="flex flex-wrap items-center gap-3 border-l-4 border-ember bg-ember-wash px-3 py-1.5"
    >
      <span>
        You typed <strong>{sayWork(touched.work)}</strong>; {by} made it{" "}
        <strong>{sayWork(cell.work)}</strong> meanwhile. Neither is lost until you choose.
      </span>
      <MineOrTheirs onChoose={onChoose} />
    </div>
  );
}

const sayWork = ({ score, flag, excused }: CellWork): string =>
  [score, flag ?? "", excused ? "excused" : ""].filter(Boolean).join(", ") || "empty";
