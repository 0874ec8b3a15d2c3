import { describe, expect, test } from "@jest/globals";
import ICAL from "ical.js";
import { readCalendarFile } from "./calendarFile";
import { calendarText } from "./calendarText";
import { writeDueFeed } from "./dueFeed";

const zone = "America/Halifax";
const ics = (...events: string[]) =>
  ["BEGIN:VCALENDAR", "VERSION:2.0", "PRODID:-//x//y//EN"]
    .concat(
      events.map((event) => `BEGIN:VEVENT\n${event}\nEND:VEVENT`),
      "END:VCALENDAR",
    )
    .join("\n")
    .replace(/\n/g, "\r\n");
const read = (text: string, from = "2026-01-01", to = "2027-12-31", zones = {}) =>
  readCalendarFile(text, { from, to }, zone, zones);
const days = (...events: string[]) => read(ics(...events)).entries.map((e) => e.startsOn);

describe("rules of repetition", () => {
  // RFC 5545, section 3.8.5.3: rules and the dates it lists for them.
  test.each([
    [
      "Monday of week number 20",
      "FREQ=YEARLY;BYWEEKNO=20;BYDAY=MO",
      "19970512",
      ["1997-05-12", "1998-05-11", "1999-05-17"],
    ],
    [
      "the last work day of the month",
      "FREQ=MONTHLY;BYDAY=MO,TU,WE,TH,FR;BYSETPOS=-1;COUNT=4",
      "19970930",
      ["1997-09-30", "1997-10-31", "1997-11-28", "1997-12-31"],
    ],
    [
      "every 20th Monday of the year",
      "FREQ=YEARLY;BYDAY=20MO",
      "19970519",
      ["1997-05-19", "1998-05-18", "1999-05-17"],
    ],
    [
      "the 1st, 100th and 200th day every third year",
      "FREQ=YEARLY;INTERVAL=3;COUNT=5;BYYEARDAY=1,100,200",
      "19970101",
      ["1997-01-01", "1997-04-10", "1997-07-19", "2000-01-01", "2000-04-09"],
    ],
    [
      "the first Saturday that follows the first Sunday",
      "FREQ=MONTHLY;BYDAY=SA;BYMONTHDAY=7,8,9,10,11,12,13;COUNT=3",
      "19970913",
      ["1997-09-13", "1997-10-11", "1997-11-08"],
    ],
    [
      "every other week, weeks that begin on Monday",
      "FREQ=WEEKLY;INTERVAL=2;COUNT=4;BYDAY=TU,SU;WKST=MO",
      "19970805",
      ["1997-08-05", "1997-08-10", "1997-08-19", "1997-08-24"],
    ],
    [
      "the same, weeks that begin on Sunday",
      "FREQ=WEEKLY;INTERVAL=2;COUNT=4;BYDAY=TU,SU;WKST=SU",
      "19970805",
      ["1997-08-05", "1997-08-17", "1997-08-19", "1997-08-31"],
    ],
    [
      "days that a month has not are left out",
      "FREQ=MONTHLY;BYMONTHDAY=15,30;COUNT=5",
      "20070115",
      ["2007-01-15", "2007-01-30", "2007-02-15", "2007-03-15", "2007-03-30"],
    ],
  ])("%s", (_name, rule, start, listed) => {
    const found = read(
      ics(`UID:r\nDTSTART;VALUE=DATE:${start}\nRRULE:${rule}`),
      "1997-01-01",
      "2008-01-01",
    );
    expect(found.entries.map((e) => e.startsOn).slice(0, listed.length)).toEqual(listed);
  });
  test("29 February comes every four years, and not on 1 March", () =>
    expect(
      read(
        ics("UID:l\nDTSTART;VALUE=DATE:20240229\nRRULE:FREQ=YEARLY"),
        "2024-01-01",
        "2033-01-01",
      ).entries.map((e) => e.startsOn),
    ).toEqual(["2024-02-29", "2028-02-29", "2032-02-29"]));

  // Rules that began long ago are begun later (see `occurrences`): a second library, which counts from the start, agrees.
  test.each([
    "FREQ=DAILY;INTERVAL=3",
    "FREQ=WEEKLY;INTERVAL=2;BYDAY=TU,SU;WKST=SU",
    "FREQ=DAILY;BYMONTH=2;BYDAY=MO",
    "FREQ=MONTHLY;BYDAY=-1FR",
    "FREQ=WEEKLY;BYDAY=MO;UNTIL=20260301",
  ])("begun long ago: %s", (rule) => {
    const recur = ICAL.Recur.fromString(rule).iterator(ICAL.Time.fromDateString("2015-03-03"));
    const theirs: string[] = [];
    for (let next = recur.next(); next && next.year < 2027; next = recur.next())
      if (next.year === 2026) theirs.push(next.toString().slice(0, 10));
    const ours = read(
      ics(`UID:o\nDTSTART;VALUE=DATE:20150303\nRRULE:${rule}`),
      "2026-01-01",
      "2026-12-31",
    ).entries;
    expect(ours.map((e) => e.startsOn)).toEqual(theirs);
    expect(theirs.length).toBeGreaterThan(3);
  });
  test("hundreds that began long ago, never hold or hold too often are read", () => {
    const many = [
      "DTSTART;VALUE=DATE:19000101\nRRULE:FREQ=DAILY",
      "DTSTART;VALUE=DATE:19000101\nRRULE:FREQ=DAILY;BYMONTH=2;BYMONTHDAY=30",
      "DTSTART:19700101T000000Z\nRRULE:FREQ=SECONDLY",
    ];
    const text = ics(
      ...Array.from({ length: 300 }, (_, n) => `UID:${n}\nSUMMARY:${n}\n${many[n % 3]}`),
    );
    const found = read(text, "2026-09-01", "2026-09-10");
    expect(found.entries.length).toBe(100 * 10);
    expect(found.notes).toHaveLength(100);
  });
});

