import { expect, test } from "@jest/globals";
import { scoreBeside } from "./beside";

test.each([
  ["the last level is chosen", "", null, "14", "14"],
  ["a level changes", "14", "14", "15", "15"],
  ["a level is taken back", "14", "14", null, ""],
  ["a score was typed first", "12", null, "14", "12"],
  ["a score was typed over the sum", "12", "14", "15", "12"],
  ["the typed score is the sum by chance", "14", null, "14", "14"],
  ["nothing is chosen yet", "", null, null, ""],
])("%s", (_, score, before, after, is) => {
  expect(scoreBeside(score, before, after)).toBe(is);
});
