import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import { applyChange, applyDecisions, changeOf, moveRange, whyNotAccept } from "./edits";
import { faultsOf, type Edit } from "./mark";
import { wholeMark } from "./schema";

const text = "Its a long way to the the pier and we was tired.";
function edit(id: string, kind: Edit["kind"], words: string, replacement = "", from = 0): Edit {
  const start = text.indexOf(words, from);
  const end = kind === "insert" ? start : start + words.length;
  return { ...wholeMark({ id, kind, start, end, replacement, quote: words }), kind };
}
const edits = [
  edit("its", "replace", "Its", "It's"),
  edit("twice", "delete", "the ", "", 22),
  edit("very", "insert", "tired", "very "),
  edit("were", "replace", "was", "were"),
];

describe("one edit", () => {
  test.each<[string, string, Edit["kind"], [number, number], string, string]>([
    ["a doubled word goes with its space", "It is is wet.", "delete", [6, 8], "", "It is wet."],
    [
      "the last word goes with the space before it",
      "It is wet now.",
      "delete",
      [10, 13],
      "",
      "It is wet.",
    ],
    [
      "the first word goes with the space after it",
      "So it is wet.",
      "delete",
      [0, 2],
      "",
      "it is wet.",
    ],
    ["a sign goes alone", "Wet, and cold", "delete", [3, 4], "", "Wet and cold"],
    ["a word inserted gets the space it lacks", "It wet.", "insert", [3, 3], "is", "It is wet."],
    ["a word inserted at the end of another", "It wet.", "insert", [2, 2], " is", "It is wet."],
    ["a comma needs none", "Wet and cold", "insert", [3, 3], ",", "Wet, and cold"],
    ["replace is to the letter", "recieve", "replace", [0, 7], "receive", "receive"],
  ])("%s", (_name, before, kind, [start, end], replacement, after) => {
    expect(applyChange(before, changeOf(before, { kind, start, end, replacement }))).toBe(after);
  });
});

describe("an edit is accepted only where its words still stand", () => {
  const sleeping = { kind: "replace" as const, quote: "sleeping", replacement: "asleep" };
  const range = (text: string, words: string) => {
    const start = text.indexOf(words);
    return { start, end: start + words.length };
  };
  test.each([
    ["They were sleeping.", "sleeping", null],
    ["They were asleep.", "asleep", "there"],
    ["They were asleepleeping.", "leeping", "changed"],
    ["They were .", "", "gone"],
  ])("%s", (text, words, why) => {
    const at = words === "" ? { start: 10, end: 10 } : range(text, words);
    expect(whyNotAccept(text, { ...sleeping, ...at })).toBe(why);
  });
  test("a deletion and an insertion", () => {
    const twice = { kind: "delete" as const, quote: "the the", replacement: "" };
    expect(whyNotAccept("to the  the pier", { ...twice, start: 3, end: 11 })).toBeNull();
    expect(whyNotAccept("to the pier", { ...twice, start: 3, end: 6 })).toBe("changed");
    const very = { kind: "insert" as const, quote: "", replacement: "very " };
    expect(whyNotAccept("we were tired", { ...very, start: 8, end: 8 })).toBeNull();
    expect(whyNotAccept("we were very tired", { ...very, start: 13, end: 13 })).toBe("there");
  });
  test("whatever the student made of the words, accepting never writes half of them twice", () => {
    const letters = fc.stringMatching(/^[a-z]{0,4}$/);
    fc.assert(
      fc.property(fc.nat(8), fc.nat(8), letters, (a, b, put) => {
        const [from, to] = [Math.min(a, b), Math.max(a, b)];
        const before = "They were sleeping now.";
        const change = { from: 10 + from, to: 10 + to, insert: put };
        const text = applyChange(before, change);
        const at = moveRange({ start: 10, end: 18 }, change);
        if (whyNotAccept(text, { ...sleeping, ...at }) !== null) return true;
        const after = applyChange(text, changeOf(text, { ...sleeping, ...at }));
        return text.slice(at.start, at.end).trim() === "sleeping" && after.includes("asleep");
      }),
    );
  });
});

