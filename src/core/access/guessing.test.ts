import { expect, test } from "@jest/globals";
import { faultInPassword, sayWait, secondsToWait } from "./guessing";

test("the wait grows, never shrinks, and has an end", () => {
  const waits = Array.from({ length: 60 }, (_, n) => secondsToWait(n));
  expect(waits.slice(0, 8)).toEqual([0, 0, 0, 0, 0, 5, 10, 20]);
  expect([...waits].sort((a, b) => a - b)).toEqual(waits);
  expect(Math.max(...waits)).toBe(300);
  // A day of guessing from one place: the free tries, the growing ones, then one in five minutes.
  let [seconds, tries] = [0, 0];
  while (seconds < 86_400) seconds += Math.max(1, secondsToWait(tries++));
  expect(tries).toBeLessThan(300);
});

test.each([
  ["short", "10 characters"],
  ["", "10 characters"],
  ["marit.quist", "your name"],
  ["maritquist12", "your name"],
  ["aaaaaaaaaaaaa", "first that anyone"],
  ["Password2026!", "first that anyone"],
  ["1234567890", "first that anyone"],
  ["three wet gauges", null],
  ["kw7f-pq2m-xx4d", null],
])("“%s” as a password: %s", (password, why) => {
  const fault = faultInPassword(password, ["Marit Quist", "marit.quist@school.example"]);
  if (why === null) expect(fault).toBeNull();
  else expect(fault).toContain(why);
});

test("waits in words", () =>
  expect([1, 5, 60, 300].map(sayWait)).toEqual(["1 second", "5 seconds", "1 minute", "5 minutes"]));
