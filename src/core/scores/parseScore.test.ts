import { expect, test } from "@jest/globals";
import { parseScore, sayScore } from "./parseScore";

// Worked by hand; that 8/10 of 50 is 40 and 85 % of 20 is 17 is plain arithmetic. How teachers type
// scores is common practice, no source.
test.each([
  ["8", "10", "8", ""],
  ["8/10", "10", "8", ""],
  ["8/10", "50", "40", ""],
  ["85%", "20", "17", ""],
  ["85 %", "10", "8.5", ""],
  ["7.5", "10", "7.5", ""],
  ["7,5", "10", "7.5", ""],
  [".5", "10", "0.5", ""],
  ["0", "10", "0", ""],
  ["1/3", "10", "3.333", ""],
  ["2/3", "10", "6.667", ""],
  ["0.1", "0.3", "0.1", ""],
  ["11", "10", "11", "More than the 10 possible."],
])("%s of %s is %s", (typed, possible, points, note) => {
  expect(parseScore(typed, possible)).toEqual({ ok: true, points, note });
});

test.each(["", "good", "8/0", "-1", "8//10", "1e3", "85", "8/10/2", "٨", "<b>8</b>"])(
  "%j of 10 is refused with a reason",
  (typed) => {
    const parsed = parseScore(typed, "10");
    expect(parsed.ok).toBe(false);
    expect(parsed).toMatchObject({ why: expect.stringMatching(/\.$/) });
  },
);

test("sums are exact where floats are not", () => {
  expect(parseScore("0.1", "10")).toMatchObject({ points: "0.1" });
  expect(parseScore("33.3%", "3")).toMatchObject({ points: "0.999" });
  expect(sayScore("8.500", "10.00")).toBe("8.5 / 10");
});
