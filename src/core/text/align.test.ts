import { describe, expect, test } from "@jest/globals";
import { anyOf, chance, seeded, upTo } from "@demo/random";
import { DIFFERENT_SENTENCES, writeLongText } from "../marks/trackedText.testing";
import { reattach } from "../marks/reattach";
import { align } from "./align";
import { wordLikeness } from "./alignWords";
import { canonicalJson } from "./canonical";
import { lineRanges, sentenceRanges, tokens } from "./tokens";

const words = (random: () => number, size: number) =>
  writeLongText(random, size).map((p) => p.map((s) => s.map((w) => w.text).join(" ")).join(" "));

describe("words and lines", () => {
  test("words keep their apostrophes, hyphens and decimals; signs stand alone", () => {
    expect(tokens("It's 3.5 mm—wet, half-lit: l’eau!").map((t) => t.text)).toEqual([
      "It's",
      "3.5",
      "mm",
      "—",
      "wet",
      ",",
      "half-lit",
      ":",
      "l’eau",
      "!",
    ]);
  });
  test("combining accents stay with their letter, other scripts are words", () => {
    expect(tokens("cafe\u0301 שלום 東京").map((t) => t.text)).toEqual([
      "cafe\u0301",
      "שלום",
      "東京",
    ]);
  });
  test("blank lines are no lines, and sentences are trimmed", () => {
    const text = "One. Two!\n\n  \nThree?";
    expect(lineRanges(text).map((r) => text.slice(r.start, r.end))).toEqual([
      "One. Two!",
      "Three?",
    ]);
    expect(
      sentenceRanges(text, { start: 0, end: text.length }).map((r) => text.slice(r.start, r.end)),
    ).toEqual(["One.", "Two!", "Three?"]);
  });
  test.each([
    ["recieve", "receive", true],
    ["thier", "their", true],
    ["i", "I", true],
    ["wich", "which", true],
    ["big", "vast", false],
    ["three", "the", false],
    ["a", "an", false],
  ])("%s and %s are one word mended: %s", (a, b, same) => {
    expect(wordLikeness(a, b) >= 0.65).toBe(same);
  });
});

describe("an alignment", () => {
  const edited = (random: () => number, lines: string[]) => {
    const later = lines
      .filter(() => chance(random, 0.92))
      .map((line) =>
        line
          .split(" ")
          .filter(() => chance(random, 0.95))
          .join(" "),
      );
    if (chance(random, 0.7))
      later.splice(upTo(random, later.length), 0, anyOf(random, DIFFERENT_SENTENCES));
    if (chance(random, 0.5)) later.reverse();
    return later;
  };
  test("is one to one, whatever was edited: no word has two counterparts", () => {
    const random = seeded(11);
    for (let n = 0; n < 25; n += 1) {
      const lines = words(random, 250);
      const { toAfter, toBefore } = align(lines.join("\n"), edited(random, lines).join("\n"));
      toAfter.forEach((target, source) => target !== -1 && expect(toBefore[target]).toBe(source));
      toBefore.forEach((source, target) => source !== -1 && expect(toAfter[source]).toBe(target));
    }
  });
  test("joins only words that are equal or mended", () => {
    const random = seeded(12);
    const lines = words(random, 600);
    const { beforeTokens, afterTokens, toAfter } = align(
      lines.join("\n"),
      edited(random, lines).join("\n"),
    );
    toAfter.forEach(
      (target, source) =>
        target !== -1 &&
        expect(
          wordLikeness(beforeTokens[source]!.text, afterTokens[target]!.text),
        ).toBeGreaterThanOrEqual(0.65),
    );
  });
  test("of a text with itself is the identity, also with repeated and blank lines", () => {
    const text = "Thank you.\n\nThank you.\nThe tide rose.\nThank you.";
    const { toAfter } = align(text, text);
    expect([...toAfter]).toEqual([...toAfter].map((_, n) => n));
  });
  test("of nothing with something is nothing", () => {
    expect([...align("", "The tide.").toBefore]).toEqual([-1, -1, -1]);
    expect([...align("The tide.", "").toAfter]).toEqual([-1, -1, -1]);
  });
  test("gives the same answer every time, and takes no clock", () => {
    const random = seeded(13);
    const lines = words(random, 400);
    const later = edited(random, lines).join("\n");
    const ranges = Array.from({ length: 50 }, () => upTo(random, 1500)).map((start) => ({
      start,
      end: start + 12,
    }));
    expect(reattach(lines.join("\n"), ranges, later)).toEqual(
      reattach(lines.join("\n"), ranges, later),
    );
  });
});

describe("canonical JSON", () => {
  // RFC 8785, section 3.2.3: properties are sorted by their names' code units, white space is left out.
  test("the order of keys makes no difference, the order of a list does", () => {
    expect(canonicalJson({ b: 1, a: { d: "x", c: [2, 1] } })).toBe(
      '{"a":{"c":[2,1],"d":"x"},"b":1}',
    );
    expect(canonicalJson({ peach: 1, péché: 2, pêche: 3, sin: 4 })).toBe(
      '{"peach":1,"péché":2,"pêche":3,"sin":4}',
    );
    expect(canonicalJson([null, true, "\u20ac", undefined].slice(0, 3))).toBe('[null,true,"€"]');
    expect(canonicalJson({ a: undefined })).toBe("{}");
  });
});
