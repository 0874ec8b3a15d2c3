"use client";

import { useEffect, useMemo, useState } from "react";
import { contract } from "@/core/api/contract";
import { fold } from "@/core/text/finding";
import { readCell } from "@/core/ledger/cell";
import { planTyped, type TargetAt } from "@/core/ledger/changes";
import { isOneCell, rectOf, type Rect, type Spot } from "@/core/ledger/rect";

import { readScore } from "@/core/scores/scales";
import type { LedgerRow, LedgerWithGrades } from "@/core/views/ledgerViews";
import { call } from "../client";
import { useObserved } from "../keeping/useObserved";
import { browserWorld } from "../keeping/world";
import { LedgerStore } from "./LedgerStore";
import { scoreHere, type CellHere } from "./sayCell";

/** The first column is the grade; it is worked out and takes nothing. */
export const GRADE_COLUMN = 0;

export function useLedgerStore(view: LedgerWithGrades): LedgerStore {
  const [store] = useState(
    () =>
      new LedgerStore(view, browserWorld, (cells) =>
        call(contract.saveCells, {
          params: { sectionId: view.section.id },
          body: { cells, term: view.term },
        }),
      ),
  );
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
    const { cell, work } = hereOver(store, rows, spot)!;
    return { pieceId: cell.pieceId!, work, scale: view.columns[spot.column - 1]!.scale };
  };
}

function hereOver(store: LedgerStore, rows: readonly LedgerRow[], spot: Spot): CellHere | null {
  const cell = rows[spot.row]?.cells[spot.column - 1];
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

  const hereAt = (spot: Spot) => hereOver(store, rows, spot);
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

export type RowOrder = { by: "name" | "grade" | number; down: boolean };

/** The rows as they were ordered when one asked for it: nothing moves while one types. */
export function useRows(store: LedgerStore, view: LedgerWithGrades) {
  const [order, setOrder] = useState<{ ids: readonly string[] | null } & RowOrder>({
    ...{ ids: null, by: "name", down: false },
  });
  const [query, setQuery] = useState("");
  const rows = useMemo(() => {
    const places = new Map(order.ids?.map((id, n) => [id, n]));
    const sorted = order.ids
      ? [...view.rows].sort(
          (a, b) => (places.get(a.studentId) ?? 1e6) - (places.get(b.studentId) ?? 1e6),
        )
      : view.rows;
    const wanted = fold(query.trim());
    return wanted === "" ? sorted : sorted.filter((row) => fold(row.student).includes(wanted));
  }, [view.rows, order.ids, query]);

  function sort(by: RowOrder["by"]): void {
    const down = order.by === by ? !order.down : by !== "name";
    const worth = worthOf(store, view, by);
    const ids = view.rows
      .map((row, n) => ({ id: row.studentId, n, worth: worth(row, n) }))
      .sort((a, b) => compareWorth(a, b, down))
      .map(({ id }) => id);
    setOrder({ ids, by, down });
  }
  return { rows, order, sort, query, setQuery };
}

type Worth = { n: number; worth: number | null };

/** Those with nothing come last either way; the same are in the order of their names. */
function compareWorth(a: Worth, b: Worth, down: boolean): number {
  if (a.worth === null || b.worth === null)
    return Number(a.worth === null) - Number(b.worth === null) || a.n - b.n;
  return (down ? b.worth - a.worth : a.worth - b.worth) || a.n - b.n;
}

function worthOf(store: LedgerStore, view: LedgerWithGrades, by: RowOrder["by"]) {
  const { grades } = store.getState();
  return (row: LedgerRow, n: number): number | null => {
    if (by === "name") return n;
    if (by === "grade") {
      const percent = grades[row.studentId]?.percent;
      return percent ? Number.parseFloat(percent) : null;
    }
    const cell = row.cells[by - 1];
    if (!cell) return null;
    const here = (cell.pieceId ? store.at(cell.pieceId) : null) ?? {
      ...{ cell, work: cell.work, touched: null },
    };
    const read = readScore(scoreHere(here).words, view.columns[by - 1]!.scale);
    return read.ok ? Number(read.points) : null;
  };
}
