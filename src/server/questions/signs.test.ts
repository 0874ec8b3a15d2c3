import { describe, expect, test } from "@jest/globals";
import { uuidv7 } from "uuidv7";
import { aPart } from "@/core/handouts/parts";
import { readAnswer, type Question } from "@/core/questions/question";
import { partViews } from "./answers";
import { signedAnswers, signsOf, unsigned } from "./signs";

/** As the editor and the reader of question files make them: one id after the other, in the order of the key. */
const choices = (texts: readonly string[]) => texts.map((text) => ({ id: uuidv7(), text }));
const ordering: Question = {
  ...{ id: uuidv7(), kind: "ordering", text: "Order them.", points: "4" },
  items: choices(["ebb", "low water", "flood", "high water"]),
};
const left = choices(["rain", "wind", "tide", "light"]);
const right = choices(["millimetres", "knots", "metres", "lux"]);
const matching: Question = {
  ...{ id: uuidv7(), kind: "matching", text: "Pair them.", points: "4", left, right },
  pairs: Object.fromEntries(left.map(({ id }, n) => [id, right[n]!.id])),
};
const PART = uuidv7();
const set = { partId: PART, name: "Tides", questions: [ordering, matching] };
const sent = (pieceId: string) =>
  partViews({ parts: [aPart(PART, "questions")], sets: [set] }, pieceId, [], {
    ...{ judgements: [], handedIn: null, over: false, handedBack: false, now: {} },
  })[0]!.questions!.asked;

describe("what a student is sent tells nothing of the key", () => {
  type Sent = { id: string; text: string };
  const ways: readonly [string, (a: Sent, b: Sent) => number][] = [
    ["as it comes", () => 0],
    ["by id", (a, b) => a.id.localeCompare(b.id)],
    ["by id from the end", (a, b) => b.id.localeCompare(a.id)],
    ["by the id's end", (a, b) => a.id.slice(-12).localeCompare(b.id.slice(-12))],
  ];
  const PIECES = 3000;
  // Of four things put in any order one stands in its place on average; in 3,000 tries within a tenth of it.
  test.each(ways)("sorted %s, no more is right than by chance", (_way, by) => {
    let [ordered, paired, whole] = [0, 0, 0];
    for (let n = 0; n < PIECES; n += 1) {
      const [order, match] = sent(`piece ${n}`);
      const texts = (list: readonly Sent[]) => [...list].sort(by).map((c) => c.text);
      const rightOrder = texts(order!.choices).map((t, k) => t === ordering.items[k]!.text);
      ordered += rightOrder.filter(Boolean).length;
      if (rightOrder.every(Boolean)) whole += 1;
      // The left side sorted in the same way, and the right beside it.
      const [ls, rs] = [texts(match!.choices), texts(match!.right)];
      paired += ls.filter(
        (l, k) => left.findIndex((c) => c.text === l) === right.findIndex((c) => c.text === rs[k]),
      ).length;
    }
    expect(ordered / PIECES).toBeGreaterThan(0.9);
    expect(ordered / PIECES).toBeLessThan(1.1);
    expect(paired / PIECES).toBeGreaterThan(0.9);
    expect(paired / PIECES).toBeLessThan(1.1);
    // The right order comes as often as any other of 24: leaving it out would tell it of two things.
    expect(whole / PIECES).toBeGreaterThan(0.5 / 24);
  });
  test("no id of a choice leaves", () => {
    const text = JSON.stringify(sent("piece 1"));
    for (const { id } of [...ordering.items, ...left, ...right]) expect(text).not.toContain(id);
  });
});

test("what comes back under signs is kept under the choices' own ids, and goes out as it came", () => {
  const sign = signsOf("piece 1", matching.id);
  const given = { [sign(left[0]!.id)]: sign(right[2]!.id), [sign(left[1]!.id)]: "" };
  const kept = readAnswer(matching, unsigned("piece 1", matching, given));
  expect(kept).toEqual({ [left[0]!.id]: right[2]!.id, [left[1]!.id]: "" });
  expect(signedAnswers("piece 1", [set], { [PART]: { [matching.id]: kept } })).toEqual({
    [PART]: { [matching.id]: given },
  });
  // The signs of another piece are not this one's.
  expect(() => readAnswer(matching, unsigned("piece 2", matching, given))).toThrow(
    "could not be read",
  );
  // A device that kept an answer under the choices' own ids still sends one.
  expect(readAnswer(ordering, unsigned("piece 1", ordering, [ordering.items[1]!.id]))).toEqual([
    ordering.items[1]!.id,
  ]);
});

test("the key goes out only where the teacher shows it, and only when the work is handed back for good", () => {
  const handedIn = { [PART]: { [ordering.id]: ordering.items.map((item) => item.id) } };
  const verdicts = (showKey: boolean, over: boolean) =>
    partViews({ parts: [{ ...aPart(PART, "questions"), showKey }], sets: [set] }, "p", [], {
      ...{ judgements: [], handedIn, handedBack: true, over, now: handedIn },
    })[0]!.questions!.verdicts;
  for (const [showKey, over] of [
    [true, false],
    [false, true],
  ] as const)
    expect(JSON.stringify(verdicts(showKey, over))).not.toContain("low water");
  const shown = verdicts(true, true);
  expect(shown[ordering.id]!.rows!.map((row) => row.key)).toEqual(
    ordering.items.map((item) => item.text),
  );
  // Also of a question that was left out.
  expect(shown[matching.id]!.rows!.every((row) => row.same === false)).toBe(true);
});
