import { expect, test } from "@jest/globals";
import type { DeskPiece } from "@/core/views/deskViews";
import { testWorld } from "../../keeping/testing";
import type { DeskModel } from "../model";
import type { DeskApi } from "../store/deskApi";
import { DeskSession } from "../store/DeskSession";
import { undoLast } from "./undo";

const piece = (id: string) =>
  ({
    ...{ id, round: 1, versionId: "v", marks: [], earlier: [], student: id, doc: null },
    moon: { state: "handed_in", round: 1, late: false, missing: false, excused: false },
    revision: 0,
  }) as unknown as DeskPiece;

function atDesk() {
  const api = {
    read: (id: string) => Promise.resolve(piece(id)),
  } as unknown as DeskApi;
  const session = new DeskSession(piece("a"), api, testWorld().world);
  const pile = { goTo: (id: string) => session.lay(id) };
  return { session, desk: { session, pile } as unknown as DeskModel };
}
const note = { kind: "note", place: { on: "whole", itemId: null }, body: "So." } as const;

test("what was done last goes first, wherever it was done", async () => {
  const { session, desk } = atDesk();
  session.store.add(note);
  session.pieces.piece("b");
  session.lay("b");
  await session.store.whenRead();
  await Promise.resolve();
  session.store.add(note);
  await undoLast(desk);
  expect(session.getState().pieceId).toBe("b");
  expect(session.store.getState().piece?.marks).toEqual([]);
  await undoLast(desk);
  expect(session.getState().pieceId).toBe("a");
  expect(session.store.getState().piece?.marks).toEqual([]);
});

test("an act that knows how it is taken back is asked, once", async () => {
  const { session, desk } = atDesk();
  const undone: string[] = [];
  session.did({ pieceId: "a", undo: () => void undone.push("first") });
  session.did({ pieceId: "a", undo: () => void undone.push("second") });
  await undoLast(desk);
  await undoLast(desk);
  expect(undone).toEqual(["second", "first"]);
});

test("nothing left is said", async () => {
  const { session, desk } = atDesk();
  await undoLast(desk);
  expect(session.store.getState().problem).toBe("There is nothing left to undo on this piece.");
});
