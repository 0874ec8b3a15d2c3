"use client";

import { useEffect, useMemo, useRef, useState } from "react";
import { contract } from "@/core/api/contract";
import { widthNear, type ColumnWidth } from "@/core/ledger/layout";
import type { LedgerColumn, LedgerPage } from "@/core/views/ledgerViews";
import { call } from "../client";
import { columnWidth } from "./sizes";

/** A moment after the last change the width is kept; a drag is many changes. */
const PAUSE_MS = 600;

/**
 * Columns as wide as this teacher makes them: at once here, and kept a moment later. Where they cannot be kept they are
 * so on this page alone.
 *
 * @returns the columns with their widths, and what makes one as wide as is wanted
 */
export function useWidths(view: LedgerPage): {
  columns: LedgerColumn[];
  widen: (n: number, by: number) => void;
} {
  const [own, setOwn] = useState<ReadonlyMap<string, number>>(new Map());
  // A drag is faster than what is drawn: each step begins where the last one ended.
  const latest = useRef<ReadonlyMap<string, number>>(own);
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  const columns = useMemo(
    () => view.columns.map((c) => ({ ...c, width: own.get(c.handOutId) ?? c.width ?? null })),
    [view.columns, own],
  );
  useEffect(() => () => clearTimeout(timer.current), []);
  function keep(widths: ReadonlyMap<string, number>): void {
    const all = new Map(view.layout.widths.map(({ id, px }) => [id, px]));
    for (const [id, px] of widths) all.set(id, px);
    const list: ColumnWidth[] = [...all].map(([id, px]) => ({ id, px }));
    void call(contract.setLayout, {
      params: { sectionId: view.section.id },
      body: { widths: list },
    }).catch(() => {});
  }
  return {
    columns,
    widen(n, by) {
      const id = columns[n]?.handOutId;
      if (!id) return;
      const was = latest.current.get(id) ?? columnWidth(columns, n);
      const next = new Map(latest.current).set(id, widthNear(was + by));
      latest.current = next;
      setOwn(next);
      clearTimeout(timer.current);
      timer.current = setTimeout(() => keep(next), PAUSE_MS);
    },
  };
}
