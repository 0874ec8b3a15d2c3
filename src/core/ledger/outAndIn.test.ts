import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import type { LedgerCell, LedgerWithGrades } from "../views/ledgerViews";
import { planBringIn } from "./bringIn";
import { EMPTY_CELL, type CellWork } from "./cell";
import type { TargetAt } from "./changes";
import { GRADE_FILES, SCORE_STATUSES, writeGradeFiles } from "./oneRosterGrades";
import { outTable } from "./outTable";
import { parseTable } from "../formats/table";
import { MANIFEST_FILES } from "../roster/oneRosterBinding";

type Given = Partial<CellWork> & { told?: string; draft?: string; late?: boolean };
const cell = (n: string, { told, draft, late = false, ...work }: Given): LedgerCell => ({
  pieceId: n,
  work: { ...EMPTY_CELL, score: draft ?? told ?? "", ...work },
  score: told ?? null,
  draft: draft ?? null,
  noted: null,
  moon: {
    ...{ state: told ? "handed_back" : "not_opened", round: 1, late, missing: false },
    excused: work.excused ?? false,
  },
});
const column = (title: string, possible = "10", dueOn = "2026-10-01") => ({
  ...{
    handOutId: `${title} ${dueOn}`,
    assignmentId: title,
    title,
    due: "",
    dueOn,
    possible,
    about: "",
    category: "",
    shows: { when: "by hand" as const, from: null, on: null },
    onPaper: true,
  },
  scale: { kind: "points" as const, possible },
});
const row = (student: string, cells: (LedgerCell | null)[]) => ({
  ...{ key: student, studentId: student, student, sortName: student },
  ...{ takenOff: cells.map(() => false), cells },
});
const VIEW: LedgerWithGrades = {
  section: { id: "s", name: "Curlew", course: "Field Writing" },
  columns: [column("Quiz"), column("Map"), column("Map", "10", "2026-10-08"), column("Log", "20")],
  rows: [
    row("Ines Sørby", [
      cell("a", { told: "7.5" }),
      cell("b", { excused: true }),
      null,
      cell("c", {}),
    ]),
    row("Bo Lind", [
      ...[
        cell("d", { draft: "8" }),
        cell("e", { flag: "missing" }),
        cell("f", { told: "4", late: true }),
      ],
      cell("g", { told: "9" }),
    ]),
  ],
  grades: { "Ines Sørby": { percent: "75.0", name: "B", frozen: { now: null } } },
  ...{
    term: "autumn",
    terms: ["autumn"],
    categories: [],
    frozen: null,
    opened: [],
    today: "2026-11-02",
  },
  may: { handOut: true, except: true, handBack: true, setUp: true },
};
const targetAt: TargetAt = ({ row: r, column: c }) => {
  const found = VIEW.rows[r]?.cells[c - 1];
  return found
    ? { pieceId: found.pieceId!, work: found.work, scale: VIEW.columns[c - 1]!.scale }
    : { refuses: "Not given." };
};
const bring = (table: string[][]) => planBringIn(table, { view: VIEW, rows: VIEW.rows, targetAt });
const words = () => {
  const { head, rows } = outTable(VIEW);
  return [head, ...rows.map((cells) => cells.map((c) => c.words))];
};

