import { expect, test } from "@jest/globals";
import { checkDates } from "./checkDates";

const now = new Date("2026-10-14T12:00:00Z");
const day = (n: number) => new Date(now.getTime() + n * 86_400_000);
const dates = { opensAt: day(0), dueAt: day(7), closesAt: day(14), promisedAt: day(12) };

test("dates in order have no faults, and equal ones are in order", () => {
  expect(checkDates(dates, now)).toEqual({});
  expect(
    checkDates({ opensAt: day(7), dueAt: day(7), closesAt: day(7), promisedAt: day(7) }, now),
  ).toEqual({});
  expect(checkDates({ ...dates, closesAt: null, promisedAt: null }, now)).toEqual({});
});

test.each([
  ["due", { ...dates, dueAt: day(-1) }],
  ["due", { ...dates, opensAt: day(8) }],
  ["closes", { ...dates, closesAt: day(6) }],
  ["promised", { ...dates, promisedAt: day(6) }],
])("the fault is named at %s", (field, wrong) => {
  expect(Object.keys(checkDates(wrong, now))).toContain(field);
});
