import { describe, expect, test } from "@jest/globals";
import Big from "big.js";
import fc from "fast-check";
import { finalScore, refuseRound, sayRounds } from "../rounds/roundsRule";
import { PLAIN_CALENDAR } from "../time/term";
import { wallToInstant } from "../time/zone";
import {
  deduct,
  LATE_UNITS,
  sayDeduction,
  sayLatePolicy,
  startedUnits,
  type LatePolicy,
} from "./latePolicy";
import { readScore, sayPoints } from "./scales";

const zone = "America/Halifax";
const at = (wall: string) => wallToInstant(wall, zone).at;
const place = {
  zone,
  calendar: {
    ...PLAIN_CALENDAR,
    closures: [{ name: "Thanksgiving", startsOn: "2026-10-12", endsOn: "2026-10-12" }],
  },
};
const tenASchoolDay: LatePolicy = {
  kind: "deduct",
  percent: "10",
  per: "school day",
  floorPercent: "0",
};

// Due Friday 16 October 2026, 16:00; worked by hand. 1 November has 25 hours.
describe("started days since due", () => {
  test.each([
    ["2026-10-16T16:00", 0, 0],
    ["2026-10-16T16:01", 1, 1],
    ["2026-10-17T10:00", 1, 1],
    ["2026-10-17T16:00", 1, 1],
    ["2026-10-17T16:01", 2, 1],
    ["2026-10-19T15:59", 3, 1],
    ["2026-10-19T16:00", 3, 1],
    ["2026-10-19T16:01", 4, 2],
    ["2026-10-20T09:10", 4, 2],
    ["2026-10-23T16:00", 7, 5],
    ["2026-11-02T16:00", 17, 11],
  ])("handed in %s: %d days, %d school days", (wall, days, schoolDays) => {
    const deadline = { due: at("2026-10-16T16:00"), graceMinutes: 0 };
    expect([
      startedUnits(deadline, at(wall), "day", place),
      startedUnits(deadline, at(wall), "school day", place),
    ]).toEqual([days, schoolDays]);
  });
  test("a holiday is no school day, grace is on time, Sunday evening counts from Sunday", () => {
    expect(
      startedUnits(
        { due: at("2026-10-09T16:00"), graceMinutes: 0 },
        at("2026-10-13T15:00"),
        "school day",
        place,
      ),
    ).toBe(1);
    expect(
      startedUnits(
        { due: at("2026-10-16T16:00"), graceMinutes: 15 },
        at("2026-10-16T16:15"),
        "school day",
        place,
      ),
    ).toBe(0);
    expect(
      startedUnits(
        { due: at("2026-10-18T20:00"), graceMinutes: 0 },
        at("2026-10-19T19:00"),
        "school day",
        place,
      ),
    ).toBe(1);
  });
  test("never decreases as the hand-in grows later", () => {
    const deadline = { due: at("2026-10-30T16:00"), graceMinutes: 5 };
    fc.assert(
      fc.property(
        fc.nat(40 * 1440),
        fc.nat(40 * 1440),
        fc.constantFrom("day" as const, "school day" as const),
        (a, b, per) => {
          const [early, late] = [Math.min(a, b), Math.max(a, b)].map((m) =>
            startedUnits(deadline, new Date(deadline.due.getTime() + m * 60_000), per, place),
          );
          return early! <= late!;
        },
      ),
    );
  });
});

