import { expect, test } from "@jest/globals";
import { stepWord, wordAt } from "./wordSteps";

const text = "It rained, twice. 🌧 Then — sun.";
const words = (range: { start: number; end: number } | null) =>
  range && text.slice(range.start, range.end);

test("word by word through the text, over punctuation and emoji", () => {
  const seen: (string | null)[] = [];
  let at = stepWord(text, null, "next");
  for (let n = 0; n < 6; n += 1) {
    seen.push(words(at));
    at = stepWord(text, at, "next");
  }
  expect(seen).toEqual(["It", "rained", "twice", "Then", "sun", "sun"]);
  expect(words(stepWord(text, { start: 11, end: 16 }, "previous"))).toBe("rained");
  expect(words(stepWord(text, { start: 0, end: 2 }, "previous"))).toBe("It");
});

test("longer and shorter by one word", () => {
  const two = stepWord(text, { start: 0, end: 2 }, "longer");
  expect(words(two)).toBe("It rained");
  expect(words(stepWord(text, two, "shorter"))).toBe("It");
  expect(words(stepWord(text, { start: 0, end: 2 }, "shorter"))).toBe("It");
  expect(stepWord("…", null, "next")).toBeNull();
});

test("every place of a text has its word: the one it is in, else the one before", () => {
  const at = Array.from({ length: text.length + 1 }, (_, n) => words(wordAt(text, n)));
  expect(at.slice(0, 3)).toEqual(["It", "It", "It"]);
  expect(at.slice(3, 11)).toEqual(Array(8).fill("rained"));
  expect(at.slice(11, 17)).toEqual(Array(6).fill("twice"));
  expect(at.at(-1)).toBe("sun");
  expect(wordAt("  — rain", 0)).toEqual({ start: 4, end: 8 });
  expect(wordAt("…", 0)).toBeNull();
});
