import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import { dropped, type Counts } from "./drop";
import { exact, sayRounded, shownParts, sumOf } from "./exact";
import { gradeOf, type GradeCategory, type GradeColumn, type GradeEntry } from "./grade";
import { checkScale, USUAL_RULES, type GradeRules, checkScales } from "./rules";

const RULES: GradeRules = { ...USUAL_RULES, decimals: 2 };
const category = (id: string, weight: string, drop = 0): GradeCategory => ({
  id,
  name: id,
  weight,
  drop,
});
const column = (
  id: string,
  possible: string | null,
  categoryId: string | null,
  more = {},
): GradeColumn => ({
  ...{ id, title: id, possible, categoryId, counts: true, extraCredit: false },
  ...more,
});
const scored = (columnId: string, points: string): GradeEntry => ({
  columnId,
  points,
  state: "scored",
});
const only = (columnId: string, state: GradeEntry["state"]): GradeEntry => ({
  columnId,
  points: null,
  state,
});

describe("rounding", () => {
  // ISO 80000-1:2009, Annex B, rules A and B with a rounding range of 0,1 (values from memory).
  test.each([
    ["12.223", "12.2", "12.2"],
    ["12.251", "12.3", "12.3"],
    ["12.275", "12.3", "12.3"],
    ["12.25", "12.2", "12.3"],
    ["12.35", "12.4", "12.4"],
  ])("%s to one place: half even %s, half up %s", (value, even, up) => {
    expect([
      sayRounded(exact(value), 1, "half even"),
      sayRounded(exact(value), 1, "half up"),
    ]).toEqual([even, up]);
  });
  test("numbers below one and whole numbers keep their form", () => {
    expect([
      sayRounded(exact("0.05"), 1, "half up"),
      sayRounded(exact("0"), 2, "half up"),
      sayRounded(exact("99.5"), 0, "half even"),
    ]).toEqual(["0.1", "0.00", "100"]);
  });
});

const fraction = fc
  .tuple(fc.integer({ min: 0, max: 2000 }), fc.integer({ min: 1, max: 97 }))
  .map(([n, d]) => exact(n).div(d));

test("the shown parts add up to the shown sum, which rounds as the exact one does", () => {
  fc.assert(
    fc.property(
      fc.array(fraction, { minLength: 1, maxLength: 8 }),
      fc.constantFrom("half up" as const, "half even" as const),
      fc.integer({ min: 0, max: 2 }),
      (parts, round, decimals) => {
        const shown = shownParts(parts, decimals + 3, { decimals, round });
        expect(sumOf(shown.parts.map(exact)).equals(exact(shown.sum))).toBe(true);
        expect(sayRounded(exact(shown.sum), decimals, round)).toBe(
          sayRounded(sumOf(parts), decimals, round),
        );
      },
    ),
  );
});

describe("dropping", () => {
  const counts = (...list: [string, number, number][]): Counts[] =>
    list.map(([id, points, possible]) => ({
      id,
      points: exact(points),
      possible: exact(possible),
    }));

  // D. M. Kane and J. M. Kane, "Dropping Lowest Grades", Mathematics Magazine 79 (2006), the example of Beth (from memory):
  // 80/100, 20/100, 1/20. Dropping the lowest percent (1/20) gives 50 %; dropping 20/100 gives 67.5 %.
  test("what helps most is not always the lowest percent", () => {
    expect([
      ...dropped([{ counts: counts(["1", 80, 100], ["2", 20, 100], ["3", 1, 20]), drop: 1 }]),
    ]).toEqual(["2"]);
  });

  /** All ways to leave out so many, tried one after the other. */
  const bestByTrying = (list: readonly Counts[], drop: number) => {
    let best = exact(0);
    for (let mask = 0; mask < 1 << list.length; mask += 1) {
      const stay = list.filter((_, n) => mask & (1 << n));
      if (stay.length !== Math.max(1, list.length - drop)) continue;
      const q = sumOf(stay.map((c) => c.points)).div(sumOf(stay.map((c) => c.possible)));
      if (q.compare(best) > 0) best = q;
    }
    return best;
  };
  const list = fc
    .array(fc.tuple(fc.integer({ min: 0, max: 100 }), fc.integer({ min: 1, max: 100 })), {
      minLength: 1,
      maxLength: 9,
    })
    .map((pairs) => counts(...pairs.map(([p, m], n): [string, number, number] => [`c${n}`, p, m])));
  test("the best of all ways is found; at least one stays", () => {
    fc.assert(
      fc.property(list, fc.integer({ min: 0, max: 12 }), (all, drop) => {
        const gone = dropped([{ counts: all, drop }]);
        const stay = all.filter(({ id }) => !gone.has(id));
        expect(stay.length).toBe(Math.max(1, all.length - drop));
        const q = sumOf(stay.map((c) => c.points)).div(sumOf(stay.map((c) => c.possible)));
        expect(q.equals(bestByTrying(all, drop))).toBe(true);
      }),
    );
  });
  test("of nothing nothing is dropped", () =>
    expect(dropped([{ counts: [], drop: 3 }]).size).toBe(0));
});

