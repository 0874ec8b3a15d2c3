import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import Papa from "papaparse";
import { PIECE_FLAGS } from "../pieces/flags";
import type { Scale } from "../scores/scales";
import {
  cellText,
  EMPTY_CELL,
  mergeCell,
  readCell,
  sameCell,
  withFlag,
  type CellWork,
} from "./cell";
import {
  inverse,
  planFill,
  planFlag,
  planPaste,
  planTyped,
  readPasted,
  writeCopied,
  type Change,
  type Target,
} from "./changes";
import { moved, rectOf, spotsOf, type Move, type Spot } from "./rect";

const POINTS: Scale = { kind: "points", possible: "10" };
const cell = (part: Partial<CellWork>): CellWork => ({ ...EMPTY_CELL, ...part });
const work: fc.Arbitrary<CellWork> = fc.record({
  score: fc.constantFrom("", "8", "7.5", "8/10"),
  flag: fc.option(fc.constantFrom(...PIECE_FLAGS)),
  excused: fc.boolean(),
});

describe("what is typed into a cell", () => {
  // The short words are common practice, no source.
  test.each<[string, Scale, Partial<CellWork>, Partial<CellWork>]>([
    ["8", POINTS, {}, { score: "8" }],
    [" 8/10 ", POINTS, {}, { score: "8/10" }],
    ["85%", POINTS, {}, { score: "85%" }],
    ["7,5", POINTS, {}, { score: "7,5" }],
    ["B+", { kind: "letters", possible: "20" }, {}, { score: "B+" }],
    ["inc", { kind: "completion", possible: "5" }, {}, { score: "inc" }],
    ["inc", POINTS, { score: "3" }, { score: "3", flag: "unfinished" }],
    ["ex", POINTS, { flag: "late" }, { excused: true }],
    ["M", POINTS, {}, { flag: "missing" }],
    ["late", POINTS, { score: "8" }, { score: "8", flag: "late" }],
    ["On  Paper", POINTS, {}, { flag: "on paper" }],
    // A score says that there is something: missing and excused say that there is nothing.
    ["6", POINTS, { flag: "missing" }, { score: "6" }],
    ["6", POINTS, { excused: true }, { score: "6" }],
    ["6", POINTS, { flag: "late" }, { score: "6", flag: "late" }],
    ["", POINTS, { score: "8", flag: "late", excused: true }, {}],
    // Work that gets words only can still be flagged.
    ["away", { kind: "words", possible: null }, {}, { flag: "away" }],
  ])("“%s” of %j", (typed, scale, before, after) => {
    expect(readCell(typed, scale, cell(before))).toMatchObject({ ok: true, work: cell(after) });
  });
  test.each([
    ["21", POINTS, "more than twice"],
    ["eight", POINTS, "is not a score"],
    ["-3", POINTS, "is not a score"],
    ["8", { kind: "words", possible: null } as Scale, "words only"],
    ["1".repeat(41), POINTS, "too long"],
  ])("“%s” is refused and says why", (typed, scale, why) => {
    expect(readCell(typed, scale, EMPTY_CELL)).toMatchObject({
      ok: false,
      why: expect.stringContaining(why),
    });
  });
  test("more than is possible is kept and said", () => {
    expect(readCell("11", POINTS, EMPTY_CELL)).toMatchObject({ ok: true, note: /./ });
  });
  test("a cell copied and typed elsewhere is the same, where it has a score or one flag", () => {
    fc.assert(
      fc.property(work, (one) => {
        const whole = one.score ? cell({ score: one.score }) : withFlag(EMPTY_CELL, one.flag);
        const read = readCell(cellText(whole), POINTS, EMPTY_CELL);
        return read.ok && sameCell(read.work, whole);
      }),
    );
  });
});

describe("two at one cell", () => {
  test.each<[Partial<CellWork>, Partial<CellWork>, Partial<CellWork>, Partial<CellWork> | null]>([
    [{}, { score: "8" }, {}, { score: "8" }],
    [{}, { score: "8" }, { flag: "late" }, { score: "8", flag: "late" }],
    [{}, { score: "8" }, { score: "9" }, null],
    [{}, { score: "8" }, { score: "8" }, { score: "8" }],
    [{ score: "5" }, { score: "" }, { score: "6" }, null],
    [{ flag: "late" }, { flag: "away" }, { flag: null }, null],
    [{}, { excused: true }, { score: "9" }, { score: "9", excused: true }],
  ])("from %j to %j, where %j stands: %j", (was, now, stored, merged) => {
    expect(mergeCell(cell(was), cell(now), cell(stored))).toEqual(merged && cell(merged));
  });
  test("what nobody else changed is mine; what I did not change is theirs", () => {
    fc.assert(
      fc.property(work, work, (was, other) => {
        expect(mergeCell(was, other, was)).toEqual(other);
        expect(mergeCell(was, was, other)).toEqual(other);
      }),
    );
  });
});

/** A small Ledger: cells by row and column, one of them given to nobody. */
function ledger(cells: (Partial<CellWork> | null)[][]) {
  const now = new Map<string, CellWork>();
  cells.forEach((row, y) => row.forEach((one, x) => one && now.set(`${y}${x}`, cell(one))));
  const targetAt = ({ row, column }: Spot): Target => {
    const found = now.get(`${row}${column}`);
    return found
      ? { pieceId: `${row}${column}`, work: found, scale: POINTS }
      : { refuses: "not given" };
  };
  const apply = (changes: readonly Change[]) =>
    changes.forEach(({ pieceId, after }) => now.set(pieceId, after));
  const shown = () =>
    cells.map((row, y) =>
      row.map((_, x) => (now.has(`${y}${x}`) ? cellText(now.get(`${y}${x}`)!) : "/")),
    );
  return { targetAt, apply, shown, extent: { rows: cells.length, columns: cells[0]!.length } };
}
const all = { top: 0, bottom: 2, left: 0, right: 1 };
const sample = () =>
  ledger([
    [{ score: "8" }, {}],
    [{}, null],
    [{ score: "3" }, { flag: "late" }],
  ]);

