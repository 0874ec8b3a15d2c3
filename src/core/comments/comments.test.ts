import { describe, expect, test } from "@jest/globals";
import { faultInShorthand, lookUp, pendingLookup, type BankComment } from "./lookup";
import { fillPlaceholders, unfilled } from "./placeholders";

const bank: BankComment[] = [
  ["unit", "Which unit is this in?", 3],
  ["units2", "Units belong in the table head.", 9],
  [null, "Say where the unité comes from.", 1],
  ["ev", "What in the text tells you this?", 20],
  [null, "Read this sentence aloud, {name}.", 2],
].map(
  ([shorthand, text, usedCount], n) =>
    ({ id: `${n}`, shorthand, text, usedCount, nature: "request", favourite: null }) as BankComment,
);
const ids = (typed: string) => lookUp(bank, typed).map((c) => c.id);

describe("looking up a comment", () => {
  test("the full shorthand first, then longer ones, then words inside", () =>
    expect(ids("unit")).toEqual(["0", "1", "2"]));
  test("parts of a phrase in any order", () => expect(ids("sent aloud")).toEqual(["4"]));
  test("case and accents make no difference", () => expect(ids("UNITE")).toEqual(["2"]));
  test("nothing typed: the most used first", () =>
    expect(ids("")).toEqual(["3", "1", "0", "4", "2"]));
  test("nothing found is nothing", () => expect(ids("xyzzy")).toEqual([]));
  test("2,000 comments are looked through", () => {
    const many = Array.from({ length: 2000 }, (_, n) => ({
      ...bank[n % 5]!,
      id: `m${n}`,
      shorthand: `s${n}`,
    }));
    expect(lookUp(many, "s1999")[0]!.id).toBe("m1999");
  });
});

describe("where a lookup stands in a field", () => {
  test.each([
    ["Good. ;unit", { from: 6, query: "unit" }],
    [";", { from: 0, query: "" }],
    [";read this sen", { from: 0, query: "read this sen" }],
    ["wet; and cold", null],
    ["wet;cold", null],
    ["a ; b", null],
    ["", null],
  ])("%j", (text, expected) => expect(pendingLookup(text, text.length)).toEqual(expected));
});

describe("placeholders", () => {
  test("known ones are filled, unknown and empty ones stay", () => {
    expect(
      fillPlaceholders("{name}: {Title}, {score}, {foo}", { name: "Ines", title: "Rain log" }),
    ).toBe("Ines: Rain log, {score}, {foo}");
  });
  test("a value is put in as it is, also with signs that mean something to patterns", () => {
    expect(fillPlaceholders("Dear {name}", { name: "$& {title}" })).toBe("Dear $& {title}");
  });
  test("what is left is told", () =>
    expect(unfilled("{name} {foo} {due}")).toEqual(["{name}", "{due}"]));
});

test.each([
  ["unit", true],
  ["é2", true],
  ["", true],
  ["two words", false],
  [";x", false],
  ["x".repeat(25), false],
])("shorthand %j can be kept: %s", (shorthand, ok) => {
  expect(faultInShorthand(shorthand) === null).toBe(ok);
});
