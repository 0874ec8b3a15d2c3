import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import { lessonsOfTerm, nextLesson } from "./lessons";
import {
  addSchoolDays,
  isSchoolDay,
  noSchoolBecause,
  PLAIN_CALENDAR,
  sameDistance,
  schoolDayFrom,
  schoolDaysBetween,
  teachingWeek,
  type SchoolCalendar,
} from "./term";
import { addDays, weekdayOf } from "./zone";

const autumn = { name: "autumn", startsOn: "2026-09-08", endsOn: "2026-12-18" };
const winter = { name: "winter", startsOn: "2027-01-05", endsOn: "2027-03-26" };
const calendar: SchoolCalendar = {
  meetsOn: [1, 2, 3, 4, 5],
  terms: [autumn, winter],
  closures: [
    { name: "Thanksgiving", startsOn: "2026-10-12", endsOn: "2026-10-12" },
    { name: "Autumn break", startsOn: "2026-11-09", endsOn: "2026-11-13" },
  ],
};

// Worked by hand on a wall calendar: 9 Oct 2026 is a Friday, 12 Oct a holiday, 9 to 13 Nov a break,
// 18 Dec the last day of a term and 5 Jan the first of the next.
test.each([
  ["2026-10-09", 1, "2026-10-13"],
  ["2026-10-09", 2, "2026-10-14"],
  ["2026-10-10", 1, "2026-10-13"],
  ["2026-10-10", 0, "2026-10-13"],
  ["2026-11-06", 1, "2026-11-16"],
  ["2026-11-16", -1, "2026-11-06"],
  ["2026-10-13", -1, "2026-10-09"],
  ["2026-10-11", -1, "2026-10-09"],
  ["2026-12-18", 1, "2027-01-05"],
  ["2026-12-17", 3, "2027-01-06"],
  ["2026-09-30", 0, "2026-09-30"],
])("%s and %d school days is %s", (day, n, found) => {
  expect(addSchoolDays(day, n, calendar)).toBe(found);
});

test.each([
  ["2026-10-09", "2026-10-13", 1],
  ["2026-10-09", "2026-10-12", 0],
  ["2026-10-13", "2026-10-09", -1],
  ["2026-11-06", "2026-11-17", 2],
  ["2026-12-18", "2027-01-06", 2],
])("between %s and %s are %d school days", (from, to, days) => {
  expect(schoolDaysBetween(from, to, calendar)).toBe(days);
});

// Worked by hand: due Fri 16 Oct; the holiday is Mon 12 Oct.
test.each([
  ["2026-10-16", "2026-10-18", "2026-10-20", "2026-10-22"],
  ["2026-10-16", "2026-10-20", "2026-10-23", "2026-10-27"],
  ["2026-10-14", "2026-10-18", "2026-10-15", "2026-10-21"],
  ["2026-10-16", "2026-10-16", "2026-10-20", "2026-10-20"],
  ["2026-10-16", "2026-10-09", "2026-10-23", "2026-10-19"],
  ["2026-10-09", "2026-10-12", "2026-10-06", "2026-10-09"],
])("as %s to %s, so %s to %s", (anchor, day, target, found) => {
  expect(sameDistance(anchor, day, target, { calendar })).toBe(found);
});

const someDay = fc.integer({ min: 0, max: 199 }).map((n) => addDays("2026-09-08", n));

test("moving by n school days and back is the identity on school days", () => {
  fc.assert(
    fc.property(someDay, fc.integer({ min: -60, max: 60 }), (day, n) => {
      fc.pre(isSchoolDay(day, calendar));
      return addSchoolDays(addSchoolDays(day, n, calendar), -n, calendar) === day;
    }),
  );
});

test("moving by n lands on a school day that lies n school days away", () => {
  fc.assert(
    fc.property(someDay, fc.integer({ min: 1, max: 60 }), (day, n) => {
      const found = addSchoolDays(day, n, calendar);
      return isSchoolDay(found, calendar) && schoolDaysBetween(day, found, calendar) === n;
    }),
  );
});

test("without holidays five school days are a week (an independent count)", () => {
  fc.assert(
    fc.property(
      someDay,
      fc.integer({ min: 0, max: 20 }),
      (day, weeks) =>
        weekdayOf(day) > 5 ||
        addSchoolDays(day, 5 * weeks, PLAIN_CALENDAR) === addDays(day, 7 * weeks),
    ),
  );
});

describe("why there is no school", () => {
  test.each([
    ["2026-10-12", "Thanksgiving"],
    ["2026-10-17", "weekend"],
    ["2026-12-22", "between two terms"],
    ["2026-08-10", null],
    ["2026-10-13", null],
  ])("%s: %s", (day, words) => expect(noSchoolBecause(day, calendar)).toBe(words));

  test("a school that meets from Sunday to Thursday", () => {
    const sunday: SchoolCalendar = { ...calendar, meetsOn: [7, 1, 2, 3, 4] };
    expect(isSchoolDay("2026-10-18", sunday)).toBe(true);
    expect(isSchoolDay("2026-10-16", sunday)).toBe(false);
    expect(schoolDayFrom("2026-10-16", sunday)).toBe("2026-10-18");
    expect(teachingWeek("2026-10-18", autumn, sunday)).toBe(6);
  });

  test("a calendar that is closed for years ends the search", () => {
    const closed = {
      ...calendar,
      closures: [{ name: "mistake", startsOn: "2020-01-01", endsOn: "2040-01-01" }],
    };
    expect(schoolDayFrom("2026-10-13", closed)).toBe("2026-10-13");
  });
});

describe("lessons", () => {
  const meetings = [
    { weekday: 1, starts: "09:05", ends: "09:55" },
    { weekday: 5, starts: "13:00", ends: "13:50" },
  ];
  test("the next lesson passes over a holiday", () => {
    expect(nextLesson("2026-10-09T13:00", meetings, calendar)?.starts).toBe("2026-10-16T13:00");
    expect(nextLesson("2026-10-09T12:59", meetings, calendar)?.starts).toBe("2026-10-09T13:00");
    expect(nextLesson("2026-10-09T13:00", [], calendar)).toBeNull();
  });
  test("a term's lessons: 15 Mondays less the holiday and the break, 15 Fridays less the break", () => {
    const lessons = lessonsOfTerm(autumn, meetings, calendar);
    expect(lessons.filter((l) => weekdayOf(l.day) === 1)).toHaveLength(12);
    expect(lessons.filter((l) => weekdayOf(l.day) === 5)).toHaveLength(14);
  });
});