describe("acts on many cells", () => {
  test.each([
    ["down", "all", ["8", ""], ["8", "/"], ["8", ""]],
    ["down", "blanks", ["8", ""], ["8", "/"], ["3", "late"]],
    ["across", "all", ["8", "8"], ["", "/"], ["3", "3"]],
  ] as const)("fill %s, %s", (way, only, ...rows) => {
    const { targetAt, apply, shown } = sample();
    apply(planFill(way, all, targetAt, only).changes);
    expect(shown()).toEqual(rows);
  });
  test("a student away for a stretch is a row of flags; what is not given is passed over", () => {
    const { targetAt, apply, shown } = sample();
    apply(planFlag("away", { ...all, top: 1, bottom: 1 }, targetAt).changes);
    expect(shown()).toEqual([
      ["8", ""],
      ["away", "/"],
      ["3", "late"],
    ]);
    expect(
      planFlag("away", { top: 1, bottom: 1, left: 1, right: 1 }, targetAt).misfits,
    ).toHaveLength(1);
  });
  test("one text over a stretch, only where nothing stands", () => {
    const { targetAt, apply, shown } = sample();
    apply(planTyped("5", all, targetAt, "blanks").changes);
    expect(shown()).toEqual([
      ["8", "5"],
      ["5", "/"],
      ["3", "late"],
    ]);
  });
  test("what is done is undone by its inverse, whatever it was", () => {
    const act = fc.constantFrom("8", "", "ex", "late", "not a score");
    fc.assert(
      fc.property(fc.array(act, { minLength: 1, maxLength: 8 }), (typed) => {
        const { targetAt, apply, shown } = sample();
        const before = shown();
        const steps = typed.map((text) => {
          const { changes } = planTyped(text, all, targetAt);
          apply(changes);
          return changes;
        });
        for (const step of steps.reverse()) apply(inverse(step));
        expect(shown()).toEqual(before);
      }),
    );
  });
});

describe("to and from a spreadsheet", () => {
  test("what is copied is what a reader of tab-separated text reads", () => {
    const { targetAt } = sample();
    const text = writeCopied(all, targetAt);
    expect(Papa.parse(text, { delimiter: "\t" }).data).toEqual([
      ["8", ""],
      ["", ""],
      ["3", "late"],
    ]);
  });
  // As spreadsheets put it on the clipboard: CRLF at the end of each row, cells with tabs or line ends in quotes.
  test.each([
    [
      "8\t9\r\n7\t\r\n",
      [
        ["8", "9"],
        ["7", ""],
      ],
    ],
    [
      '"a\nb"\t1\n2\t3',
      [
        ["a\nb", "1"],
        ["2", "3"],
      ],
    ],
    ["8\n\n9\n", [["8"], [""], ["9"]]],
    ['"5 "" 6"', [['5 " 6']]],
  ])("%j", (text, rows) => expect(readPasted(text)).toEqual({ rows, tooMany: false }));
  test("it is bounded, and says that it is more", () => {
    expect(readPasted("1\n".repeat(301))).toMatchObject({ tooMany: true });
    expect(readPasted("1\n".repeat(300))).toMatchObject({ tooMany: false });
    expect(readPasted("1\t".repeat(250)).rows[0]).toHaveLength(200);
    expect(readPasted("1\t".repeat(5_000_000))).toMatchObject({ tooMany: true });
  });
  test("what fits goes, what does not says why, and blank cells empty", () => {
    const { targetAt, apply, shown, extent } = sample();
    const { changes, misfits } = planPaste(
      [["9", "x", "1"], ["7", "4"], ["", ""], ["1"]],
      rectOf({ row: 0, column: 0 }, { row: 0, column: 0 }),
      extent,
      targetAt,
    );
    apply(changes);
    expect(shown()).toEqual([
      ["9", ""],
      ["7", "/"],
      ["", ""],
    ]);
    expect(misfits.map(({ row, column, typed }) => [row, column, typed])).toEqual([
      [0, 1, "x"],
      [0, 2, "1"],
      [1, 1, "4"],
      [3, 0, "1"],
    ]);
  });
  test("one cell goes over all that are chosen", () => {
    const { targetAt, apply, shown, extent } = sample();
    apply(planPaste([["6"]], all, extent, targetAt).changes);
    expect(shown()).toEqual([
      ["6", "6"],
      ["6", "/"],
      ["6", "6"],
    ]);
  });
});

test("no move leads out of the Ledger", () => {
  const extent = { rows: 5, columns: 3 };
  const spots = spotsOf({ top: 0, bottom: 4, left: 0, right: 2 });
  const moves: Move[] = [
    "up",
    "down",
    "left",
    "right",
    "home",
    "end",
    "first",
    "last",
    "pageUp",
    "pageDown",
  ];
  for (const spot of spots)
    for (const move of moves) expect(spots).toContainEqual(moved(spot, move, extent, 3));
  expect(moved({ row: 1, column: 1 }, "down", extent, 3)).toEqual({ row: 2, column: 1 });
  expect(moved({ row: 1, column: 1 }, "pageDown", extent, 3)).toEqual({ row: 4, column: 1 });
});