describe("a grade by weights", () => {
  const categories = [category("writing", "40"), category("reports", "60")];
  const columns = [
    column("a", "10", "writing"),
    column("b", "20", "writing"),
    column("c", "50", "reports"),
  ];
  // Common practice, no source: 40 × 25/30 + 60 × 45/50 = 33.33 + 54 = 87.33.
  test("points by possible points in a category, times its weight", () => {
    const grade = gradeOf(RULES, categories, columns, [
      scored("a", "8"),
      scored("b", "17"),
      scored("c", "45"),
    ]);
    expect(grade).toMatchObject({ percent: "87.33", unrounded: "87.33333", ofWeight: "100" });
    expect(grade.parts.map((p) => [p.name, p.earned, p.possible, p.percent, p.brings])).toEqual([
      ["writing", "25", "30", "83.33333", "33.33333"],
      ["reports", "45", "50", "90", "54.00000"],
    ]);
  });
  test("an empty category gives its weight to the others, or keeps it", () => {
    const entries = [scored("a", "8"), scored("b", "17"), only("c", "not yet")];
    expect(gradeOf(RULES, categories, columns, entries)).toMatchObject({
      percent: "83.33",
      ofWeight: "40",
    });
    expect(gradeOf({ ...RULES, emptyWeights: "kept" }, categories, columns, entries)).toMatchObject(
      { percent: "33.33", ofWeight: "100" },
    );
  });
  test("missing is nought or left out; excused, words only and what does not count never count", () => {
    const entries = [only("a", "missing"), scored("b", "17"), only("c", "excused")];
    const more = [
      ...columns,
      column("d", null, "reports"),
      column("e", "10", "reports", { counts: false }),
    ];
    const all = [...entries, scored("d", "1"), scored("e", "0")];
    expect(gradeOf(RULES, categories, more, all).percent).toBe("56.67");
    expect(gradeOf({ ...RULES, missing: "left out" }, categories, more, all).percent).toBe("85.00");
    expect(gradeOf(RULES, categories, more, all).parts[1]!.lines.map((l) => l.treatment)).toEqual([
      "excused",
      "does not count",
      "does not count",
    ]);
  });
  test("extra credit adds above, alone in its category too", () => {
    const extra = column("x", "5", "writing", { extraCredit: true });
    const entries = [scored("a", "10"), scored("b", "20"), scored("c", "50"), scored("x", "3")];
    expect(gradeOf(RULES, categories, [...columns, extra], entries).percent).toBe("104.00");
    const own = [...categories, category("extra", "10")];
    const alone = { ...extra, categoryId: "extra" };
    // 100 % of the weights and 3/5 of 10 above.
    expect(gradeOf(RULES, own, [...columns, alone], entries).percent).toBe("106.00");
    expect(gradeOf(RULES, own, [...columns, alone], entries.slice(0, 3)).percent).toBe("100.00");
  });
  test("what is dropped is said, and a name of the scale goes by the grade as it is read", () => {
    const rules: GradeRules = {
      ...RULES,
      decimals: 1,
      scale: [
        { from: "85", name: "A" },
        { from: "70", name: "B" },
      ],
    };
    const grade = gradeOf(
      rules,
      [category("quiz", "1", 1)],
      [column("a", "100", "quiz"), column("b", "10", "quiz")],
      [scored("a", "84.95"), scored("b", "1")],
    );
    expect(grade).toMatchObject({ percent: "85.0", name: "A" });
    expect(grade.parts[0]!.lines.map((l) => l.treatment)).toEqual(["counts", "dropped"]);
    expect(gradeOf(rules, [], [column("a", "10", null)], [scored("a", "6.9")])).toMatchObject({
      percent: "69.0",
      name: null,
    });
  });
  test("nothing counts yet: no grade, and no division by nought", () => {
    for (const way of ["weights", "points"] as const)
      expect(gradeOf({ ...RULES, way }, categories, columns, [only("a", "not yet")])).toMatchObject(
        { percent: null, unrounded: null },
      );
    expect(
      gradeOf(RULES, [category("w", "0")], [column("a", "10", "w")], [scored("a", "5")]).percent,
    ).toBeNull();
  });
});

test("a grade by points is all points by all possible points, and dropping looks at the whole", () => {
  const rules: GradeRules = { ...RULES, way: "points" };
  const categories = [category("big", "90", 1), category("small", "10")];
  const columns = [column("a", "100", "big"), column("b", "20", "big"), column("c", "80", "small")];
  // Without a drop (45 + 2 + 80) / 200; without b (45 + 80) / 180 = 69.44; without a (2 + 80) / 100 = 82.
  const grade = gradeOf(rules, categories, columns, [
    scored("a", "45"),
    scored("b", "2"),
    scored("c", "80"),
  ]);
  expect(grade.percent).toBe("82.00");
});

