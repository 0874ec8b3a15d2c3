import { expect, test } from "@jest/globals";
import fc from "fast-check";
import { PIECE_FLAGS } from "../pieces/flags";
import { PIECE_STATES } from "../pieces/life";
import type { LedgerCell, LedgerPage, LedgerView } from "../views/ledgerViews";
import { packLedger, unpackLedger } from "./packed";
import { GROUPINGS, laidOut, PLAIN_LAYOUT, widthNear, WIDTHS } from "./layout";

const column = (id: string, category: string, dueOn: string) => ({
  ...{
    handOutId: id,
    assignmentId: id,
    title: id,
    due: "",
    dueOn,
    possible: "10",
    about: "",
    shows: { when: "by hand" as const, from: null, on: null },
    onPaper: true,
  },
  ...{ category, group: "", scale: { kind: "points" as const, possible: "10" } },
});
const VIEW: LedgerView = {
  section: { id: "s", name: "Curlew", course: "Field Writing" },
  columns: [
    ...[column("a", "Letters", "2026-09-28"), column("b", "Tests", "2026-10-02")],
    ...[column("c", "Letters", "2026-10-09"), column("d", "", "2026-10-12")],
  ],
  rows: [
    {
      ...{
        key: "x",
        studentId: "x",
        student: "Ines Sørby",
        sortName: "Sørby, Ines",
        takenOff: [true, false, false, false],
      },
      cells: [null, null, null, null],
    },
  ],
};
const ids = (layout: Partial<typeof PLAIN_LAYOUT>) =>
  laidOut(VIEW, { ...PLAIN_LAYOUT, ...layout }).columns.map((c) => c.handOutId);

test("hidden columns are out, others in the teacher's order, what is new behind", () => {
  expect(ids({})).toEqual(["a", "b", "c", "d"]);
  expect(ids({ hidden: ["b"] })).toEqual(["a", "c", "d"]);
  expect(ids({ order: ["c", "a"] })).toEqual(["c", "a", "b", "d"]);
  expect(ids({ order: ["gone", "d"], hidden: ["gone"] })).toEqual(["d", "a", "b", "c"]);
});

test("groups stand together, in the order in which their first columns come", () => {
  expect(ids({ group: "category" })).toEqual(["a", "c", "b", "d"]);
  expect(ids({ group: "category", order: ["b"] })).toEqual(["b", "a", "c", "d"]);
  const named = (group: (typeof GROUPINGS)[number]) =>
    laidOut(VIEW, { ...PLAIN_LAYOUT, group }).columns.map((c) => c.group);
  expect(named("month")).toEqual(["September", "October", "October", "October"]);
  // ISO 8601: a week begins on Monday.
  expect(named("week")).toEqual([
    "week of 28 Sep",
    "week of 28 Sep",
    "week of 5 Oct",
    "week of 12 Oct",
  ]);
  expect(named("category")).toEqual(["Letters", "Letters", "Tests", "no category"]);
});

test("cells go with their columns; none is lost or twice (property)", () => {
  const id = fc.constantFrom<string>("a", "b", "c", "d", "e");
  fc.assert(
    fc.property(
      fc.array(id),
      fc.array(id),
      fc.constantFrom(...GROUPINGS),
      (order, hidden, group) => {
        const { columns, rows } = laidOut(VIEW, { ...PLAIN_LAYOUT, order, hidden, group });
        const shown = ["a", "b", "c", "d"].filter((one) => !hidden.includes(one));
        expect(columns.map((c) => c.handOutId).sort()).toEqual(shown);
        expect(rows[0]!.takenOff).toEqual(columns.map((c) => c.handOutId === "a"));
      },
    ),
  );
});

test("a column is as wide as its teacher made it, within limits; the others as they are", () => {
  const { columns } = laidOut(VIEW, { ...PLAIN_LAYOUT, widths: [{ id: "b", px: 200 }] });
  expect(columns.map(({ width }) => width)).toEqual([null, 200, null, null]);
  expect([widthNear(3), widthNear(180.4), widthNear(9000)]).toEqual([
    ...[WIDTHS.least, 180, WIDTHS.most],
  ]);
});

test("a Ledger that was packed for the way comes out as it was (property)", () => {
  const noted = fc.option(fc.record({ kept: fc.nat(9), toStudent: fc.boolean() }), { nil: null });
  const text = fc.option(fc.string(), { nil: null });
  const cell: fc.Arbitrary<LedgerCell> = fc.record({
    ...{ pieceId: text, score: text, draft: text, noted },
    work: fc.record({
      ...{ score: fc.string(), excused: fc.boolean() },
      flag: fc.option(fc.constantFrom(...PIECE_FLAGS), { nil: null }),
    }),
    moon: fc.record({
      ...{ state: fc.constantFrom(...PIECE_STATES), round: fc.integer({ min: 1, max: 9 }) },
      ...{ late: fc.boolean(), missing: fc.boolean(), excused: fc.boolean() },
    }),
  });
  const rows = fc.array(fc.tuple(fc.option(cell, { nil: null }), fc.boolean()), { maxLength: 6 });
  fc.assert(
    fc.property(rows, (cells) => {
      const row = {
        ...{ key: "x", studentId: "x", student: "</script>\u2028", sortName: "x" },
        ...{ takenOff: cells.map(([, off]) => off), cells: cells.map(([one]) => one) },
      };
      const view = { ...VIEW, rows: [row], layout: PLAIN_LAYOUT } as unknown as LedgerPage;
      expect(unpackLedger(packLedger(view))).toEqual(view);
    }),
  );
});
