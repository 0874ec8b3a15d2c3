import { expect, test } from "@jest/globals";
import { shortNames } from "./shortNames";

const of = (...names: string[]) => shortNames(names.map((name, n) => ({ id: String(n), name })));

test("a first name is enough where nobody else has it", () => {
  expect(of("Bo Lind", "Mia Kovač")).toEqual(["Bo", "Mia"]);
});

test("of one first name, as much of the last name as tells them apart, accents or not", () => {
  expect(of("Mia Kovač", "Mia Keel", "Mía Sørby")).toEqual(["Mia Ko.", "Mia Ke.", "Mía S."]);
  expect(of("Mia Lind", "Mia Lindholm")).toEqual(["Mia Lind", "Mia Lindh."]);
  expect(of("Mia", "Mia Keel")).toEqual(["Mia", "Mia K."]);
});

test("two of one name are numbered; one who has two pieces is not", () => {
  expect(of("Mia Keel", "Mia Keel")).toEqual(["Mia K. (1)", "Mia K. (2)"]);
  expect(of("Mia Keel (mia.keel)", "Mia Keel (mia.keel2)", "Bo (bo)")).toEqual([
    "Mia K. (1)",
    "Mia K. (2)",
    "Bo",
  ]);
  expect(
    shortNames([
      { id: "a", name: "Mia Keel" },
      { id: "b", name: "Bo Lind" },
      { id: "a", name: "Mia Keel" },
    ]),
  ).toEqual(["Mia", "Bo", "Mia"]);
});

test("names that differ in the middle alone are said whole", () => {
  expect(of("Mia Anne Keel", "Mia Beth Keel")).toEqual(["Mia Anne Keel", "Mia Beth Keel"]);
});

test("hidden names keep their whole number", () => {
  const hidden = ["Piece 2", "Piece 21", "Piece 24"].map((name) => ({ id: null, name }));
  expect(shortNames(hidden)).toEqual(["P2", "P21", "P24"]);
});

test("whoever they are, no two people are called alike", () => {
  const first = ["Mia", "Mía", "Bo", "Piece"];
  const last = ["", "Keel", "Keele", "Kéel", "Lind", "Anne Keel", "2"];
  const everyone = first.flatMap((a) => last.map((b) => `${a} ${b}`.trim()));
  const short = of(...everyone, ...everyone);
  expect(new Set(short).size).toBe(short.length);
});