describe("of any grade", () => {
  const points = fc.integer({ min: 0, max: 400 }).map((n) => String(n / 4));
  const setting = fc.record({
    way: fc.constantFrom("weights" as const, "points" as const),
    missing: fc.constantFrom("zero" as const, "left out" as const),
    emptyWeights: fc.constantFrom("spread" as const, "kept" as const),
    decimals: fc.constantFrom(0 as const, 1 as const, 2 as const),
    round: fc.constantFrom("half up" as const, "half even" as const),
  });
  const school = fc.record({
    setting,
    weights: fc.array(
      fc.record({ weight: fc.integer({ min: 0, max: 60 }), drop: fc.integer({ min: 0, max: 3 }) }),
      { maxLength: 4 },
    ),
    work: fc.array(
      fc.record({
        possible: fc.option(fc.integer({ min: 1, max: 100 })),
        category: fc.integer({ min: 0, max: 4 }),
        counts: fc.boolean(),
        extraCredit: fc.boolean(),
        state: fc.constantFrom(
          "scored" as const,
          "scored" as const,
          "missing" as const,
          "excused" as const,
          "not yet" as const,
        ),
        points,
      }),
      { minLength: 1, maxLength: 10 },
    ),
  });
  const made = (given: {
    setting: object;
    weights: { weight: number; drop: number }[];
    work: {
      possible: number | null;
      category: number;
      counts: boolean;
      extraCredit: boolean;
      state: GradeEntry["state"];
      points: string;
    }[];
  }) => {
    const categories = given.weights.map((w, n) => category(`k${n}`, String(w.weight), w.drop));
    const columns = given.work.map((w, n) =>
      column(
        `c${n}`,
        w.possible === null ? null : String(w.possible),
        categories[w.category]?.id ?? null,
        { counts: w.counts, extraCredit: w.extraCredit },
      ),
    );
    const entries = given.work.map((w, n): GradeEntry =>
      w.state === "scored" ? scored(`c${n}`, w.points) : only(`c${n}`, w.state),
    );
    return { rules: { ...RULES, ...given.setting } as GradeRules, categories, columns, entries };
  };

  test("the order of columns and categories never matters", () => {
    fc.assert(
      fc.property(school, (given) => {
        const { rules, categories, columns, entries } = made(given);
        const there = gradeOf(rules, categories, columns, entries).percent;
        expect(
          gradeOf(rules, [...categories].reverse(), [...columns].reverse(), [...entries].reverse())
            .percent,
        ).toBe(there);
      }),
    );
  });

  test("a better score never lowers it", () => {
    fc.assert(
      fc.property(school, fc.nat(), fc.integer({ min: 1, max: 200 }), (given, at, more) => {
        const { rules, categories, columns, entries } = made(given);
        const before = gradeOf(rules, categories, columns, entries).percent;
        const n = at % entries.length;
        if (entries[n]!.state !== "scored") return;
        const better = entries.map((e, k) =>
          k === n ? scored(e.columnId, String(Number(e.points) + more / 4)) : e,
        );
        const after = gradeOf(rules, categories, columns, better).percent;
        if (before !== null) expect(exact(after!).compare(exact(before))).toBeGreaterThanOrEqual(0);
      }),
    );
  });

  test("the parts that are shown add up to it", () => {
    fc.assert(
      fc.property(school, (given) => {
        const { rules, categories, columns, entries } = made(given);
        const grade = gradeOf(rules, categories, columns, entries);
        if (grade.percent === null || rules.way === "points") return;
        const sum = sumOf(grade.parts.flatMap((p) => (p.brings === null ? [] : [exact(p.brings)])));
        expect(sum.equals(exact(grade.unrounded!))).toBe(true);
        expect(sayRounded(sum, rules.decimals, rules.round)).toBe(grade.percent);
      }),
    );
  });
});

test("a scale goes down, each step named", () => {
  expect(
    checkScale([
      { from: "85", name: "A" },
      { from: "70", name: "B" },
    ]),
  ).toEqual({});
  expect(
    Object.keys(
      checkScale([
        { from: "x", name: "A" },
        { from: "70", name: "" },
        { from: "80", name: "C" },
      ]),
    ),
  ).toEqual(["0", "1", "2"]);
});

describe("the scales of a school", () => {
  const scale = (name: string, ...steps: [string, string][]) => ({
    ...{ name, decimals: 0 as const, round: "half even" as const },
    scale: steps.map(([from, step]) => ({ from, name: step })),
  });
  test.each([
    [[scale("Letters", ["90", "A"], ["80", "B"])], {}],
    [[scale(" ", ["90", "A"])], { "scales[0].name": "Name this scale." }],
    [
      [scale("Letters", ["90", "A"]), scale(" letters ", ["50", "pass"])],
      { "scales[1].name": "Two scales have this name." },
    ],
    [[scale("Empty")], { "scales[0].scale[0]": "A scale has one step at least." }],
    [
      [scale("Letters", ["80", "B"], ["90", "A"])],
      { "scales[0].scale[1]": expect.stringContaining("Steps go down") },
    ],
  ])("%j", (scales, wrong) => expect(checkScales(scales)).toEqual(wrong));
});
