import type { Move } from "@/core/ledger/rect";

/** What a key does in the Ledger, as a name; null: it is the browser's, or begins to type. */
export type LedgerKey =
  | { does: "move"; move: Move; extend: boolean }
  | { does: "commit"; then: Move | null; everywhere: boolean }
  | { does: "cancel" | "edit" | "empty" | "all" | "undo" | "redo" | "desk" | "note" }
  | { does: "widen"; by: 1 | -1 }
  | { does: "type"; text: string };

type Pressed = Pick<KeyboardEvent, "key" | "shiftKey" | "ctrlKey" | "metaKey" | "altKey">;

const MOVES: Readonly<Record<string, Move>> = {
  ArrowUp: "up",
  ArrowDown: "down",
  ArrowLeft: "left",
  ArrowRight: "right",
  Home: "home",
  End: "end",
  PageUp: "pageUp",
  PageDown: "pageDown",
};

const ACTS: Readonly<Record<string, "edit" | "empty" | "cancel">> = {
  Enter: "edit",
  F2: "edit",
  Delete: "empty",
  Backspace: "empty",
  Escape: "cancel",
};

/**
 * Keys while nothing is being typed: those of the ARIA Authoring Practices Guide for grids, and a spreadsheet's. Tab
 * leaves the grid, so that nobody is caught in it.
 */
export function keyOf(pressed: Pressed): LedgerKey | null {
  const { key, shiftKey, altKey } = pressed;
  if (pressed.ctrlKey || pressed.metaKey) return controlKeyOf(pressed);
  if (altKey) return altKeyOf(pressed);
  if (key === "F2" && shiftKey) return { does: "note" };
  const move = MOVES[key];
  if (move) return { does: "move", move, extend: shiftKey };
  const act = ACTS[key];
  if (act) return { does: act };
  return [...key].length === 1 && key !== " " ? { does: "type", text: key } : null;
}

function altKeyOf({ key, shiftKey }: Pressed): LedgerKey | null {
  if (key === "Enter") return { does: "desk" };
  if (!shiftKey) return null;
  if (key === "ArrowRight") return { does: "widen", by: 1 };
  return key === "ArrowLeft" ? { does: "widen", by: -1 } : null;
}

function controlKeyOf({ key, shiftKey }: Pressed): LedgerKey | null {
  const letter = key.toLowerCase();
  if (key === "Home") return { does: "move", move: "first", extend: shiftKey };
  if (key === "End") return { does: "move", move: "last", extend: shiftKey };
  if (letter === "a") return { does: "all" };
  if (letter === "z") return { does: shiftKey ? "redo" : "undo" };
  return letter === "y" ? { does: "redo" } : null;
}

/** Keys while a cell is being typed into; all others are the field's own. */
export function typingKeyOf({ key, shiftKey, ctrlKey, metaKey }: Pressed): LedgerKey | null {
  if (key === "Escape") return { does: "cancel" };
  if (key === "Enter" && (ctrlKey || metaKey))
    return { does: "commit", then: null, everywhere: true };
  if (key === "Enter") return { does: "commit", then: shiftKey ? "up" : "down", everywhere: false };
  if (key === "Tab")
    return { does: "commit", then: shiftKey ? "left" : "right", everywhere: false };
  return null;
}