describe("what is taken off", () => {
  test.each([
    [2, "41", "50", "10", "0", "10", "31"],
    [1, "41", "50", "10", "0", "5", "36"],
    [9, "41", "50", "10", "0", "41", "0"],
    [9, "41", "50", "10", "50", "16", "25"],
    [9, "20", "50", "10", "50", "0", "20"],
    [0, "41", "50", "10", "0", "0", "41"],
    [1, "7.5", "9", "3.333", "0", "0.3", "7.2"],
  ])(
    "%d started: %s of %s at %s %%, floor %s %%: − %s = %s",
    (units, points, possible, percent, floorPercent, off, after) => {
      expect(
        deduct({ kind: "deduct", percent, per: "day", floorPercent }, units, points, possible),
      ).toMatchObject({ units, off, points: after });
    },
  );
  test("never goes below the floor, never rises, never adds", () => {
    fc.assert(
      fc.property(
        fc.nat(60),
        fc.nat(60),
        fc.nat(50_000),
        fc.nat(100),
        fc.nat(100),
        (a, b, raw, percent, floor) => {
          const policy: LatePolicy = {
            kind: "deduct",
            percent: String(percent),
            per: "day",
            floorPercent: String(floor),
          };
          const points = new Big(raw).div(1000).toString();
          const [few, many] = [Math.min(a, b), Math.max(a, b)].map(
            (n) => new Big(deduct(policy, n, points, "50").points),
          );
          const lowest = new Big(points).lt(floor / 2) ? new Big(points) : new Big(floor).div(2);
          return many!.lte(few!) && few!.lte(points) && many!.gte(lowest);
        },
      ),
    );
  });
  test("only flagging, and nothing after closing, take nothing off", () => {
    for (const policy of [{ kind: "flag" }, { kind: "closed" }] as LatePolicy[])
      expect(deduct(policy, 5, "41", "50").points).toBe("41");
  });
  test("in a sentence with an example", () => {
    expect(sayLatePolicy(tenASchoolDay, at("2026-10-16T16:00"), "50", place)).toBe(
      "10 % for each started school day. Handed in Tuesday 09:10, due Friday 16:00: 2 started school days, 10 of 50 points off.",
    );
    expect(
      sayLatePolicy(
        { ...tenASchoolDay, per: "day", floorPercent: "60" },
        at("2026-10-16T08:00"),
        null,
        place,
      ),
    ).toBe(
      "10 % for each started day, down to 60 %. Handed in Sunday 09:10, due Friday 08:00: 3 started days, 30 of 100 percent off.",
    );
    // As a column of decimals in the database gives it.
    expect(sayLatePolicy(tenASchoolDay, at("2026-10-16T16:00"), "50.000", place)).toContain(
      "10 of 50 points off",
    );
    const about = { raw: "41", possible: "50", late: "3 days 17 h late" };
    expect(sayDeduction(tenASchoolDay, deduct(tenASchoolDay, 2, "41", "50"), about)).toBe(
      "41, 3 days 17 h late, 2 started school days: − 10 (10 % of 50 each) = 31",
    );
    expect(sayDeduction(tenASchoolDay, deduct(tenASchoolDay, 0, "41", "50"), about)).toBe("");
  });
  test("the floor is named where it held, and not where only a third place was rounded", () => {
    const say = (percent: string, floorPercent: string, units: number, raw: string) => {
      const policy: LatePolicy = { kind: "deduct", percent, per: "day", floorPercent };
      const about = { raw, possible: "7", late: "late" };
      return sayDeduction(policy, deduct(policy, units, raw, "7"), about);
    };
    expect(say("3.333", "0", 1, "5")).not.toContain("not below");
    expect(say("50", "0", 4, "5")).toContain("not below 0 %");
    expect(say("20", "60", 5, "7")).toContain("not below 60 %");
  });
  test("half an hour late is one started day, however long no school comes after", () => {
    const due = at("2026-12-18T16:00");
    const after = (minutes: number) => new Date(due.getTime() + minutes * 60_000);
    const term = { name: "autumn", startsOn: "2026-09-07", endsOn: "2026-12-18" };
    const never = { name: "closed for good", startsOn: "2026-12-19", endsOn: "2099-12-31" };
    const later = { name: "spring", startsOn: "2027-01-11", endsOn: "2027-06-25" };
    for (const calendar of [
      { meetsOn: [1, 2, 3, 4, 5], terms: [term, later], closures: [] },
      { meetsOn: [1, 2, 3, 4, 5], terms: [term], closures: [never] },
      { meetsOn: [], terms: [], closures: [] },
    ])
      for (const per of LATE_UNITS)
        expect(startedUnits({ due, graceMinutes: 0 }, after(30), per, { ...place, calendar })).toBe(
          1,
        );
  });
});

