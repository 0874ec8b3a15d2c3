import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import { correlation, itemFigures, sayItem } from "./items";
import { handInCurve, spreadOf } from "./spread";

describe("item analysis", () => {
  // SciPy's documentation of scipy.stats.pointbiserialr: a = [0,0,0,1,1,1,1], b = 0..6 gives 0.8660254037844386 (from memory).
  test("with right and wrong the correlation is the point-biserial", () => {
    expect(correlation([0, 0, 0, 1, 1, 1, 1], [0, 1, 2, 3, 4, 5, 6])).toBeCloseTo(
      0.8660254037844386,
      14,
    );
  });
  // The textbook form of the point-biserial: (M1 − M0) / s · √(pq), with s of the population (common practice, no source).
  test("it is (M1 − M0) / s · √(pq)", () => {
    const list = fc.array(fc.tuple(fc.boolean(), fc.integer({ min: 0, max: 50 })), {
      minLength: 3,
      maxLength: 40,
    });
    fc.assert(
      fc.property(list, (pairs) => {
        const of = (right: boolean) => pairs.filter(([r]) => r === right).map(([, y]) => y);
        const mean = (v: number[]) => v.reduce((a, b) => a + b, 0) / v.length;
        const r = correlation(
          pairs.map(([x]) => Number(x)),
          pairs.map(([, y]) => y),
        );
        const [ones, noughts, all] = [of(true), of(false), pairs.map(([, y]) => y)];
        const s = Math.sqrt(mean(all.map((y) => (y - mean(all)) ** 2)));
        if (ones.length === 0 || noughts.length === 0 || s === 0) expect(r).toBeNull();
        else {
          const p = ones.length / pairs.length;
          expect(r).toBeCloseTo(((mean(ones) - mean(noughts)) / s) * Math.sqrt(p * (1 - p)), 9);
        }
      }),
    );
  });
  test("a question is held against the others, not against itself", () => {
    const figures = itemFigures([
      { questionId: "a", text: "a", shares: [1, 1, 0, 0] },
      { questionId: "b", text: "b", shares: [1, 1, 0, 0] },
      { questionId: "c", text: "c", shares: [0, 0, 1, null] },
    ]);
    expect(figures.map((f) => [f.answers, f.difficulty])).toEqual([
      [4, 0.5],
      [4, 0.5],
      [3, 1 / 3],
    ]);
    expect(figures[2]!.discrimination).toBeCloseTo(-1, 9);
    expect(sayItem(figures[2]!)).toContain("look at the key");
    expect(itemFigures([])).toEqual([]);
  });
  test("where nothing varies nothing is said of it", () => {
    const [all] = itemFigures([
      { questionId: "a", text: "a", shares: [1, 1, 1] },
      { questionId: "b", text: "b", shares: [1, 0, 0.5] },
    ]);
    expect(all).toMatchObject({ difficulty: 1, discrimination: null });
    expect(sayItem(all!)).toBe("nearly everyone has it");
  });
});

describe("scores and hand-ins in figures", () => {
  // Tukey's hinges of 1..9 are 3, 5, 7 (J. W. Tukey, "Exploratory Data Analysis", 1977; from memory).
  test("median and hinges", () => {
    expect(spreadOf([9, 8, 7, 6, 5, 4, 3, 2, 1])).toMatchObject({
      lowest: 1,
      lower: 3,
      median: 5,
      upper: 7,
      highest: 9,
    });
    expect(spreadOf([40])).toMatchObject({ lower: 40, median: 40, upper: 40 });
    expect(spreadOf([])).toBeNull();
  });
  test("each score is in one ten, 100 and more in the last", () => {
    expect(spreadOf([0, 9.99, 10, 89.9, 90, 100, 104])!.tens).toEqual([
      2, 1, 0, 0, 0, 0, 0, 0, 1, 3,
    ]);
  });
  test("days add up", () => {
    expect(handInCurve(["2026-11-04", "2026-11-02", "2026-11-04"])).toEqual([
      { day: "2026-11-02", came: 1, together: 1 },
      { day: "2026-11-04", came: 2, together: 3 },
    ]);
  });
});
