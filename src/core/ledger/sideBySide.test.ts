import { expect, test } from "@jest/globals";
import type { LedgerColumn, LedgerRow, LedgerWithGrades } from "../views/ledgerViews";
import { isShown, sortedKeys } from "./rowsShown";
import { columnFor, sectionOf, sideBySide } from "./sideBySide";

const column = (assignmentId: string, section: string, dueOn: string): LedgerColumn => ({
  ...{ handOutId: `${assignmentId} ${section} ${dueOn}`, assignmentId, title: assignmentId },
  ...{ due: dueOn, dueOn, possible: "10", about: "", category: "Tests", onPaper: true },
  scale: { kind: "points", possible: "10" },
  shows: { when: "by hand", from: null, on: null },
});
const row = (id: string, columns: number, takenOff = false): LedgerRow => ({
  ...{ key: id, studentId: id, student: id, sortName: id },
  takenOff: Array.from({ length: columns }, (_, n) => takenOff && n === 0),
  cells: Array.from({ length: columns }, (_, n) => ({
    ...{ pieceId: `${id}${n}`, score: null, draft: null, noted: null },
    work: { score: "", flag: null, excused: false },
    moon: { state: "not_opened", round: 1, late: false, missing: false, excused: false },
  })),
});
const ledger = (
  name: string,
  columns: LedgerColumn[],
  students: string[],
  more: Partial<LedgerWithGrades> = {},
): LedgerWithGrades => ({
  section: { id: name, name, course: "Field Writing" },
  columns,
  rows: students.map((id) => row(id, columns.length, id === "off")),
  grades: Object.fromEntries(students.map((id) => [id, { percent: `${name} ${id}`, name: null }])),
  ...{ term: "Autumn", terms: ["Autumn"], categories: [], frozen: null, opened: [] },
  may: { handOut: true, except: true, handBack: true, setUp: true },
  today: "2026-12-01",
  ...more,
});
const a = ledger(
  "A",
  [
    ...[column("essay", "A", "2026-10-02"), column("owl", "A", "2026-10-05")],
    column("essay", "A", "2026-10-20"),
  ],
  ["ines", "bo"],
);
const b = ledger(
  "B",
  [column("fox", "B", "2026-09-30"), column("essay", "B", "2026-10-01")],
  ["off", "ines"],
  { may: { handOut: true, except: false, handBack: true, setUp: true } },
);

test("work that went to several sections is one column; what was given twice to one is two", () => {
  const both = sideBySide([a, b]);
  expect(both.columns.map(({ title, dueOn }) => `${title} ${dueOn}`)).toEqual([
    ...["fox 2026-09-30", "essay 2026-10-01", "owl 2026-10-05", "essay 2026-10-20"],
  ]);
  expect(both.columns[1]!.due).toBe("from 2026-10-01");
  expect(both.rows.map((r) => r.cells.map((cell) => cell?.pieceId ?? null))).toEqual([
    ...[
      [null, "ines0", "ines1", "ines2"],
      [null, "bo0", "bo1", "bo2"],
    ],
    ...[
      ["off0", "off1", null, null],
      ["ines0", "ines1", null, null],
    ],
  ]);
  expect(both.rows[2]!.takenOff).toEqual([true, false, false, false]);
});

test("a column and a section are those of the row; a student of two sections has two rows and two grades", () => {
  const both = sideBySide([a, b]);
  const [first, , , last] = both.rows as [LedgerRow, LedgerRow, LedgerRow, LedgerRow];
  expect(columnFor(both.columns[1]!, first).handOutId).toBe("essay A 2026-10-02");
  expect(columnFor(both.columns[1]!, last).handOutId).toBe("essay B 2026-10-01");
  expect(sectionOf(both, last)).toEqual({ id: "B", name: "B" });
  expect(new Set(both.rows.map(({ key }) => key)).size).toBe(4);
  expect(both.grades[first.key]!.percent).toBe("A ines");
  expect(both.grades[last.key]!.percent).toBe("B ines");
  expect(columnFor(a.columns[0]!, a.rows[0])).toBe(a.columns[0]);
});

test("what one may is what one may in all; a section without the term has no work in it", () => {
  const both = sideBySide([a, { ...b, term: "Spring" }]);
  expect(both.may).toEqual({ handOut: true, except: false, handBack: true, setUp: true });
  expect(both.columns).toHaveLength(3);
  expect(both.rows).toHaveLength(4);
  expect(both.grades["B ines"]).toBeUndefined();
});

test("rows are sorted section by section, or mixed; those with nothing come last, equals stay", () => {
  const { rows } = sideBySide([a, b]);
  const worth: Record<string, number | null> = {
    "A ines": 1,
    "A bo": 3,
    "B off": null,
    "B ines": 2,
  };
  const sorted = (down: boolean, mixed: boolean) =>
    sortedKeys(rows, (r) => worth[r.key] ?? null, { down, mixed });
  expect(sorted(true, false)).toEqual(["A bo", "A ines", "B ines", "B off"]);
  expect(sorted(true, true)).toEqual(["A bo", "B ines", "A ines", "B off"]);
  expect(sorted(false, true)).toEqual(["A ines", "B ines", "A bo", "B off"]);
  expect(sortedKeys(rows, () => 1, { down: true, mixed: true })).toEqual(rows.map((r) => r.key));
});

test("a row is shown for any of its cells, or for what is blank in the column one is at", () => {
  const none = { missing: false, late: false, draft: false, blank: false };
  const signs = [{ ...none, blank: true }, null, { ...none, missing: true, draft: true }];
  expect(isShown(signs, "all", 0)).toBe(true);
  expect(isShown(signs, "missing", 0)).toBe(true);
  expect(isShown(signs, "draft", 0)).toBe(true);
  expect(isShown(signs, "late", 0)).toBe(false);
  expect(isShown(signs, "blank", 0)).toBe(true);
  expect(isShown(signs, "blank", 1)).toBe(false);
  expect(isShown(signs, "blank", -1)).toBe(false);
  expect(isShown([], "missing", 0)).toBe(false);
});
