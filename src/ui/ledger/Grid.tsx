"use client";

import { useVirtualizer, type Range } from "@tanstack/react-virtual";
import { useCallback, useEffect, useRef, type RefObject } from "react";
import type { LedgerColumn, LedgerPage } from "@/core/views/ledgerViews";
import { GridHead } from "./GridHead";
import { GridRow } from "./GridRow";
import type { LedgerStore } from "./LedgerStore";
import { columnWidth, GRADE_WIDTH, GROUPED_HEAD_HEIGHT, NAME_WIDTH, ROW_HEIGHT } from "./sizes";
import { useWidths } from "./useWidths";
import { useGridHands } from "./useGridHands";
import { GRADE_COLUMN, type LedgerHands } from "./useLedger";
import type { RowOrder } from "./useRows";

/** As much as is drawn before the browser says how large its window is. */
const FIRST_SIGHT = { width: 1280, height: 620 };

export type GridProps = {
  store: LedgerStore;
  view: LedgerPage;
  hands: LedgerHands;
  order: RowOrder & { mixed: boolean };
  onSort: (by: RowOrder["by"]) => void;
  onPaste: (text: string) => void;
  /** Opens what is written beside the cell one is at. */ onNote: () => void;
};

/** Students down, work across: only what is in view is drawn, and where one is. */
export function Grid(props: GridProps) {
  const { hands, order, onSort } = props;
  const { columns: wide, widen } = useWidths(props.view);
  const view = { ...props.view, columns: wide };
  const scroller = useRef<HTMLDivElement>(null);
  const { rows, columns, pageRows } = useBoth(scroller, { hands, wide });
  const on = useGridHands({ ...props, scroller, pageRows, widen });
  const width = columns.getTotalSize();
  const shown = columns.getVirtualItems();
  return (
    <div
      ref={scroller}
      role="grid"
      aria-label={`Scores of ${(view.parts ?? [view.section]).map(({ name }) => name).join(", ")}`}
      aria-rowcount={hands.extent.rows + 1}
      aria-colcount={hands.extent.columns + 1}
      aria-multiselectable="true"
      className="ledger-grid relative h-[70dvh] overflow-auto sm:h-auto sm:min-h-72 sm:flex-1 border border-line-strong bg-paper print:hidden"
      // What gets the focus does not come to stand under the names or the heads.
      style={{ scrollPaddingInlineStart: NAME_WIDTH, scrollPaddingBlockStart: GROUPED_HEAD_HEIGHT }}
      {...on}
    >
      <GridHead {...{ view, order, onSort, width, widen }} columns={shown} />
      <div className="relative" style={{ width, height: rows.getTotalSize() }} role="presentation">
        {rows.getVirtualItems().map((item) => (
          <GridRow
            key={hands.rows[item.index]!.key}
            row={item.index}
            top={item.start}
            width={width}
            columns={shown}
            {...{ view, hands }}
            ruled={!order.mixed}
          />
        ))}
      </div>
    </div>
  );
}

/** Rows and columns in view; the row and the column one is at are always among them, so that the focus has a place. */
function useBoth(
  scroller: RefObject<HTMLDivElement | null>,
  { hands, wide }: { hands: LedgerHands; wide: readonly LedgerColumn[] },
) {
  const { at, extent } = hands;
  const withRow = useExtractor(at.row);
  const withColumn = useExtractor(at.column - 1);
  // The virtualizer keeps its own state, and nothing here is memoized on what it gives.
  // eslint-disable-next-line react-hooks/incompatible-library
  const rows = useVirtualizer({
    count: extent.rows,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW_HEIGHT,
    // The head stays at the top and takes its height from what is in view.
    scrollPaddingEnd: GROUPED_HEAD_HEIGHT,
    overscan: 6,
    rangeExtractor: withRow,
    initialRect: FIRST_SIGHT,
  });
  const columns = useVirtualizer({
    horizontal: true,
    count: extent.columns - 1,
    getScrollElement: () => scroller.current,
    estimateSize: (n) => columnWidth(wide, n),
    paddingStart: NAME_WIDTH + GRADE_WIDTH,
    scrollPaddingStart: NAME_WIDTH,
    overscan: 3,
    rangeExtractor: withColumn,
    initialRect: FIRST_SIGHT,
  });
  useEffect(() => columns.measure(), [wide, columns]);
  const { row, column } = hands.corner;
  useEffect(() => {
    rows.scrollToIndex(row, { align: "auto" });
    if (column === GRADE_COLUMN) columns.scrollToOffset(0);
    else columns.scrollToIndex(column - 1, { align: "auto" });
    // Only where one goes moves what is in view; the two keep themselves up to date.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [row, column]);
  const pageRows = Math.max(1, Math.floor((rows.scrollRect?.height ?? 400) / ROW_HEIGHT) - 3);
  return { rows, columns, pageRows };
}

/** The indexes of a range, with one more wherever it is. */
function useExtractor(always: number) {
  return useCallback(
    ({ startIndex, endIndex, overscan, count }: Range) => {
      const from = Math.max(0, startIndex - overscan);
      const to = Math.min(count - 1, endIndex + overscan);
      const all = Array.from({ length: to - from + 1 }, (_, n) => from + n);
      if (always < 0 || always >= count || (from <= always && always <= to)) return all;
      return [...all, always].sort((a, b) => a - b);
    },
    [always],
  );
}