describe("several edits", () => {
  const all = "It's a long way to the pier and we were very tired.";
  test("in every order the accepted text is the same", () => {
    const orders = permutations(edits.map((e) => e.id));
    expect(orders).toHaveLength(24);
    for (const order of orders)
      expect(
        applyDecisions(
          text,
          edits,
          order.map((id) => ({ id, decision: "accepted" as const })),
        ),
      ).toBe(all);
  });
  test("whatever is accepted or declined, in whatever order, only what was accepted changes", () => {
    const decided = fc
      .shuffledSubarray(edits.map((e) => e.id))
      .chain((ids) =>
        fc.tuple(
          fc.constant(ids),
          fc.array(fc.boolean(), { minLength: ids.length, maxLength: ids.length }),
        ),
      );
    fc.assert(
      fc.property(decided, ([ids, accept]) => {
        const decisions = ids.map((id, n) => ({
          id,
          decision: accept[n] ? ("accepted" as const) : ("declined" as const),
        }));
        const accepted = new Set(
          decisions.filter((d) => d.decision === "accepted").map((d) => d.id),
        );
        // The reference: accepted edits applied from the back, so that none moves another.
        const expected = [...edits]
          .sort((a, b) => b.start - a.start)
          .filter((e) => accepted.has(e.id))
          .reduce((t, e) => applyChange(t, changeOf(t, e)), text);
        expect(applyDecisions(text, edits, decisions)).toBe(expected);
      }),
    );
  });
  test("of two edits on the same words the first accepted wins", () => {
    const rival = edit("gone", "delete", "was");
    const decisions = ["were", "gone"].map((id) => ({ id, decision: "accepted" as const }));
    expect(applyDecisions(text, [...edits, rival], [...decisions].reverse())).toContain("we tired");
    expect(applyDecisions(text, [...edits, rival], [{ id: "its", decision: "declined" }])).toBe(
      text,
    );
  });
});

test("a range moves with its words and is cut where they go", () => {
  const change = { from: 4, to: 8, insert: "xx" };
  expect(
    [
      [0, 3],
      [0, 6],
      [5, 7],
      [6, 12],
      [8, 10],
      [4, 8],
    ].map(([start, end]) => moveRange({ start: start!, end: end! }, change)),
  ).toEqual([
    { start: 0, end: 3 },
    { start: 0, end: 4 },
    { start: 4, end: 4 },
    { start: 6, end: 10 },
    { start: 6, end: 8 },
    { start: 6, end: 6 },
  ]);
});

test("a mark that cannot stand says why", () => {
  const base = {
    kind: "note" as const,
    nature: "remark" as const,
    body: "x",
    replacement: "",
    start: 0,
    end: 3,
  };
  expect(faultsOf(base, 10)).toEqual({});
  expect(Object.keys(faultsOf({ ...base, body: " " }, 10))).toEqual(["body"]);
  expect(Object.keys(faultsOf({ ...base, end: 11 }, 10))).toEqual(["start"]);
  expect(Object.keys(faultsOf({ ...base, end: 0 }, 10))).toEqual(["end"]);
  expect(Object.keys(faultsOf({ ...base, kind: "replace" }, 10))).toEqual(["replacement"]);
  expect(Object.keys(faultsOf({ ...base, kind: "tick", nature: "request" }, 10))).toEqual([
    "nature",
  ]);
  expect(faultsOf({ ...base, kind: "insert", end: 0, body: "", replacement: "so" }, 10)).toEqual(
    {},
  );
});

function permutations<T>(items: T[]): T[][] {
  return items.length < 2
    ? [items]
    : items.flatMap((item, n) =>
        permutations([...items.slice(0, n), ...items.slice(n + 1)]).map((rest) => [item, ...rest]),
      );
}