describe("the Ledger as a table", () => {
  test("names each column so that it is told apart, scores as numbers, signs as words and notes", () => {
    const { head, rows } = outTable(VIEW);
    expect(head).toEqual([
      ...["student", "Quiz (of 10)", "Map (of 10), 2026-10-01", "Map (of 10), 2026-10-08"],
      ...["Log (of 20)", "grade in percent", "grade"],
    ]);
    expect(rows[0]!.map((c) => c.words)).toEqual(["Ines Sørby", "7.5", "ex", "", "", "75.0", "B"]);
    expect(rows[0]!.map((c) => c.number)).toEqual([false, true, false, false, false, true, false]);
    expect(rows[0]![3]!.note).toBe("not given");
    expect(rows[0]![5]!.note).toBe("frozen");
    expect(rows[1]!.slice(1, 4).map((c) => c.note)).toEqual([
      "draft, not handed back",
      "missing",
      "late",
    ]);
  });

  test("brought back as it left, it changes nothing, in whatever order of rows and columns (property)", () => {
    expect(bring(words())).toMatchObject({ changes: [], misfits: [], strangers: [] });
    const order = (n: number) => fc.shuffledSubarray([...Array(n).keys()], { minLength: n });
    fc.assert(
      fc.property(order(6), order(2), (columns, lines) => {
        const [head, ...rows] = words();
        const turned = [head!, ...lines.map((n) => rows[n]!)].map((line) => [
          line[0]!,
          ...columns.map((n) => line[n + 1]!),
        ]);
        const { changes, misfits, unknownWork } = bring(turned);
        expect([changes, misfits, unknownWork]).toEqual([[], [], []]);
      }),
    );
  });

  test("what was changed outside is a change by student and column; what does not fit says why", () => {
    const planned = bring([
      ["Student", "quiz", "Log (of 20)", "Poster", "grade"],
      ["Sorby, Ines", "9", "  ", "3", "A"],
      ["bo lind", "99999999", "17,5", "", ""],
      ["Nobody Here", "1", "1", "1", ""],
    ]);
    expect(planned.changes.map(({ pieceId, after }) => [pieceId, after.score])).toEqual([
      ["a", "9"],
      ["g", "17,5"],
    ]);
    expect(planned.misfits).toMatchObject([{ row: 1, column: 1, typed: "99999999" }]);
    expect(planned.strangers).toEqual(["Nobody Here"]);
    expect(planned.unknownWork).toEqual(["Poster"]);
    // "Map" is two columns here: neither is guessed at.
    expect(
      bring([
        ["student", "Map"],
        ["Bo Lind", "3"],
      ]).unknownWork,
    ).toEqual(["Map"]);
    expect(
      bring([
        ["student", "Map (of 10), 2026-10-08"],
        ["Ines Sørby", "3"],
      ]),
    ).toMatchObject({
      changes: [],
      misfits: [{ why: "Not given." }],
    });
  });

  test("nothing that is brought in is more than the Ledger takes, or fails (property)", () => {
    fc.assert(
      fc.property(fc.array(fc.array(fc.string(), { maxLength: 6 }), { maxLength: 8 }), (table) => {
        const { changes, misfits } = bring(table);
        expect(changes.length + misfits.length).toBeLessThanOrEqual(table.flat().length);
      }),
    );
    expect(bring(Array.from({ length: 400 }, () => ["x"])).tooMany).toBe(true);
  });
});

describe("OneRoster 1.2 (1EdTech, CSV binding; columns and words from memory)", () => {
  const files = writeGradeFiles({
    columns: VIEW.columns.map((c) => ({ ...c, categoryId: "cat", opensOn: "2026-09-20" })),
    rows: VIEW.rows,
    refs: {
      ...{ school: "org", section: "class-1", term: "t1" },
      categories: [{ id: "cat", name: "Tests", weight: "40" }],
      students: new Map([["Ines Sørby", "u-1"]]),
    },
    today: "2026-11-02",
  });
  const table = (name: string) => {
    const [head, ...rows] = parseTable(files.get(name)!).rows.map(({ cells }) => cells);
    return rows.map((cells) => Object.fromEntries(head!.map((h, n) => [h, cells[n]!])));
  };

  test("says in the manifest which files are there, and no other", () => {
    const said = Object.fromEntries(table("manifest.csv").map((r) => [r.propertyName, r.value]));
    for (const file of MANIFEST_FILES)
      expect(said[`file.${file}`]).toBe(files.has(`${file}.csv`) ? "bulk" : "absent");
    expect(Object.keys(GRADE_FILES).every((name) => files.has(name))).toBe(true);
  });

  test("every result is of a line item and a category that are there, with an allowed status", () => {
    const items = table("lineItems.csv");
    const results = table("results.csv");
    expect(new Set(items.map((i) => i.sourcedId)).size).toBe(VIEW.columns.length);
    expect(
      items.every((i) => i.categorySourcedId === "cat" && i.classSourcedId === "class-1"),
    ).toBe(true);
    for (const result of results) {
      expect(items.some((i) => i.sourcedId === result.lineItemSourcedId)).toBe(true);
      expect(SCORE_STATUSES).toContain(result.scoreStatus);
    }
    const of = (id: string) => results.find((r) => r.sourcedId === id);
    expect(of("a")).toMatchObject({
      scoreStatus: "fully graded",
      score: "7.5",
      studentSourcedId: "u-1",
    });
    expect(of("b")).toMatchObject({ scoreStatus: "exempt", score: "" });
    // A draft was told nobody.
    expect(of("d")).toMatchObject({ scoreStatus: "not submitted", score: "" });
    expect(of("e")).toMatchObject({ missing: "true" });
    expect(of("f")).toMatchObject({ late: "true", score: "4" });
  });
});
