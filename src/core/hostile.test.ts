import { expect, test } from "@jest/globals";
import { HOSTILE, hostile, READERS } from "./hostile.testing";
import { judge } from "./questions/judge";
import { readNote, sayNote } from "./text/noteText";
import { countWords } from "./text/plainText";

/** As long as a route lets in, but no longer than the whole list stays quick; how long each takes is measured by the bench. */
const LONGEST = 12_000;

test.each(READERS.map(({ name, most, read }) => [name, most, read] as const))(
  "%s is read to its end, whatever is typed, and throws nothing at it",
  (_name, most, read) => {
    for (const unit of HOSTILE) {
      // Grown step by step: one that takes for ever stands still at a length that can be named.
      for (const length of [99, 2000, LONGEST])
        expect(() => read(hostile(unit, Math.min(length, most)))).not.toThrow();
    }
  },
);

test("what is no unit is said to be none, and those that are taught are units all the same", () => {
  const asked = {
    id: "q",
    kind: "number",
    text: "",
    points: "1",
    value: "5",
    tolerance: "",
  } as const;
  const state = (unit: string, answer: string) => judge({ ...asked, unit } as never, answer).state;
  expect(state("min", `5 ${"min ".repeat(24)}`)).toBe("wrong");
  expect(state("J/(kg*K)", "5 J/(kg*K)")).toBe("right");
  expect(state("kg*m^2/s^2", "5 J")).toBe("right");
  expect(state("m/s", "18 km/h")).toBe("right");
});

test("a note that is no Markdown is shown as it was typed, line by line, and loses no word", () => {
  for (const typed of ["[a](".repeat(500), ">".repeat(3000), "- ".repeat(900), "*a ".repeat(900)]) {
    expect(readNote(`${typed}\nWhy?`)).toHaveLength(2);
    expect(sayNote(typed).replaceAll(" ", "")).toBe(typed.replaceAll(" ", ""));
  }
  expect(readNote("> said\n\n- *one*\n- two")).toMatchObject([{ kind: "quote" }, { kind: "list" }]);
});

test("long texts are counted as short ones are: a window never cuts a word", () => {
  const sentence = "It's 3.5 mm — wet, half-lit: l’eau! ";
  expect(countWords(sentence.repeat(700))).toBe(countWords(sentence) * 700);
});
