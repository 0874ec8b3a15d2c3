import { expect, test } from "@jest/globals";
import { examplesFrom, isOften, proposeNote, sayCameUp, wasSaid } from "./cameUp";

test("what is often: on three pieces at least, and on every fifth", () => {
  expect(isOften({ pieces: 2, of: 4 })).toBe(false);
  expect(isOften({ pieces: 3, of: 15 })).toBe(true);
  expect(isOften({ pieces: 3, of: 16 })).toBe(false);
  expect(sayCameUp({ pieces: 11, of: 26 })).toBe("in 11 of 26 pieces");
});

test("examples are short, each once, and say nobody's name", () => {
  const quotes = [
    " 23 ",
    "23",
    "Olena measured 12",
    "x".repeat(121),
    "",
    "about\nthree cm",
    "4",
    "5",
  ];
  expect(examplesFrom(quotes, ["Olena Hrytsenko", "Olena", "Ó"])).toEqual([
    "23",
    "about three cm",
    "4",
  ]);
});

test("the note says what it is about, how often it came up, and gives its examples", () => {
  const said = proposeNote({ text: "Write the unit.", pieces: 11, of: 26, examples: ["23", "12"] });
  expect(said).toBe(
    "Write the unit.\n\nThis came up in 11 of 26 pieces, for example: “23”; “12”. Look whether yours is one of them.",
  );
  expect(wasSaid("Write the unit.", [said])).toBe(true);
  expect(wasSaid("Write the date.", [said])).toBe(false);
});
