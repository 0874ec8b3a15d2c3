import { expect, test } from "@jest/globals";
import { STANDINGS, type Standing } from "../access/access";
import { answerIs, CLASS_ANSWERS, mayTakeAway, seesSaid } from "./sectionNote";

const TEACHERS: Standing[] = ["owner", "trusted co-teacher", "co-teacher"];
const OTHERS = STANDINGS.filter((s) => !TEACHERS.includes(s) && s !== "student");

test("a teacher's answer is shown at once; a student's as the owner has set it; nobody else answers", () => {
  for (const set of CLASS_ANSWERS) {
    for (const teacher of TEACHERS) expect(answerIs(teacher, set)).toBe("shown");
    for (const other of OTHERS) expect(answerIs(other, set)).toBe("refused");
  }
  expect(CLASS_ANSWERS.map((set) => answerIs("student", set))).toEqual([
    "refused",
    "waits",
    "shown",
  ]);
});

test("what waits is seen by its author and the teachers alone", () => {
  const waits = { mine: false, shown: false, taken: false };
  expect(STANDINGS.filter((s) => seesSaid(s, waits)).sort()).toEqual([...TEACHERS].sort());
  expect(seesSaid("student", { ...waits, mine: true })).toBe(true);
  expect(seesSaid("student", { ...waits, shown: true })).toBe(true);
});

test("what was taken away is seen by none but its author, who sees that it was", () => {
  const taken = { mine: false, shown: true, taken: true };
  expect(STANDINGS.filter((s) => seesSaid(s, taken))).toEqual([]);
  expect(seesSaid("student", { ...taken, mine: true })).toBe(true);
});

test("students take away their own, teachers anything, nobody twice", () => {
  const said = { mine: false, shown: true, taken: false };
  expect(STANDINGS.filter((s) => mayTakeAway(s, said)).sort()).toEqual([...TEACHERS].sort());
  expect(mayTakeAway("student", { ...said, mine: true })).toBe(true);
  expect(mayTakeAway("owner", { ...said, taken: true })).toBe(false);
});
