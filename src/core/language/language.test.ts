import { describe, expect, test } from "@jest/globals";
import { IntlMessageFormat } from "intl-messageformat";
import { LANGUAGE_IDS, LOCALES } from "./languages";
import { MESSAGES, sayIn, type Area } from "./say";
import { sayDayIn, sayTimeIn } from "./when";

const AREAS = Object.keys(MESSAGES.en) as Area[];
const wordsOf = (area: Area, language: (typeof LANGUAGE_IDS)[number]) =>
  MESSAGES[language][area] as Record<string, string>;
type Part = { value?: unknown; options?: Record<string, { value: Part[] }>; type: number };
/** The names a message puts in. */
const namesIn = (parts: readonly Part[]): string[] =>
  [
    ...new Set(
      parts.flatMap((part) => [
        ...(part.type === 0 || part.type === 7 ? [] : [String(part.value)]),
        ...Object.values(part.options ?? {}).flatMap(({ value }) => namesIn(value)),
      ]),
    ),
  ].sort();
const parsed = (words: string, language: (typeof LANGUAGE_IDS)[number]) =>
  new IntlMessageFormat(words, LOCALES[language]).getAst() as unknown as Part[];

describe.each(LANGUAGE_IDS)("%s", (language) => {
  test.each(AREAS)("has every message of %s, and puts the same things in", (area) => {
    const [en, own] = [wordsOf(area, "en"), wordsOf(area, language)];
    expect(Object.keys(own).sort()).toEqual(Object.keys(en).sort());
    for (const [key, words] of Object.entries(own)) {
      expect(words.trim()).not.toBe("");
      expect({ key, names: namesIn(parsed(words, language)) }).toEqual({
        key,
        names: namesIn(parsed(en[key]!, "en")),
      });
    }
  });
});

// Unicode CLDR, plural rules of cardinal numbers: in French 0 and 1 are "one", in English only 1.
test("plurals are the language's own", () => {
  expect([0, 1, 2].map((count) => sayIn("week", "en")("letters", { count }))).toEqual([
    "0 letters to read",
    "1 letter to read",
    "2 letters to read",
  ]);
  expect([0, 1, 2].map((count) => sayIn("week", "fr")("letters", { count }))).toEqual([
    "0 lettre à lire",
    "1 lettre à lire",
    "2 lettres à lire",
  ]);
});

describe("times", () => {
  const now = new Date("2026-10-14T15:00:00Z");
  const zone = "America/Halifax";
  // Names of days and months as Unicode CLDR has them for fr-CA, by way of ICU; from memory.
  test.each([
    ["2026-10-15T19:00:00Z", "demain à 16 h 00"],
    ["2026-10-14T02:30:00Z", "hier à 23 h 30"],
    ["2026-10-16T19:05:00Z", "ven. 16 oct. à 16 h 05"],
    ["2027-02-01T13:00:00Z", "lun. 1 févr. 2027 à 09 h 00"],
  ])("%s is %s", (at, words) =>
    expect(sayTimeIn("fr", new Date(at), now, zone).replace(/\u00a0|\u202f/g, " ")).toBe(words),
  );
  test("in English they are what they are everywhere else", () => {
    expect(sayTimeIn("en", new Date("2026-10-15T19:00:00Z"), now, zone)).toBe("tomorrow 16:00");
    expect(sayDayIn("en", "2026-10-16", "2026-10-14")).toBe("Fri 16 Oct");
  });
});

test("the pseudo-language can be read, keeps what is put in, and has no letter of its own as it was", () => {
  const said = sayIn("week", "pseudo")("letters", { count: 3 });
  expect(said).toContain("3");
  expect(said.replace(/[⟦⟧\d\s]/g, "")).not.toMatch(/[a-z]/i);
});