describe("what belongs to an event", () => {
  const weekly = "UID:m\nDTSTART;VALUE=DATE:20260907\nRRULE:FREQ=WEEKLY;COUNT=4\nSUMMARY:Staff day";
  test("a cancelled occurrence is not offered, nor what was changed of a cancelled event", () => {
    expect(
      days(
        weekly,
        "UID:m\nRECURRENCE-ID;VALUE=DATE:20260914\nDTSTART;VALUE=DATE:20260914\nSTATUS:CANCELLED",
      ),
    ).toEqual(["2026-09-07", "2026-09-21", "2026-09-28"]);
    expect(
      days(
        `${weekly}\nSTATUS:CANCELLED`,
        "UID:m\nRECURRENCE-ID;VALUE=DATE:20260914\nDTSTART;VALUE=DATE:20260915",
      ),
    ).toEqual([]);
  });
  test("changed from one occurrence on (RANGE=THISANDFUTURE)", () =>
    expect(
      days(
        weekly,
        "UID:m\nRECURRENCE-ID;RANGE=THISANDFUTURE;VALUE=DATE:20260914\nDTSTART;VALUE=DATE:20260915\nSUMMARY:x",
      ),
    ).toEqual(["2026-09-07", "2026-09-15", "2026-09-22", "2026-09-29"]));
  test("dates without a rule, of every form", () => {
    expect(days("UID:d\nDTSTART;VALUE=DATE:20260907\nRDATE;VALUE=DATE:20260910,20261001")).toEqual([
      "2026-09-07",
      "2026-09-10",
      "2026-10-01",
    ]);
    expect(
      days("UID:p\nDTSTART:20260907T120000Z\nRDATE;VALUE=PERIOD:20260910T120000Z/PT2H"),
    ).toEqual(["2026-09-07", "2026-09-10"]);
  });
  test("two events of one UID are two, and of two editions of one the newer counts", () => {
    expect(
      days(
        "UID:same\nDTSTART;VALUE=DATE:20260907\nSUMMARY:a",
        "UID:same\nDTSTART;VALUE=DATE:20261012\nSUMMARY:b",
      ),
    ).toEqual(["2026-09-07", "2026-10-12"]);
    expect(
      days(
        "UID:same\nSEQUENCE:2\nDTSTART;VALUE=DATE:20260908",
        "UID:same\nSEQUENCE:1\nDTSTART;VALUE=DATE:20260907",
      ),
    ).toEqual(["2026-09-08"]);
    const keys = read(
      ics("UID:same\nDTSTART;VALUE=DATE:20260907", "UID:same\nDTSTART;VALUE=DATE:20261012"),
    ).entries.map((e) => e.key);
    expect(new Set(keys).size).toBe(2);
  });
  test("a changed occurrence whose event is not in the file", () =>
    expect(
      days("UID:gone\nRECURRENCE-ID;VALUE=DATE:20260914\nDTSTART;VALUE=DATE:20260916"),
    ).toEqual(["2026-09-16"]));
  test("EXDATE in UTC takes out a time in a zone, and a day takes out what is on it", () => {
    const tokyo = "UID:e\nDTSTART;TZID=America/New_York:20260907T200000\nRRULE:FREQ=DAILY;COUNT=3";
    expect(days(`${tokyo}\nEXDATE:20260909T000000Z`)).toEqual(["2026-09-07", "2026-09-09"]);
    expect(days(`${tokyo}\nEXDATE;VALUE=DATE:20260908`)).toEqual(["2026-09-07", "2026-09-09"]);
  });
  test.each([
    "DTSTART;VALUE=DATE:20260231",
    "DTSTART:20260930T250000Z",
    "DTSTART;VALUE=DATE:20260101\nDTEND;VALUE=DATE:20261301",
  ])("%s is refused and said", (line) => {
    const { entries, faults } = read(
      ics(`UID:i\nSUMMARY:Odd\n${line}`, "UID:g\nDTSTART;VALUE=DATE:20260907"),
    );
    expect(faults).toEqual([expect.stringMatching(/“Odd” cannot be read: .*no date/)]);
    expect(entries).toHaveLength(1);
  });
  test("a zone nobody knows is asked about, and means what one says", () => {
    const event = ics("UID:z\nDTSTART;TZID=Our Own Time:20261020T010000\nSUMMARY:x");
    expect(read(event)).toMatchObject({
      unknownZones: ["Our Own Time"],
      entries: [{ startsOn: "2026-10-20" }],
    });
    const meant = read(event, undefined, undefined, { "Our Own Time": "Asia/Tokyo" });
    expect(meant).toMatchObject({ unknownZones: [], entries: [{ startsOn: "2026-10-19" }] });
  });
  // RFC 5545, section 3.1: lines are folded by octets, and may be so in the middle of a character.
  test("a character that was folded in its middle is whole", () => {
    const bytes = Buffer.from(ics("UID:f\nDTSTART;VALUE=DATE:20260907\nSUMMARY:Jours fériés 🌊"));
    for (let at = bytes.indexOf("SUMMARY") + 1; at < bytes.indexOf("END:VEVENT") - 2; at += 1) {
      const folded = Buffer.concat([
        bytes.subarray(0, at),
        Buffer.from("\r\n "),
        bytes.subarray(at),
      ]);
      expect(read(calendarText(folded)).entries[0]!.name).toBe("Jours fériés 🌊");
    }
  });
});

test("the feed's events: no end, alarms behind the properties, cancelled ones without, and a line end at the end", () => {
  const now = new Date("2026-10-07T12:00:00Z");
  const entry = {
    uid: "1@almanac",
    title: "Due: Log",
    detail: "x",
    at: now,
    changedAt: now,
    sequence: 4,
    cancelled: false,
    url: "https://a.example/1",
  };
  const text = writeDueFeed(
    "Feed",
    [entry, { ...entry, uid: "2@almanac", cancelled: true }],
    60,
    now,
  );
  expect(text.endsWith("END:VCALENDAR\r\n")).toBe(true);
  expect(text).not.toContain("DTEND");
  const [first, second] = text.split("BEGIN:VEVENT").slice(1);
  // Section 3.6.1: eventprop, then alarmc.
  expect(first!.indexOf("BEGIN:VALARM")).toBeGreaterThan(first!.lastIndexOf("URL:"));
  expect(first!.split("END:VALARM")[1]!.trim()).toMatch(/^END:VEVENT/);
  expect(first).toContain("SEQUENCE:4");
  expect(second).toContain("STATUS:CANCELLED");
  expect(second).not.toContain("VALARM");
});