describe("kinds of score", () => {
  // The percentages of letters are common practice, no source.
  test.each([
    ["points", "50", "40", "40", "40 / 50"],
    ["points", "50", "80%", "40", "40 / 50"],
    ["percent", "50", "85", "42.5", "85 %"],
    ["percent", "50", "17/20", "42.5", "85 %"],
    ["letters", "20", "b+", "17.4", "B+"],
    ["letters", "20", "B −", "", ""],
    ["letters", "20", "89%", "17.8", "B+"],
    ["letters", "20", "F", "0", "F"],
    ["levels", "10", "secure", "8", "secure"],
    ["levels", "10", "near", "6", "nearly"],
    ["levels", "10", "60%", "6", "nearly"],
    ["completion", "5", "c", "5", "complete"],
    ["completion", "5", "inc", "0", "incomplete"],
  ] as const)("%s of %s: %s is %s, shown %s", (kind, possible, typed, points, shown) => {
    const read = readScore(typed, { kind, possible });
    if (points === "") expect(read.ok).toBe(false);
    else expect(read).toMatchObject({ ok: true, points, shown });
  });
  test("what is not on the scale is refused with the scale", () => {
    expect(readScore("Q", { kind: "letters", possible: "20" })).toMatchObject({
      ok: false,
      why: expect.stringContaining("A+, A, A-"),
    });
    expect(readScore("8", { kind: "words", possible: null })).toMatchObject({ ok: false });
    expect(readScore("maybe", { kind: "completion", possible: "5" })).toMatchObject({ ok: false });
  });
  test("worked-out points are shown on the scale", () => {
    expect(sayPoints("17.3", { kind: "letters", possible: "20" })).toBe("B");
    expect(sayPoints("3", { kind: "completion", possible: "5" })).toBe("complete");
  });
});

describe("over the rounds", () => {
  test.each([
    ["latest", "6", "10", "8", "8"],
    ["best", "6", "10", "8", "10"],
    ["average", "6", "10", "8", "8"],
    ["win back", "6", "10", "8", "8"],
    ["win back", "6", "4", "5", "6"],
  ] as const)("%s of %s, %s, %s is %s", (final, a, b, c, score) => {
    expect(finalScore([a, b, c], { final, winBackPercent: "50" })).toBe(score);
  });
  test("nothing is nothing; best and win back never fall below the first", () => {
    expect(finalScore([], { final: "latest", winBackPercent: "50" })).toBeNull();
    fc.assert(
      fc.property(
        fc.array(fc.nat(100), { minLength: 1, maxLength: 5 }),
        fc.constantFrom("best" as const, "win back" as const),
        fc.nat(100),
        (scores, final, share) =>
          Number(finalScore(scores.map(String), { final, winBackPercent: String(share) })) >=
          scores[0]!,
      ),
    );
  });
  test("the last round, and the day on which rounds end", () => {
    const rule = {
      most: 2,
      until: at("2026-11-01T16:00"),
      final: "latest" as const,
      winBackPercent: "50",
    };
    expect(refuseRound(rule, 1, at("2026-10-20T16:00"))).toBeNull();
    expect(refuseRound(rule, 2, at("2026-10-20T16:00"))).toContain("2 rounds at most");
    expect(refuseRound(rule, 1, at("2026-11-02T16:00"))).toContain("after the day");
    expect(sayRounds(rule)).toBe("up to 2 rounds; the latest score counts");
    expect(sayRounds({ ...rule, most: null, final: "win back" })).toBe(
      "as many rounds as it needs; up to 50 % of what was lost can be won back",
    );
  });
});
