import { describe, expect, test } from "@jest/globals";
import { unfilled } from "../src/core/comments/placeholders";
import { NEARLY_THE_SAME, repeatsIn } from "../src/core/comments/alike";
import { faultInShorthand } from "../src/core/comments/lookup";
import { countWords, plainText } from "../src/core/text/plainText";
import { readRichDoc } from "../src/core/text/richDoc";
import { BANK, FINDERS } from "./bank";
import { HAND_OUTS } from "./handouts";
import { GUARDIANS, SECTIONS, STUDENTS } from "./people";
import { seeded } from "./random";
import { toDoc } from "./texts/blocks";
import { MISTAKES, withMistakes } from "./texts/mistakes";
import { reviseBlocks } from "./texts/revise";

describe("the texts of the demo", () => {
  const written = HAND_OUTS.filter(
    (h) => h.expects === "work" && (!h.parts || h.parts.includes("writing")),
  ).flatMap((given) =>
    STUDENTS.slice(0, 26).map((name) => {
      const random = seeded(`${given.section} ${given.title} ${name}`);
      return withMistakes(random, given.write(random, "Aino", random()), 0.4);
    }),
  );
  const texts = written.map((blocks) => plainText(readRichDoc(toDoc(blocks))).text);
  test("no two are alike, and each has the length of a school text", () => {
    expect(new Set(texts).size).toBe(texts.length);
    const lengths = texts.map(countWords);
    expect(Math.min(...lengths)).toBeGreaterThanOrEqual(85);
    expect(Math.max(...lengths)).toBeLessThanOrEqual(900);
  });
  test("they hold the mistakes that students make, and a revision mends most of them", () => {
    const count = (all: string[]) =>
      all.reduce((sum, text) => sum + MISTAKES.filter(([wrong]) => text.includes(wrong)).length, 0);
    const revised = written.map(
      (blocks, n) => plainText(toDoc(reviseBlocks(seeded(n), blocks, 0.85))).text,
    );
    expect(count(texts)).toBeGreaterThan(100);
    expect(count(revised)).toBeLessThan(count(texts) * 0.35);
    expect(revised.every((text, n) => text !== texts[n])).toBe(true);
  });
  test("the same seed writes the same text", () => {
    const write = () => HAND_OUTS[0]!.write(seeded("one"), "Aino", 0.5);
    expect(write()).toEqual(write());
  });
});

describe("the people and the bank", () => {
  test("every student has one section, and every guardian a child", () => {
    expect(SECTIONS.reduce((sum, section) => sum + section.size, 0)).toBe(STUDENTS.length);
    expect(
      GUARDIANS.every(
        (g) => g.children.length > 0 && g.children.every((n) => STUDENTS[n] !== undefined),
      ),
    ).toBe(true);
    expect(GUARDIANS.filter((g) => g.children.length === 2)).toHaveLength(1);
  });
  test("about two hundred comments, each with a shorthand of its own that can be kept", () => {
    expect(BANK.length).toBeGreaterThan(170);
    expect(new Set(BANK.map((c) => c.shorthand.toLowerCase())).size).toBe(BANK.length);
    expect(BANK.filter((c) => faultInShorthand(c.shorthand) !== null || c.text.length < 4)).toEqual(
      [],
    );
    expect(BANK.filter((c) => c.favourite !== null).map((c) => c.favourite)).toEqual([
      1, 2, 3, 4, 5, 6, 7, 8, 9,
    ]);
    expect(new Set(BANK.flatMap((c) => unfilled(c.text)).filter((p) => !p.includes("|")))).toEqual(
      new Set(["{name}", "{title}", "{due}", "{…}"]),
    );
    expect(repeatsIn(BANK, NEARLY_THE_SAME)).toEqual([]);
    expect(new Set(BANK.map((c) => c.folder)).size).toBeGreaterThan(6);
  });
  test("every comment that is looked for is in the bank", () => {
    const known = new Set(BANK.map((c) => c.shorthand));
    expect(FINDERS.flatMap(([, shorthands]) => shorthands).filter((s) => !known.has(s))).toEqual(
      [],
    );
  });
});
