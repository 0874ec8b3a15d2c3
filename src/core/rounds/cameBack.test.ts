import { describe, expect, test } from "@jest/globals";
import {
  answeredMarks,
  openRequests,
  currentMarks,
  differsFrom,
  type HandBackContent,
  type HandBackFact,
} from "./cameBack";
import type { GivenMark } from "../marks/schema";

const first = "We measured the rain. It was 12. The pier was wet.";
const second = "We measured the rain with a gauge. It was 12 mm. The pier was wet.";
const mark = (id: string, quote: string, facts: Partial<GivenMark> = {}): GivenMark => ({
  id,
  kind: "note",
  nature: "request",
  start: first.indexOf(quote),
  end: first.indexOf(quote) + quote.length,
  quote,
  body: "?",
  replacement: "",
  ...facts,
});
const content = (facts: Partial<HandBackContent>): HandBackContent => ({
  overall: "",
  scoreTyped: "",
  points: null,
  possible: "10",
  versionId: "v1",
  marks: [],
  rulings: [],
  ...facts,
});
const roundOne: HandBackFact = {
  round: 1,
  outcome: "revise",
  content: content({
    marks: [
      mark("unit", "12"),
      mark("how", "measured"),
      mark("ok", "wet", { nature: "remark", kind: "tick" }),
    ],
  }),
};
const seen = (
  handBacks: HandBackFact[],
  answers: {
    markId: string;
    request: "open" | "done" | null;
    decision: "accepted" | "declined" | null;
  }[] = [],
) =>
  answeredMarks(
    {
      handBacks,
      answers,
      messages: new Map(),
      texts: new Map([
        ["v1", first],
        ["v2", second],
      ]),
    },
    second,
  );

describe("a request, from asking to settling", () => {
  test("it is open at first, and stands where its words now are", () => {
    const [unit, how, ok] = seen([roundOne]);
    expect([unit!.request, how!.request, ok!.request]).toEqual(["open", "open", null]);
    expect(second.slice(unit!.at!.start, unit!.at!.end)).toBe("12");
  });
  test("the student says it is done", () => {
    const marks = seen([roundOne], [{ markId: "unit", request: "done", decision: null }]);
    expect(marks[0]!.request).toBe("done");
    expect(openRequests("to_revise", marks)).toBe(1);
  });
  test("the teacher settles one and asks the other again, in round two", () => {
    const roundTwo: HandBackFact = {
      round: 2,
      outcome: "revise",
      content: content({
        versionId: "v2",
        marks: [{ ...mark("how2", "measured"), start: 3, end: 11 }],
        rulings: [
          { markId: "unit", ruling: "settled" },
          { markId: "how", ruling: "again" },
        ],
      }),
    };
    const marks = seen([roundOne, roundTwo], [{ markId: "unit", request: "done", decision: null }]);
    expect(marks.map((m) => [m.id, m.request])).toEqual([
      ["unit", "settled"],
      ["how", "asked again"],
      ["ok", null],
      ["how2", "open"],
    ]);
    expect(currentMarks(marks).map((m) => m.id)).toEqual(["how2"]);
    expect(openRequests("to_revise", marks)).toBe(1);
  });
  test("one that nobody ruled on stays with the student beside the new ones", () => {
    const roundTwo: HandBackFact = {
      round: 2,
      outcome: "revise",
      content: content({
        versionId: "v2",
        rulings: [{ markId: "unit", ruling: "settled" }],
        marks: [{ ...mark("new", "rain"), start: 16, end: 20 }],
      }),
    };
    expect(currentMarks(seen([roundOne, roundTwo])).map((m) => m.id)).toEqual(["how", "new"]);
  });
  test("words that are gone leave the mark without a place, not without a line", () => {
    const gone = seen([
      { ...roundOne, content: content({ versionId: "missing", marks: [mark("x", "12")] }) },
    ]);
    expect(gone).toMatchObject([{ id: "x", at: null, request: "open" }]);
  });
  test("one asked again after its words were gone has no place, in later rounds either", () => {
    const again: HandBackFact = {
      round: 2,
      outcome: "revise",
      content: content({
        versionId: "v2",
        marks: [{ ...mark("late", "12"), start: 0, end: 1, quote: "very hard" }],
      }),
    };
    expect(seen([again])).toMatchObject([
      { id: "late", at: null, quote: "very hard", request: "open" },
    ]);
  });
});

test("a draft differs from what was handed back when anything a student sees differs", () => {
  const base = content({
    overall: "Good.",
    points: "8",
    marks: [mark("a", "12"), mark("b", "wet")],
  });
  expect(differsFrom(base, { ...base, marks: [...base.marks].reverse() })).toBe(false);
  expect(differsFrom(base, { ...base, overall: "Good!" })).toBe(true);
  expect(differsFrom(base, { ...base, points: "9" })).toBe(true);
  expect(differsFrom(base, { ...base, marks: base.marks.slice(1) })).toBe(true);
  expect(differsFrom(base, { ...base, rulings: [{ markId: "z", ruling: "settled" }] })).toBe(true);
});
