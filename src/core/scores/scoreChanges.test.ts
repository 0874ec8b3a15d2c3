import { expect, test } from "@jest/globals";
import { sayScoreChange, scoreChanges, type ScoreFact } from "./scoreChanges";

const at = (minute: number) => new Date(Date.UTC(2026, 10, 2, 15, minute));
const fact = (round: number, points: string, minute: number, reason = ""): ScoreFact => ({
  ...{
    round,
    points,
    shown: `${Number(points)} / 10`,
    by: "Odalys Brandt",
    at: at(minute),
    reason,
  },
});

test("a change is one within a round, of other points; a further round's score is none", () => {
  const facts = [
    fact(1, "7.000", 0),
    fact(1, "7.000", 1),
    fact(1, "8.000", 2, "The unit was there."),
    fact(2, "6.000", 3),
    fact(2, "5.500", 4),
  ];
  expect(scoreChanges(facts).map((c) => [c.round, c.was, c.is, c.rose, c.reason])).toEqual([
    [1, "7 / 10", "8 / 10", true, "The unit was there."],
    [2, "6 / 10", "5.5 / 10", false, ""],
  ]);
  expect(scoreChanges([])).toEqual([]);
  expect(sayScoreChange({ was: "7 / 10", is: "6 / 10", rose: false })).toBe(
    "The score fell from 7 / 10 to 6 / 10",
  );
});
