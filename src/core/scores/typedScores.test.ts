import { expect, test } from "@jest/globals";
import { typedScores, type TypedScore } from "./typedScores";

const at = (minutes: number, typed: string, by = "Odalys Brandt", round = 1): TypedScore => ({
  ...{ typed, by, round },
  at: new Date(Date.UTC(2026, 9, 14, 9, 0) + minutes * 60_000),
});
const said = (...all: TypedScore[]) =>
  typedScores(all).map(({ typed, by, round }) => `${round} ${typed || "–"} ${by.split(" ")[0]}`);

test("what is typed on the way to a score is not kept apart; another hour, teacher or round is", () => {
  expect(said(at(0, "7"), at(1, "7."), at(2, "7.5"), at(30, "8"))).toEqual([
    ...["1 7.5 Odalys", "1 8 Odalys"],
  ]);
  expect(said(at(0, "7"), at(1, "8", "Ruben Achterberg"))).toEqual(["1 7 Odalys", "1 8 Ruben"]);
  expect(said(at(0, "7"), at(1, "7", undefined, 2))).toEqual(["1 7 Odalys", "2 7 Odalys"]);
});

test("taken away is said where there was one, and what came out as it was is no change", () => {
  expect(said(at(0, "7"), at(10, ""))).toEqual(["1 7 Odalys", "1 – Odalys"]);
  expect(said(at(0, "7"), at(1, ""))).toEqual([]);
  expect(said(at(0, "7"), at(10, "9"), at(11, "7"))).toEqual(["1 7 Odalys"]);
  expect(said()).toEqual([]);
});
