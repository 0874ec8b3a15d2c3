import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import { lateness, sayLateness } from "./lateness";
import { isSchoolDay, schoolDayFrom, teachingWeek } from "./term";
import { DateTime } from "luxon";
import { sayDay, saySpan, sayTime } from "./words";
import { addDays, dayOf, instantToWall, offsetAt, wallToInstant, weekdayOf } from "./zone";

const at = (iso: string) => new Date(iso);

describe("a wall-clock time in a zone", () => {
  // The changes of clock themselves are in the IANA time zone database (2026 rules); which reading
  // is right in a gap or an overlap is RFC 5545, section 3.3.5: its own two examples come first.
  test.each([
    ["2007-11-04T01:30", "America/New_York", "2007-11-04T05:30:00Z", "twice"],
    ["2007-03-11T02:30", "America/New_York", "2007-03-11T07:30:00Z", "skipped"],
    ["2026-03-08T01:59", "America/New_York", "2026-03-08T06:59:00Z", "plain"],
    ["2026-03-08T02:30", "America/New_York", "2026-03-08T07:30:00Z", "skipped"],
    ["2026-03-08T03:00", "America/New_York", "2026-03-08T07:00:00Z", "plain"],
    ["2026-11-01T01:30", "America/New_York", "2026-11-01T05:30:00Z", "twice"],
    ["2026-11-01T02:00", "America/New_York", "2026-11-01T07:00:00Z", "plain"],
    ["2026-10-25T01:30", "Europe/London", "2026-10-25T00:30:00Z", "twice"],
    ["2026-10-25T02:00", "Europe/London", "2026-10-25T02:00:00Z", "plain"],
    ["2026-04-05T01:45", "Australia/Lord_Howe", "2026-04-04T14:45:00Z", "twice"],
    ["2026-10-04T02:15", "Australia/Lord_Howe", "2026-10-03T15:45:00Z", "skipped"],
    ["2026-10-16T16:00", "America/Halifax", "2026-10-16T19:00:00Z", "plain"],
  ] as const)("%s in %s is %s (%s)", (wall, zone, instant, reading) => {
    expect(wallToInstant(wall, zone)).toEqual({ at: at(instant), reading });
  });

  test("there and back is the same wall time, wherever it exists", () => {
    const zones = [
      "America/New_York",
      "Europe/London",
      "Australia/Lord_Howe",
      "America/Halifax",
      "Asia/Kathmandu",
    ];
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 365 * 24 * 4 }),
        fc.constantFrom(...zones),
        (quarter, zone) => {
          const wall = new Date(Date.UTC(2026, 0, 1) + quarter * 900_000)
            .toISOString()
            .slice(0, 16);
          const found = wallToInstant(wall, zone);
          return found.reading === "skipped" || instantToWall(found.at, zone) === wall;
        },
      ),
    );
  });

  test("nonsense is refused", () => {
    expect(() => wallToInstant("tomorrow", "America/Halifax")).toThrow(RangeError);
    expect(() => wallToInstant("2026-02-30T10:00", "America/Halifax")).toThrow(RangeError);
    expect(() => wallToInstant("2026-02-03T10:00", "Mars/Olympus")).toThrow(RangeError);
  });
});

describe("lateness", () => {
  const due = wallToInstant("2026-10-16T16:00", "America/Halifax").at;
  const after = (ms: number) => new Date(due.getTime() + ms);

  test.each([
    [-1, 0, false],
    [0, 0, false],
    [1, 0, true],
    [10 * 60_000, 10, false],
    [10 * 60_000 + 1, 10, true],
  ])("%d ms after due with %d min of grace: late is %s", (ms, graceMinutes, late) => {
    expect(lateness({ due, graceMinutes }, after(ms)).late).toBe(late);
  });

  test("past the grace it is counted from due, not from the end of the grace", () => {
    expect(sayLateness({ due, graceMinutes: 10 }, after(11 * 60_000), "America/Halifax")).toBe(
      "11 min late",
    );
    expect(sayLateness({ due, graceMinutes: 10 }, after(9 * 60_000), "America/Halifax")).toBe(
      "on time (within the grace)",
    );
  });

  // One calendar day late is one day, whether that day had 23, 24, 23.5 or 25 hours.
  test.each([
    ["America/New_York", "2026-03-07T16:00", "2026-03-08T16:00", 23],
    ["America/New_York", "2026-10-31T16:00", "2026-11-01T16:00", 25],
    ["Europe/London", "2026-10-24T16:00", "2026-10-25T16:00", 25],
    ["Australia/Lord_Howe", "2026-10-03T16:00", "2026-10-04T16:00", 23.5],
  ])("across the change of clocks in %s", (zone, dueWall, inWall, hours) => {
    const from = wallToInstant(dueWall, zone).at;
    const to = wallToInstant(inWall, zone).at;
    expect((to.getTime() - from.getTime()) / 3_600_000).toBe(hours);
    expect(sayLateness({ due: from, graceMinutes: 0 }, to, zone)).toBe("1 day late");
  });

  test("never decreases as the hand-in grows later", () => {
    fc.assert(
      fc.property(fc.nat(5_000_000), fc.nat(5_000_000), fc.nat(120), (a, b, graceMinutes) => {
        const [early, late] = [Math.min(a, b), Math.max(a, b)].map((s) =>
          lateness({ due, graceMinutes }, after(s * 1000)),
        );
        return !early!.late || late!.late;
      }),
    );
  });
});

