import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import { pairsOf, search, type Findable, type FoundKind } from "./search";

const made = (kind: FoundKind, words: string, about = ""): Findable => ({
  kind,
  id: words,
  words,
  about,
  href: "/",
});
const ALL = [
  made("student", "Elsie Greaves", "Curlew"),
  made("student", "Ødegaard Sørby", "Curlew"),
  made("student", "Greta Elsworth", "Plover"),
  made("handOut", "Letter to a lighthouse keeper", "Curlew"),
  made("handOut", "Reading the tide table", "Plover"),
  made("comment", "Which unit is this measured in?", ";unit"),
];
const names = (typed: string, most = 5) => search(ALL, typed, most).map(({ words }) => words);

describe("searching from any screen", () => {
  test.each([
    ["elsie", "Elsie Greaves"],
    ["ELSIE g", "Elsie Greaves"],
    ["sorby", "Ødegaard Sørby"],
    ["greaves elsie", "Elsie Greaves"],
    ["tide tabel", "Reading the tide table"],
    ["lihgthouse", "Letter to a lighthouse keeper"],
    ["greavs", "Elsie Greaves"],
    ["unit", "Which unit is this measured in?"],
    ["plover tide", "Reading the tide table"],
  ])("%s finds %s first", (typed, first) => expect(names(typed)[0]).toBe(first));

  test("what begins so comes before what holds it", () =>
    expect(names("els")).toEqual(["Elsie Greaves", "Greta Elsworth"]));

  test("slips are looked for only where nothing is spelt so", () =>
    expect(names("greta")).toEqual(["Greta Elsworth"]));

  test("signs without a letter find nothing, and nothing finds all", () => {
    expect(names("")).toEqual([]);
    expect(names("%_\\")).toEqual([]);
  });

  test("of each kind there are as many as asked for", () =>
    expect(search(ALL, "e", 1).map(({ kind }) => kind)).toEqual(["student", "handOut", "comment"]));

  test("some words a student's, the others a hand-out's: their piece", () => {
    const [students, handOuts] = [ALL.slice(0, 3), ALL.slice(3, 5)];
    const pairs = (typed: string) =>
      pairsOf(students, handOuts, { typed, most: 9 }).map(
        ({ one, other }) => `${one.words}: ${other.words}`,
      );
    expect(pairs("elsie letter")).toEqual(["Elsie Greaves: Letter to a lighthouse keeper"]);
    expect(pairs("tide sorbi")).toEqual(["Ødegaard Sørby: Reading the tide table"]);
    expect(pairs("elsie greaves")).toEqual([]);
    expect(pairs("elsie")).toEqual([]);
  });

  test("one slip in any longer word still finds (property)", () => {
    const word = fc.constantFrom("lighthouse", "greaves", "measured", "elsworth", "reading");
    fc.assert(
      fc.property(word, fc.nat(), fc.constantFrom("lost", "twice", "exchanged"), (of, at, how) => {
        const n = 1 + (at % (of.length - 2));
        const typed = {
          lost: of.slice(0, n) + of.slice(n + 1),
          twice: of.slice(0, n) + of[n] + of.slice(n),
          exchanged: of.slice(0, n) + of[n + 1]! + of[n]! + of.slice(n + 2),
        }[how];
        expect(names(typed).join().toLowerCase()).toContain(of);
      }),
    );
  });
});
