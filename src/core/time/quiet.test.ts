import { expect, test } from "@jest/globals";
import fc from "fast-check";
import { afterQuiet, isQuiet } from "./quiet";
import { instantToWall } from "./zone";

const ZONE = "America/Halifax";
const NIGHT = { from: "20:00", until: "07:00" };
const NOON = { from: "12:00", until: "13:00" };

test.each([
  ["19:59", NIGHT, false],
  ["20:00", NIGHT, true],
  ["23:59", NIGHT, true],
  ["00:00", NIGHT, true],
  ["06:59", NIGHT, true],
  ["07:00", NIGHT, false],
  ["12:30", NOON, true],
  ["13:00", NOON, false],
  ["12:00", { from: "12:00", until: "12:00" }, false],
] as const)("%s in %j: %s", (clock, quiet, is) => expect(isQuiet(clock, quiet)).toBe(is));

test.each([
  // 21:10 in Halifax (UTC−3 in summer): in the morning, 07:00.
  ["2026-10-15T00:10:00Z", "2026-10-15T10:00:00.000Z"],
  // 05:00 the same morning.
  ["2026-10-15T08:00:00Z", "2026-10-15T10:00:00.000Z"],
  // By day nothing is held.
  ["2026-10-15T15:00:00Z", "2026-10-15T15:00:00.000Z"],
  // The night in which clocks go back (1 November 2026, IANA time zone database): 07:00 is UTC−4 then.
  ["2026-11-01T01:00:00Z", "2026-11-01T11:00:00.000Z"],
  // And the one in which they go forward (14 March 2027).
  ["2027-03-14T02:00:00Z", "2027-03-14T10:00:00.000Z"],
])("at %s it goes at %s", (at, goes) =>
  expect(afterQuiet(new Date(at), NIGHT, ZONE).toISOString()).toBe(goes),
);

test("whatever the hours, it goes when it is not quiet, never before, and within a day and an hour", () => {
  const clock = fc
    .tuple(fc.integer({ min: 0, max: 23 }), fc.integer({ min: 0, max: 59 }))
    .map(([h, m]) => `${String(h).padStart(2, "0")}:${String(m).padStart(2, "0")}`);
  // Away from the hours that the clock leaves out in March, which no school ends its quiet at.
  fc.assert(
    fc.property(
      fc.date({ min: new Date("2026-09-01"), max: new Date("2027-02-28"), noInvalidDate: true }),
      clock,
      clock,
      (now, from, until) => {
        const goes = afterQuiet(now, { from, until }, ZONE);
        expect(goes.getTime()).toBeGreaterThanOrEqual(now.getTime());
        expect(goes.getTime() - now.getTime()).toBeLessThanOrEqual(25 * 3_600_000);
        expect(isQuiet(instantToWall(goes, ZONE).slice(11), { from, until })).toBe(false);
      },
    ),
  );
  expect(afterQuiet(new Date(0), null, ZONE)).toEqual(new Date(0));
});
