import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import { categoriesOver, scoresOver, weeksOver, type CoursePiece } from "./course";

const piece = (part: Partial<CoursePiece>): CoursePiece => ({
  ...{ title: "Log", on: "2026-10-14", category: "", earned: null, late: false, missing: false },
  ...{ asked: 0, settled: 0 },
  ...part,
});
const earned = (points: string, possible = "10") => ({ earned: { points, possible } });

describe("a term in figures", () => {
  test("scores come in the order of their days, as shares of what was possible", () => {
    const pieces = [
      piece({ title: "Letter", on: "2026-10-20", ...earned("17", "24") }),
      piece({ title: "Quiz", on: "2026-09-09", ...earned("9.5") }),
      piece({ title: "Not scored" }),
      piece({ title: "Worth nothing", ...earned("0", "0") }),
    ];
    expect(scoresOver(pieces)).toEqual([
      { title: "Quiz", on: "2026-09-09", percent: 95 },
      { title: "Letter", on: "2026-10-20", percent: 70.8 },
    ]);
  });

  // Points over points possible, and not the mean of percents: 1 of 10 and 40 of 40 are 82 % (common practice, no source).
  test("a category is its points of all that were possible there", () => {
    const pieces = [
      piece({ category: "Quizzes", ...earned("1") }),
      piece({ category: "Quizzes", ...earned("40", "40") }),
      piece({ ...earned("5") }),
      piece({ category: "Letters", ...earned("10") }),
    ];
    expect(categoriesOver(pieces)).toEqual([
      { category: "Letters", pieces: 1, percent: 100 },
      { category: "Quizzes", pieces: 2, percent: 82 },
      { category: "", pieces: 1, percent: 50 },
    ]);
  });

  test("a week begins on Monday, and weeks add up to all there is, in whatever order it comes", () => {
    const pieces = fc.array(
      fc.record({
        day: fc.integer({ min: 0, max: 120 }),
        late: fc.boolean(),
        asked: fc.integer({ min: 0, max: 5 }),
      }),
      { maxLength: 40 },
    );
    fc.assert(
      fc.property(pieces, (given) => {
        const all = given.map(({ day, late, asked }) => {
          const on = new Date(Date.UTC(2026, 8, 1 + day)).toISOString().slice(0, 10);
          return piece({ on, late, asked, settled: asked });
        });
        const weeks = weeksOver(all);
        const total = (key: "pieces" | "late" | "asked" | "settled") =>
          weeks.reduce((sum, week) => sum + week[key], 0);
        expect([total("pieces"), total("late")]).toEqual([
          ...[all.length, all.filter(({ late }) => late).length],
        ]);
        expect(total("asked")).toBe(total("settled"));
        for (const { monday } of weeks) expect(new Date(`${monday}T00:00:00Z`).getUTCDay()).toBe(1);
        expect(weeksOver([...all].reverse())).toEqual(weeks);
      }),
    );
  });
});
