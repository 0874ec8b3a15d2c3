import { beforeEach, describe, expect, test } from "@jest/globals";
import type { CommentView } from "@/core/views/views";
import type { DeskPiece } from "@/core/views/deskViews";
import { testWorld } from "../../keeping/testing";
import { Marking } from "./Marking";
import type { NewMark, PieceStore } from "./PieceStore";

/** What hands do on one piece, without a page: a store that notes what it was asked. */
const TEXT = "The tide rose. It fell again.";
let added: NewMark[];
let said: (string | null)[];
let marking: Marking;

beforeEach(() => {
  [added, said] = [[], []];
  const doc = {
    type: "doc",
    content: [{ type: "paragraph", content: [{ type: "text", text: TEXT }] }],
  };
  const piece = { id: "p", versionId: "v1", doc, marks: [], called: "Ines", title: "Tides" };
  const store = {
    pieceId: "p",
    getState: () => ({ piece: piece as unknown as DeskPiece }),
    add: (mark: NewMark) => (added.push(mark), null),
    say: (words: string | null) => said.push(words),
  };
  marking = new Marking(store as unknown as PieceStore, testWorld().world);
});

const words = (quote: string) => {
  const start = TEXT.indexOf(quote);
  return { on: "text" as const, start, end: start + quote.length, quote };
};
const comment = (text: string) =>
  ({ id: "c", text, nature: "request", kind: "note", points: null }) as unknown as CommentView;

describe("where nothing is handed in", () => {
  const piece = { id: "p", versionId: null as string | null, marks: [] };
  const store = {
    pieceId: "p",
    getState: () => ({ piece: piece as unknown as DeskPiece }),
    add: (mark: NewMark) => (added.push(mark), null),
    say: (words: string | null) => said.push(words),
  };
  beforeEach(() => {
    piece.versionId = null;
    marking = new Marking(store as unknown as PieceStore, testWorld().world);
  });
  test("no note is begun, typed or spoken, and why is said", () => {
    marking.composeAt({ on: "whole", itemId: null });
    marking.speak();
    marking.compose("note", "request", "");
    expect(marking.getState().composing).toBeNull();
    expect(said.filter((words) => words?.startsWith("Nothing is handed in")).length).toBe(2);
    expect(said).toHaveLength(3);
  });
  test("taken back by its student while one writes: what is written stays in its field", () => {
    piece.versionId = "v1";
    marking.composeAt({ on: "whole", itemId: null });
    piece.versionId = null;
    expect(marking.composed({ kind: "note", body: "Say why." } as NewMark)).toBeNull();
    expect(marking.getState().composing).not.toBeNull();
    expect([added, said.at(-1)]).toEqual([[], expect.stringContaining("Nothing is handed in")]);
  });
});

describe("on a recording", () => {
  test("a stretch is begun, and ended into a note on it, whichever end comes first", () => {
    expect(marking.stretch("film", 4)).toBe(false);
    expect(marking.getState()).toMatchObject({ begun: { itemId: "film", at: 4 }, composing: null });
    expect(marking.stretch("film", 1.5)).toBe(true);
    expect(marking.getState().begun).toBeNull();
    expect(marking.getState().composing!.place).toEqual({
      on: "time",
      itemId: "film",
      from: 1.5,
      to: 4,
    });
  });
  test("ended where it began it is a moment; on another recording one begins anew; the next piece has none", () => {
    marking.stretch("film", 4);
    marking.stretch("film", 4);
    expect(marking.getState().composing!.place).toMatchObject({ from: 4, to: null });
    marking.stretch("film", 4);
    expect(marking.stretch("sound", 2)).toBe(false);
    expect(marking.getState().begun).toEqual({ itemId: "sound", at: 2 });
    marking.clear();
    expect(marking.getState().begun).toBeNull();
  });
});

describe("on words", () => {
  test("nothing selected: it is said what to do, and nothing is put", () => {
    marking.put("tick");
    marking.compose("note", "remark", "");
    expect(said).toHaveLength(2);
    expect(said[0]).toMatch(/Select the words first/);
    expect(added).toEqual([]);
  });
  test("a comment is put on what is selected, its name filled in; one that asks something is composed", () => {
    marking.pick(words("rose"));
    marking.take(comment("Well seen, {name}."));
    expect(added).toMatchObject([{ body: "Well seen, Ines.", quote: "rose", commentId: "c" }]);
    marking.take(comment("Say {how|why} it rose."));
    expect(added).toHaveLength(1);
    expect(marking.getState().composing).toMatchObject({ quote: "rose", nature: "request" });
  });
  test("a comment let go inside, at the end and at the start of a word is on that word", () => {
    for (const at of ["fell", "fel", "f"].map((part) => TEXT.indexOf("fell") + part.length - 1))
      marking.takeOnWord(comment("Good."), at);
    expect(added.map((m) => m.quote)).toEqual(["fell", "fell", "fell"]);
  });
  test("two words change places; one word cannot", () => {
    marking.pick(words("It fell"));
    marking.put("transpose");
    expect(added).toMatchObject([{ kind: "transpose", replacement: "fell It" }]);
    marking.pick(words("e"));
    marking.put("transpose");
    expect([added.length, said.at(-1)]).toEqual([1, expect.stringMatching(/two words/)]);
  });
});
