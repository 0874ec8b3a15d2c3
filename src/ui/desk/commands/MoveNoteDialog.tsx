"use client";

import { useState } from "react";
import type { QueueItem } from "@/core/views/deskViews";
import { Button } from "../../kit/Button";
import { Dialog } from "../../kit/Dialog";
import { TextField } from "../../kit/Field";
import { usePieceOnDesk } from "../model";
import { findPieces } from "./findPieces";
import { moveNote } from "./moveNote";

/** So many pieces are offered. */
const MOST = 8;

/** To which piece of the pile a note goes that was written on the wrong one. */
export function MoveNoteDialog() {
  const desk = usePieceOnDesk();
  const { session, view, pile } = desk;
  const [typed, setTyped] = useState("");
  const [busy, setBusy] = useState(false);
  const note = session.marking.chosenMark;
  const others = pile.items.filter(({ pieceId }) => pieceId !== view.pieceId);
  const found =
    typed.trim() === "" ? near(pile.items, pile.current) : findPieces(others, typed, MOST);
  async function move(to: QueueItem) {
    if (!note || busy) return;
    setBusy(true);
    await moveNote(desk, note, to);
    setBusy(false);
    setTyped("");
    session.close();
  }
  return (
    <Dialog
      open={view.open === "move" && note !== undefined}
      onClose={session.close}
      title="Move this note to another piece"
    >
      <p className="mb-3 border-l-2 border-tide pl-2 text-sm">{note?.body || "a voice note"}</p>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          if (found[0]) void move(found[0]);
        }}
      >
        <TextField
          label="Whose"
          value={typed}
          placeholder="a few letters of the name"
          onChange={(event) => setTyped(event.target.value)}
        />
        <ul className="mt-2 grid gap-1" aria-label="Pieces">
          {found.map((item) => (
            <li key={item.pieceId}>
              <Button
                small
                className="w-full justify-start!"
                disabled={busy}
                onClick={() => void move(item)}
              >
                {item.student} <span className="text-soft">{item.handOut}</span>
              </Button>
            </li>
          ))}
        </ul>
        {found.length === 0 ? <p className="text-soft">Nobody in this pile is called so.</p> : null}
      </form>
    </Dialog>
  );
}

/** Whoever comes just before and after: a slip is seldom far. */
const near = (items: readonly QueueItem[], at: number): QueueItem[] => [
  ...items.slice(Math.max(0, at - 2), at).reverse(),
  ...items.slice(at + 1, at + 3),
];
