"use client";

import { useRouter } from "next/navigation";
import { useEffect, useRef, type RefObject } from "react";
import { isWithin, moved, type Spot } from "@/core/ledger/rect";
import { planTyped, writeCopied } from "@/core/ledger/changes";
import { WIDTHS } from "@/core/ledger/layout";
import { cellText } from "@/core/ledger/cell";
import { columnFor } from "@/core/ledger/sideBySide";
import type { LedgerWithGrades } from "@/core/views/ledgerViews";
import { keyOf, typingKeyOf, type LedgerKey } from "./keys";
import type { GridProps } from "./Grid";
import type { LedgerStore } from "./LedgerStore";

type Given = GridProps & {
  store: LedgerStore;
  scroller: RefObject<HTMLDivElement | null>;
  pageRows: number;
  /** Makes a column wider by so many pixels, or narrower. */ widen: (
    column: number,
    by: number,
  ) => void;
};

/** What keys, pointer and clipboard do in the grid. */
export function useGridHands(given: Given) {
  const { hands, scroller } = given;
  const router = useRouter();
  const wantsFocus = useRef(false);
  const pointer = useRef({ type: "mouse", draws: false });
  const { row, column } = hands.at;
  const isTyping = hands.typing !== null;
  useEffect(() => {
    if (!wantsFocus.current || isTyping) return;
    wantsFocus.current = false;
    focusAt(scroller.current, { row, column });
  }, [row, column, isTyping, scroller]);

  const run = (key: LedgerKey): void => {
    wantsFocus.current = true;
    act(key, given, (href) => router.push(href));
  };
  return {
    onKeyDown(event: React.KeyboardEvent) {
      if (event.nativeEvent.isComposing || isOwnControl(event.target)) return;
      const key = isTyping ? typingKeyOf(event) : keyOf(event);
      if (!key || (key.does === "edit" && isLink(event.target))) return;
      event.preventDefault();
      run(key);
    },
    /** A reader's own cursor, or a script, may put the focus anywhere: one is where the focus is. */
    onFocus(event: React.FocusEvent) {
      const spot = spotUnder(event.target);
      if (!spot || isTyping || (spot.row === row && spot.column === column)) return;
      if (!isWithin(spot, hands.rect)) hands.go(spot);
    },
    onPointerDown(event: React.PointerEvent) {
      pointer.current = { type: event.pointerType, draws: false };
    },
    onMouseDown(event: React.MouseEvent) {
      const spot = spotUnder(event.target);
      if (!spot || event.button !== 0) return;
      const same = spot.row === row && spot.column === column;
      if (same && isTyping) return;
      if (isTyping && !hands.commit()) return event.preventDefault();
      wantsFocus.current = true;
      if (same && pointer.current.type === "touch") return run({ does: "edit" });
      pointer.current.draws = pointer.current.type === "mouse";
      hands.go(spot, event.shiftKey);
    },
    onMouseMove(event: React.MouseEvent) {
      if (!pointer.current.draws || event.buttons !== 1 || isTyping) return;
      const spot = spotUnder(event.target);
      if (spot && (spot.row !== hands.corner.row || spot.column !== hands.corner.column))
        hands.go(spot, true);
    },
    onMouseUp() {
      pointer.current.draws = false;
    },
    onDoubleClick(event: React.MouseEvent) {
      if (spotUnder(event.target) && !isTyping) run({ does: "edit" });
    },
    onCopy(event: React.ClipboardEvent) {
      if (isTyping) return;
      event.preventDefault();
      event.clipboardData.setData("text/plain", writeCopied(hands.rect, hands.targetAt));
    },
    onCut(event: React.ClipboardEvent) {
      if (isTyping) return;
      event.preventDefault();
      event.clipboardData.setData("text/plain", writeCopied(hands.rect, hands.targetAt));
      run({ does: "empty" });
    },
    onPaste(event: React.ClipboardEvent) {
      if (isTyping) return;
      event.preventDefault();
      given.onPaste(event.clipboardData.getData("text/plain"));
    },
  };
}

/** The heads have buttons and links of their own, whose keys are theirs. */
const isOwnControl = (target: EventTarget): boolean =>
  target instanceof Element && target.closest("[role=columnheader]") !== null;

/** Enter on the grade is the link's own. */
const isLink = (target: EventTarget): boolean =>
  target instanceof Element && target.closest("a") !== null;

function act(key: LedgerKey, given: Given, open: (href: string) => void): void {
  const { hands, store, pageRows } = given;
  switch (key.does) {
    case "move": {
      const from = key.extend ? hands.corner : hands.at;
      return hands.go(moved(from, key.move, hands.extent, pageRows), key.extend);
    }
    case "commit":
      if (hands.commit(key.everywhere) && key.then)
        hands.go(moved(hands.at, key.then, hands.extent, pageRows));
      return;
    case "cancel":
      return hands.typing ? hands.cancel() : hands.go(hands.at);
    case "edit":
      return hands.open(textAt(given));
    case "type":
      return hands.open(key.text);
    case "empty":
      return store.apply(planTyped("", hands.rect, hands.targetAt).changes);
    case "all":
      return hands.goAll();
    case "undo":
      return store.undo();
    case "redo":
      return store.redo();
    case "note":
      return given.onNote();
    case "widen":
      return given.widen(hands.at.column - 1, key.by * WIDTHS.step);
    case "desk": {
      const href = deskOf(given);
      if (href) open(href);
    }
  }
}

const textAt = ({ hands }: Given): string => {
  const here = hands.hereAt(hands.at);
  return here ? cellText(here.work) : "";
};

/** Where the piece one is at lies on the Desk; null: there is none, or it is read without its name. */
export function deskOf({
  hands,
  view,
}: Pick<Given, "hands"> & { view: Pick<LedgerWithGrades, "columns"> }): string | null {
  const pieceId = hands.hereAt(hands.at)?.cell.pieceId;
  const column = view.columns[hands.at.column - 1];
  if (!pieceId || !column) return null;
  const { handOutId } = columnFor(column, hands.rows[hands.at.row]);
  return `/desk?pile=all&handOut=${handOutId}&piece=${pieceId}`;
}

function spotUnder(target: EventTarget): Spot | null {
  const cell = target instanceof Element ? target.closest<HTMLElement>("[data-spot]") : null;
  const [row, column] = cell?.dataset.spot?.split(":").map(Number) ?? [];
  return row === undefined || column === undefined ? null : { row, column };
}

function focusAt(grid: HTMLElement | null, { row, column }: Spot): void {
  const cell = grid?.querySelector<HTMLElement>(`[data-spot="${row}:${column}"]`);
  const focused = cell?.matches("[data-focus]")
    ? cell
    : cell?.querySelector<HTMLElement>("[data-focus]");
  focused?.focus({ preventScroll: true });
}
