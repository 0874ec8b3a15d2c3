import { describe, expect, test } from "@jest/globals";
import { anyOf, chance, seeded, upTo } from "@demo/random";
import { DIFFERENT_SENTENCES, writeLongText } from "../../marks/trackedText.testing";
import { reattach } from "../../marks/reattach";
import { align, alignByLines } from "./align";
import { wordLikeness } from "./alignWords";
import { canonicalJson } from "../canonical";
import { lineRanges, sentenceRanges, tokens } from "../tokens";

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
  test("no token ends inside a character as readers see it (Unicode Standard Annex 29)", () => {
    const texts = [
      "👩‍🔬👍🏽 🇮🇸🇫🇷🏴󠁧󠁢󠁥󠁮󠁧󠁿 1️⃣ ❤️‍🔥 e\u0301",
      "क्षत्रिय नमस्ते ที่นี่ 각각".normalize("NFD"),
      "می\u200cخواهم が\u3099 葛\u{e0100}城",
    ];
    for (const text of texts) {
      const edges = new Set(
        [...new Intl.Segmenter("en", { granularity: "grapheme" }).segment(text)].map(
          (g) => g.index,
        ),
      );
      for (const token of tokens(text)) expect(edges.has(token.start)).toBe(true);
      for (const token of tokens(text))
        expect(edges.has(token.end) || token.end === text.length).toBe(true);
    }
  });
  test.each([
    ["composed and taken apart", "naïve café 각", "naïve café 각".normalize("NFD")],
    ["quotes and dashes", "“so” – it’s e‐mail", '"so" - it\'s e-mail'],
    ["wide and compatible signs", "ＡＢＣ １２ ﬁn", "ABC 12 fin"],
    ["unseen signs", "evapo\u00adration", "evaporation"],
  ])("%s have the same keys", (_name, one, other) =>
    expect(tokens(one).map((t) => t.key)).toEqual(tokens(other).map((t) => t.key)),
  );
  test("combining accents stay with their letter, other scripts are words", () => {
    expect(tokens("cafe\u0301 שלום 東京").map((t) => t.text)).toEqual([
      "cafe\u0301",
      "שלום",
      "東",
      "京",
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
    let [linked, all] = [0, 0];
    for (let n = 0; n < 25; n += 1) {
      const lines = words(random, 250);
      const { toAfter, toBefore } = align(lines.join("\n"), edited(random, lines).join("\n"));
      linked += toAfter.filter((target) => target !== -1).length;
      all += toAfter.length;
      toAfter.forEach((target, source) => target !== -1 && expect(toBefore[target]).toBe(source));
      toBefore.forEach((source, target) => source !== -1 && expect(toAfter[source]).toBe(target));
    }
    // The edits take out a word in twenty and a line in twelve: most words are still there.
    expect(linked).toBeGreaterThan(all * 0.8);
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

describe("equal lines", () => {
  const kept = (before: string, after: string) => {
    const { beforeTokens, afterTokens, toAfter } = align(before, after);
    return beforeTokens.map((token, n) =>
      toAfter[n] === -1 ? null : [token.start, afterTokens[toAfter[n]!]!.start],
    );
  };
  test("stay in their place: of three cells that say the same, the one that was mended is the one that changed", () =>
    expect(kept("Mon\n12\nTue\n12\nWed\n12", "Mon\n14\nTue\n12\nWed\n12")).toEqual([
      [0, 0],
      null,
      [7, 7],
      [11, 11],
      [14, 14],
      [18, 18],
    ]));
  test("of a table of numbers none ends in another cell when some are mended", () => {
    const random = seeded(21);
    const cells = Array.from({ length: 600 }, () => String(upTo(random, 30)));
    const mended = cells.map((cell) => (chance(random, 0.1) ? String(upTo(random, 30)) : cell));
    const { toAfter } = align(cells.join("\n"), mended.join("\n"));
    const elsewhere = [...toAfter].filter((target, n) => target !== -1 && target !== n);
    const stayed = [...toAfter].filter((target, n) => target === n);
    expect(stayed.length).toBeGreaterThan(480);
    expect(elsewhere.length).toBeLessThan(6);
  });
});

describe("comparing by paragraphs alone", () => {
  test("equal paragraphs keep their words, also where one moved; the rest has no counterpart", () => {
    const { toAfter, coarse } = alignByLines(
      "It rained at one.\nIt was dry at four.\nFive.",
      "It was dry at four.\nIt rained at one.",
    );
    expect([...toAfter].filter((t) => t !== -1)).toHaveLength(11);
    expect(toAfter.at(-1)).toBe(-1);
    expect(coarse).toBe(true);
  });
  test("a long paragraph with its words shuffled says that it was compared coarsely", () => {
    const random = seeded(31);
    const all = words(random, 6000).join(" ").split(" ");
    const turned = [...all.slice(0, 3000), ...all.slice(3000).reverse()];
    expect(align(all.join(" "), turned.join(" ")).coarse).toBe(true);
    expect(align(all.join(" "), all.slice(1).join(" ")).coarse).toBe(false);
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