describe("times in words", () => {
  const zone = "America/Halifax";
  const now = wallToInstant("2026-10-14T09:41", zone).at;
  test.each([
    ["2026-10-14T16:00", "today 16:00"],
    ["2026-10-15T08:05", "tomorrow 08:05"],
    ["2026-10-13T23:59", "yesterday 23:59"],
    ["2026-10-16T16:00", "Fri 16 Oct, 16:00"],
    ["2027-01-08T16:00", "Fri 8 Jan 2027, 16:00"],
  ])("%s is %s", (wall, words) => {
    expect(sayTime(wallToInstant(wall, zone).at, now, zone)).toBe(words);
  });
  test.each([
    [59_000, "less than a minute"],
    [60_000, "1 min"],
    [3 * 3_600_000 + 5 * 60_000, "3 h 5 min"],
    [51 * 3_600_000, "2 days 3 h"],
  ])("%d ms is %s", (ms, words) => {
    expect(saySpan(now, new Date(now.getTime() + ms), zone)).toBe(words);
  });
});

describe("the term", () => {
  const term = { name: "Autumn", startsOn: "2026-09-08", endsOn: "2026-12-18" };
  const closures = [
    { name: "Thanksgiving", startsOn: "2026-10-12", endsOn: "2026-10-12" },
    { name: "Autumn break", startsOn: "2026-11-09", endsOn: "2026-11-13" },
  ];
  const calendar = { meetsOn: [1, 2, 3, 4, 5], terms: [term], closures };
  test("school days leave out weekends, closures and the holidays", () => {
    expect(
      ["2026-09-07", "2026-09-08", "2026-09-12", "2026-10-12", "2026-10-13"].map(
        (d) => d >= term.startsOn && isSchoolDay(d, calendar),
      ),
    ).toEqual([false, true, false, false, true]);
  });
  test("the first school day from a Saturday before a holiday is Tuesday", () => {
    expect(schoolDayFrom("2026-10-10", calendar)).toBe("2026-10-13");
    expect(schoolDayFrom("2026-10-13", calendar)).toBe("2026-10-13");
  });
  test("a week without a school day is not counted", () => {
    expect(
      ["2026-09-10", "2026-10-14", "2026-11-06", "2026-11-10", "2026-11-16", "2026-12-25"].map(
        (d) => teachingWeek(d, term, calendar),
      ),
    ).toEqual([1, 6, 9, null, 10, null]);
  });
  test("days are those of the school, not of Greenwich", () => {
    expect(dayOf(new Date("2026-10-17T01:00Z"), "America/Halifax")).toBe("2026-10-16");
    expect(addDays("2026-10-30", 3)).toBe("2026-11-02");
  });
});

// The library itself is the reference: what is kept for whole days must say what it says for each instant.
describe("the quick way and the library's say the same", () => {
  const ZONES = [
    "America/Halifax",
    "Europe/Berlin",
    "Asia/Kathmandu",
    "Australia/Lord_Howe",
    "America/St_Johns",
    "Pacific/Apia",
    "Africa/Casablanca",
    "UTC",
  ];
  const instant = fc
    .integer({ min: Date.UTC(2005, 0, 1) / 1000, max: Date.UTC(2032, 0, 1) / 1000 })
    .map((s) => new Date(s * 1000));
  const zone = fc.constantFrom(...ZONES);
  test("days, clocks and offsets, at any instant of any zone", () =>
    fc.assert(
      fc.property(instant, zone, (at, name) => {
        const luxon = DateTime.fromJSDate(at, { zone: name });
        expect(instantToWall(at, name)).toBe(luxon.toFormat("yyyy-MM-dd'T'HH:mm"));
        expect(dayOf(at, name)).toBe(luxon.toFormat("yyyy-MM-dd"));
        expect(offsetAt(at, name)).toBe(luxon.offset);
        const day = luxon.toFormat("yyyy-MM-dd");
        expect(weekdayOf(day)).toBe(luxon.weekday);
        expect(sayDay(day, "2026-01-01")).toBe(
          DateTime.fromISO(day, { zone: "utc", locale: "en-GB" }).toFormat(
            luxon.year === 2026 ? "ccc d LLL" : "ccc d LLL yyyy",
          ),
        );
      }),
      { numRuns: 3000 },
    ));
  test("spans, over changes of the clock too", () =>
    fc.assert(
      fc.property(
        instant,
        zone,
        fc.integer({ min: 0, max: 400 * 86_400 }),
        (from, name, seconds) => {
          const to = new Date(from.getTime() + seconds * 1000);
          const [a, b] = [from, to].map((at) => DateTime.fromJSDate(at, { zone: name }));
          const { days, hours, minutes } = b!.diff(a!, ["days", "hours", "minutes"]);
          const said = saySpan(from, to, name);
          if (days) expect(said).toContain(`${days} ${days === 1 ? "day" : "days"}`);
          if (hours) expect(said).toContain(`${hours} h`);
          if (!days && Math.floor(minutes)) expect(said).toContain(`${Math.floor(minutes)} min`);
          if (!days) expect(said).not.toContain("day");
        },
      ),
      { numRuns: 3000 },
    ));
  test("the minutes around a change of the clock, one by one", () => {
    for (const name of ["America/Halifax", "America/St_Johns", "Australia/Lord_Howe"])
      for (const night of ["2026-03-08", "2026-11-01", "2010-03-14", "2026-04-05", "2026-10-04"])
        for (let minute = -900; minute < 1800; minute += 1) {
          const at = new Date(Date.parse(`${night}T00:00:00Z`) + minute * 60_000);
          expect(instantToWall(at, name)).toBe(
            DateTime.fromJSDate(at, { zone: name }).toFormat("yyyy-MM-dd'T'HH:mm"),
          );
        }
  });
});
