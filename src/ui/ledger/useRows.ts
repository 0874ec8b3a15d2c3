"use client";

import { useMemo, useState } from "react";
import { contract } from "@/core/api/contract";
import type { LedgerSort } from "@/core/ledger/layout";
import {
  isShown,
  namedLike,
  sortedKeys,
  type CellSigns,
  type RowsShown,
} from "@/core/ledger/rowsShown";
import { readScore } from "@/core/scores/scales";
import type { LedgerPage, LedgerRow } from "@/core/views/ledgerViews";
import { call } from "../client";
import type { LedgerStore } from "./LedgerStore";
import { moonHere, scoreHere } from "./sayCell";
import { hereIn } from "./useLedger";

/** What rows are sorted by: the number of a column counts from 1. */
export type RowOrder = { by: "name" | "grade" | number; down: boolean };
type Ordered = RowOrder & { keys: readonly string[] | null; mixed: boolean };

/**
 * The rows as they were sorted and chosen when one asked for it: nothing moves, comes or goes while one types. How they
 * are sorted is kept for this teacher; which are shown is not, for nobody should miss a student the next day.
 */
export function useRows(store: LedgerStore, view: LedgerPage) {
  const [order, setOrder] = useState<Ordered>(() => firstOrder(store, view));
  const [only, setOnly] = useState<{ shown: RowsShown; keys: ReadonlySet<string> | null }>({
    ...{ shown: "all", keys: null },
  });
  const [query, setQuery] = useState("");
  const rows = useMemo(() => {
    const chosen = only.keys ? view.rows.filter((row) => only.keys!.has(row.key)) : view.rows;
    return namedLike(inOrder(chosen, order.keys), query);
  }, [view.rows, order.keys, only.keys, query]);

  return {
    ...{ rows, order, query, setQuery, shown: only.shown },
    sort(by: RowOrder["by"]): void {
      const down = order.by === by ? !order.down : by !== "name";
      setOrder(orderOf(store, view, { by, down, mixed: order.mixed }));
      keepSort(view, { by, down });
    },
    /** Sections side by side: all students in one order, or each section by itself. */
    mix(mixed: boolean): void {
      setOrder(orderOf(store, view, { ...order, mixed }));
    },
    /** @param column the one one is at, counted from 0 */
    show(shown: RowsShown, column: number): void {
      const wanted = view.rows.filter((row) => isShown(signsOf(store, row), shown, column));
      setOnly({ shown, keys: shown === "all" ? null : new Set(wanted.map((row) => row.key)) });
    },
  };
}

/** Rows that came since are behind those that were sorted. */
function inOrder(rows: readonly LedgerRow[], keys: readonly string[] | null): readonly LedgerRow[] {
  if (!keys) return rows;
  const places = new Map(keys.map((key, n) => [key, n]));
  const placeOf = (row: LedgerRow) => places.get(row.key) ?? places.size;
  return [...rows].sort((a, b) => placeOf(a) - placeOf(b));
}

function firstOrder(store: LedgerStore, view: LedgerPage): Ordered {
  const { by, down } = view.layout.sort;
  const column = view.columns.findIndex(({ handOutId }) => handOutId === by) + 1;
  const plain = { by: "name", down: false, keys: null, mixed: false } as const;
  if (column === 0 && by !== "grade" && (by !== "name" || !down)) return plain;
  return orderOf(store, view, { by: column || (by as "name" | "grade"), down, mixed: false });
}

function orderOf(store: LedgerStore, view: LedgerPage, order: Omit<Ordered, "keys">): Ordered {
  const keys = sortedKeys(view.rows, worthOf(store, view, order), order);
  return { ...order, keys };
}

function keepSort(view: LedgerPage, { by, down }: RowOrder): void {
  const sort: LedgerSort = {
    by: typeof by === "number" ? view.columns[by - 1]!.handOutId : by,
    down,
  };
  // Where it cannot be kept it is so on this page alone.
  void call(contract.setLayout, {
    params: { sectionId: view.section.id },
    body: { sort },
  }).catch(() => {});
}

function signsOf(store: LedgerStore, row: LedgerRow): (CellSigns | null)[] {
  return row.cells.map((_, n) => {
    const here = hereIn(store, row, n);
    if (!here) return null;
    const { words, draft } = scoreHere(here);
    const { missing, late } = moonHere(here);
    const blank = words === "" && here.cell.pieceId !== null && !here.work.excused;
    return { missing, late, draft, blank };
  });
}

function worthOf(store: LedgerStore, view: LedgerPage, { by }: Pick<RowOrder, "by">) {
  const { grades } = store.getState();
  const names = placesByName(view);
  return (row: LedgerRow): number | null => {
    if (by === "name") return names.get(row.key)!;
    if (by === "grade") {
      const percent = grades[row.key]?.percent;
      return percent ? Number.parseFloat(percent) : null;
    }
    const here = hereIn(store, row, by - 1);
    if (!here) return null;
    const read = readScore(scoreHere(here).words, view.columns[by - 1]!.scale);
    return read.ok ? Number(read.points) : null;
  };
}

/** Students of one section come in their order; of several they are sorted anew, by the names they are sorted by. */
function placesByName({ rows, parts }: LedgerPage): Map<string, number> {
  const { compare } = new Intl.Collator();
  const sorted = parts ? [...rows].sort((a, b) => compare(a.sortName, b.sortName)) : rows;
  return new Map(sorted.map((row, n) => [row.key, n]));
}
