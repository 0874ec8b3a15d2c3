"use client";

import { useEffect, useState } from "react";
import { readCell } from "@/core/ledger/cell";
import { planTyped, type TargetAt } from "@/core/ledger/changes";
import { isOneCell, rectOf, type Rect, type Spot } from "@/core/ledger/rect";
import type { LedgerRow, LedgerWithGrades } from "@/core/views/ledgerViews";
import { useObserved } from "../keeping/useObserved";
import { browserWorld } from "../keeping/world";
import { LedgerStore } from "./LedgerStore";
import type { CellHere } from "./sayCell";
import { sendCells } from "./sendCells";

/** The first column is the grade; it is worked out and takes nothing. */
export const GRADE_COLUMN = 0;

export function useLedgerStore(view: LedgerWithGrades): LedgerStore {
  const [store] = useState(() => {
    const made: LedgerStore = new LedgerStore(view, browserWorld, (cells) =>
      sendCells(view, cells, (pieceId) => made.sectionOf(pieceId)),
    );
    return made;
  });
  useEffect(() => store.start(), [store]);
  useEffect(() => store.takeView(view), [store, view]);
  return store;
}

/** What is chosen of the Ledger: the cell one is at, the other corner of a stretch, and what is being typed. */
export type Chosen = { at: Spot; corner: Spot };
/** `whole`: opened with what stands there; else what is typed takes its place. */
export type Typing = { text: string; why: string };

/** Where something typed goes, over the given rows; it says why nothing can be typed there. */
export function targetsOver(
  store: LedgerStore,
  view: LedgerWithGrades,
  rows: readonly LedgerRow[],
): TargetAt {
  return (spot) => {
    const refuses = refusalAt(view, rows[spot.row], spot.column);
    if (refuses) return { refuses };
    const { cell, work } = hereIn(store, rows[spot.row], spot.column - 1)!;
    return { pieceId: cell.pieceId!, work, scale: view.columns[spot.column - 1]!.scale };
  };
}

/** A cell of a row as it stands here, whatever of it is sent; its column counts from 0. Null: there is none. */
export function hereIn(
  store: LedgerStore,
  row: LedgerRow | undefined,
  column: number,
): CellHere | null {
  const cell = row?.cells[column];
  if (!cell) return null;
  const found = cell.pieceId ? store.at(cell.pieceId) : null;
  return found ?? { cell, work: cell.work, touched: null };
}

export type LedgerHands = ReturnType<typeof useLedgerHands>;

/**
 * The Ledger under the hands: where one is, what is typed, and what the acts on it do. Rows come in the order in which
 * they are shown.
 */
export function useLedgerHands(
  store: LedgerStore,
  view: LedgerWithGrades,
  rows: readonly LedgerRow[],
) {
  const state = useObserved(store);
  const [chosen, setChosen] = useState<Chosen>({
    at: { row: 0, column: Math.min(1, view.columns.length) },
    corner: { row: 0, column: Math.min(1, view.columns.length) },
  });
  const [typing, setTyping] = useState<Typing | null>(null);
  const extent = { rows: rows.length, columns: view.columns.length + 1 };
  const within = (spot: Spot): Spot => ({
    row: Math.max(0, Math.min(spot.row, extent.rows - 1)),
    column: Math.min(spot.column, extent.columns - 1),
  });
  const at = within(chosen.at);
  const corner = within(chosen.corner);
  const rect: Rect = rectOf(at, corner);

  const hereAt = (spot: Spot) => hereIn(store, rows[spot.row], spot.column - 1);
  const targetAt = targetsOver(store, view, rows);

  function go(to: Spot, extend = false): void {
    setChosen(extend ? { at, corner: within(to) } : { at: within(to), corner: within(to) });
  }
  /** Opens the cell for typing, with a first sign in place of what stands there. */
  function open(text: string): void {
    const target = targetAt(at);
    if ("refuses" in target) store.say(target.refuses);
    else setTyping({ text, why: "" });
  }
  /** Keeps what is typed, over the stretch where one is chosen and it is meant. @returns whether it was understood */
  function commit(everywhere = false): boolean {
    if (!typing) return true;
    const target = targetAt(at);
    if ("refuses" in target) return true;
    const read = readCell(typing.text, target.scale, target.work);
    if (!read.ok) {
      setTyping({ ...typing, why: read.why });
      return false;
    }
    const over = everywhere ? rect : rectOf(at, at);
    const { changes, misfits } = planTyped(typing.text, over, targetAt);
    setTyping(null);
    store.apply(changes);
    if (read.note) store.say(read.note);
    else if (misfits.length > 0) store.say(`${misfits.length} of these take no such score.`);
    return true;
  }

  return {
    ...{ state, at, corner, rect, extent, typing, rows },
    ...{ hereAt, targetAt, go, open, commit, setTyping },
    isStretch: !isOneCell(rect),
    cancel: () => setTyping(null),
    /** The field lost the focus: what it holds is kept where it is understood, and else said and left out. */
    leave() {
      if (!typing || commit()) return;
      setTyping(null);
      store.say(`“${typing.text}” was not kept: it is no score and no flag.`);
    },
    goAll: () =>
      setChosen({
        at: { row: 0, column: Math.min(1, extent.columns - 1) },
        corner: { row: extent.rows - 1, column: extent.columns - 1 },
      }),
  };
}

/** Why nothing can be typed into a cell; null: it can. */
function refusalAt(
  view: LedgerWithGrades,
  row: LedgerRow | undefined,
  column: number,
): string | null {
  if (column === GRADE_COLUMN || !row) return "The grade is worked out from the scores.";
  const cell = row.cells[column - 1];
  const { title } = view.columns[column - 1]!;
  if (cell?.pieceId) return null;
  if (cell) return `Names are hidden for ${title} until it is handed back: score it at the Desk.`;
  if (row.takenOff[column - 1]) return `${row.student} was taken off ${title}.`;
  return `${title} was not given to ${row.student}.`;
}
