import { describe, expect, test } from "@jest/globals";
import type { AnswerLine, AnswerSheet } from "../views/workViews";
import { answersSince } from "./since";

const line = (questionId: string, given: string | null): AnswerLine => ({
  by: "key",
  questionId,
  text: `Question ${questionId}`,
  kind: "number",
  state: given === null ? "nothing given" : "wrong",
  points: "0",
  possible: "1",
  note: "",
  rows: [{ label: "", given: given ?? "nothing", key: "7", same: false }],
  tries: 0,
});
const sheet = (lines: AnswerLine[], name = "Tides"): AnswerSheet => ({
  partId: "p",
  name,
  show: "at once",
  lines,
  points: "0",
  possible: "4",
  waiting: 0,
});

describe("answers of two hand-ins", () => {
  test("each question says what became of it, in the order of the later one", () => {
    const before = [
      sheet([line("a", "7"), line("b", "8"), line("c", null), line("d", "3"), line("e", null)]),
    ];
    const now = [
      sheet([line("d", null), line("c", "2"), line("b", "9"), line("a", "7"), line("e", null)]),
    ];
    expect(answersSince(before, now)[0]!.lines.map((l) => [l.now.questionId, l.became])).toEqual([
      ["d", "taken out"],
      ["c", "new"],
      ["b", "changed"],
      ["a", "same"],
      ["e", "same"],
    ]);
  });

  test("a question or a whole set that was not there before has nothing before it", () => {
    const [tides, winds] = answersSince(
      [sheet([line("a", "7")])],
      [sheet([line("a", "7"), line("z", "1")]), sheet([line("w", "2")], "Winds")],
    );
    expect(tides!.lines[1]).toMatchObject({ before: null, became: "new" });
    expect(winds!.lines[0]).toMatchObject({ before: null, became: "new" });
  });
});
