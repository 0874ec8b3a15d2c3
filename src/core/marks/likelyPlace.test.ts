import { expect, test } from "@jest/globals";
import fc from "fast-check";
import { align } from "../text/aligning/align";
import { around, likelyPlace } from "./likelyPlace";

const BEFORE = "I saw a grey cloud there. It moved to the east. Then it rained.";
const place = (before: string, words: string, after: string): string | null => {
  const start = before.indexOf(words);
  const found = likelyPlace(align(before, after), { start, end: start + words.length });
  return found && after.slice(found.start, found.end);
};

test.each([
  // Other words where they were.
  [
    "a grey cloud",
    "I saw two white gulls there. It moved to the east. Then it rained.",
    "two white gulls",
  ],
  // Taken out, and nothing put in: nowhere.
  ["a grey cloud ", "I saw there. It moved to the east. Then it rained.", null],
  // At the beginning and at the end of the text.
  ["I saw", "We noticed a grey cloud there. It moved to the east. Then it rained.", "We noticed"],
  [
    "Then it rained.",
    "I saw a grey cloud there. It moved to the east. Nothing followed",
    "Nothing followed",
  ],
] as const)("“%s” in “%s”: %s", (words, after, found) =>
  expect(place(BEFORE, words, after)).toBe(found),
);

test("what stood around it having gone two ways, there is no place", () => {
  expect(place("one two three four five", "three", "four five and then one two")).toBeNull();
});

test("whatever the texts, a place is words of the later text, in order", () => {
  const text = fc.array(fc.constantFrom("sea", "gull", "fog", "mast", "pier", "."), { maxLength: 14 }).map((w) => w.join(" ")); // prettier-ignore
  fc.assert(
    fc.property(text, text, fc.nat(), fc.nat(), (before, after, a, b) => {
      if (before === "") return;
      const start = a % before.length;
      const end = Math.min(before.length, start + 1 + (b % 9));
      const found = likelyPlace(align(before, after), { start, end });
      if (!found) return;
      expect(found.start).toBeGreaterThanOrEqual(0);
      expect(found.end).toBeGreaterThan(found.start);
      expect(found.end).toBeLessThanOrEqual(after.length);
    }),
  );
});

test("words around a range stay in its paragraph", () => {
  const text = `First.\n${"x".repeat(100)} here ${"y".repeat(100)}\nLast.`;
  const start = text.indexOf("here");
  expect(around(text, { start, end: start + 4 })).toEqual({
    left: `…${"x".repeat(89)} `,
    right: ` ${"y".repeat(89)}…`,
  });
  expect(around("all of it", { start: 0, end: 9 })).toEqual({ left: "", right: "" });
});
