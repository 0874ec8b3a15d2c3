import { describe, expect, test } from "@jest/globals";
import Papa from "papaparse";
import ICAL from "ical.js";
import { RRule } from "rrule";
import { readCalendarFile } from "./calendar/calendarFile";
import { writeDueFeed } from "./calendar/dueFeed";
import { decodeText, parseTable, writeTable } from "./table";

const zone = "America/New_York";
const ics = (...events: string[]) =>
  [
    "BEGIN:VCALENDAR",
    "VERSION:2.0",
    "PRODID:-//x//y//EN",
    ...events.flatMap((e) => [
      "BEGIN:VEVENT",
      ...e
        .trim()
        .split("\n")
        .map((l) => l.trim()),
      "END:VEVENT",
    ]),
    "END:VCALENDAR",
  ].join("\r\n");
const read = (text: string, from = "1996-01-01", to = "2011-12-31", where = zone) =>
  readCalendarFile(text, { from, to }, where);
const days = (text: string, from?: string, to?: string) =>
  read(text, from, to).entries.map((e) =>
    e.startsOn === e.endsOn ? e.startsOn : `${e.startsOn}/${e.endsOn}`,
  );

describe("an iCalendar file", () => {
  // RFC 5545, section 3.6.1: its own example of an all-day event of several days; DTEND is not included.
  test("the RFC's festival: 28 June to 8 July 2007", () => {
    expect(
      read(
        ics(
          "UID:20070423T123432Z-541111@example.com\nDTSTAMP:20070423T123432Z\nDTSTART;VALUE=DATE:20070628\nDTEND;VALUE=DATE:20070709\nSUMMARY:Festival International de Jazz de Montreal\nTRANSP:TRANSPARENT",
        ),
      ).entries,
    ).toEqual([
      {
        key: "20070423T123432Z-541111@example.com",
        name: "Festival International de Jazz de Montreal",
        startsOn: "2007-06-28",
        endsOn: "2007-07-08",
        allDay: true,
        recurring: false,
      },
    ]);
  });
  // RFC 5545, section 3.6.1: an anniversary, all day, every year, without DTEND it is the one day.
  test("the RFC's anniversary: 2 November each year", () => {
    expect(
      days(
        ics(
          "UID:a\nDTSTART;VALUE=DATE:19971102\nSUMMARY:Our Blissful Anniversary\nRRULE:FREQ=YEARLY",
        ),
        "1998-01-01",
        "2000-12-31",
      ),
    ).toEqual(["1998-11-02", "1999-11-02", "2000-11-02"]);
  });
  // RFC 5545, section 3.8.5.3: rules and the dates it lists for them (the date parts; DTSTART is in America/New_York).
  test.each([
    [
      "Daily for 10 occurrences",
      "DTSTART;TZID=America/New_York:19970902T090000",
      "FREQ=DAILY;COUNT=10",
      [
        "1997-09-02",
        "1997-09-03",
        "1997-09-04",
        "1997-09-05",
        "1997-09-06",
        "1997-09-07",
        "1997-09-08",
        "1997-09-09",
        "1997-09-10",
        "1997-09-11",
      ],
    ],
    [
      "Every 10 days, 5 occurrences",
      "DTSTART;TZID=America/New_York:19970902T090000",
      "FREQ=DAILY;INTERVAL=10;COUNT=5",
      ["1997-09-02", "1997-09-12", "1997-09-22", "1997-10-02", "1997-10-12"],
    ],
    [
      "Weekly on Tuesday and Thursday for five weeks",
      "DTSTART;TZID=America/New_York:19970902T090000",
      "FREQ=WEEKLY;UNTIL=19971007T000000Z;WKST=SU;BYDAY=TU,TH",
      [
        "1997-09-02",
        "1997-09-04",
        "1997-09-09",
        "1997-09-11",
        "1997-09-16",
        "1997-09-18",
        "1997-09-23",
        "1997-09-25",
        "1997-09-30",
        "1997-10-02",
      ],
    ],
    [
      "Monthly on the first Friday for 10 occurrences",
      "DTSTART;TZID=America/New_York:19970905T090000",
      "FREQ=MONTHLY;COUNT=10;BYDAY=1FR",
      [
        "1997-09-05",
        "1997-10-03",
        "1997-11-07",
        "1997-12-05",
        "1998-01-02",
        "1998-02-06",
        "1998-03-06",
        "1998-04-03",
        "1998-05-01",
        "1998-06-05",
      ],
    ],
    [
      "Monthly on the third-to-the-last day, for 6 months",
      "DTSTART;TZID=America/New_York:19970928T090000",
      "FREQ=MONTHLY;BYMONTHDAY=-3;COUNT=6",
      ["1997-09-28", "1997-10-29", "1997-11-28", "1997-12-29", "1998-01-29", "1998-02-26"],
    ],
    [
      "Every Thursday in March (first of three years)",
      "DTSTART;TZID=America/New_York:19970313T090000",
      "FREQ=YEARLY;BYMONTH=3;BYDAY=TH;COUNT=3",
      ["1997-03-13", "1997-03-20", "1997-03-27"],
    ],
    [
      "Every four years, the first Tuesday after a Monday in November",
      "DTSTART;TZID=America/New_York:19961105T090000",
      "FREQ=YEARLY;INTERVAL=4;BYMONTH=11;BYDAY=TU;BYMONTHDAY=2,3,4,5,6,7,8;COUNT=3",
      ["1996-11-05", "2000-11-07", "2004-11-02"],
    ],
  ])("the RFC's rule: %s", (_, start, rule, listed) => {
    expect(days(ics(`UID:r\n${start}\nSUMMARY:x\nRRULE:${rule}`))).toEqual(listed);
  });
  // RFC 5545, section 3.8.5.3: every Friday the 13th, with EXDATE taking out the start.
  test("EXDATE takes an occurrence out", () => {
    expect(
      days(
        ics(
          "UID:f\nDTSTART;TZID=America/New_York:19970902T090000\nEXDATE;TZID=America/New_York:19970902T090000\nRRULE:FREQ=MONTHLY;BYDAY=FR;BYMONTHDAY=13\nSUMMARY:Friday the 13th",
        ),
        "1998-01-01",
        "2000-12-31",
      ),
    ).toEqual(["1998-02-13", "1998-03-13", "1998-11-13", "1999-08-13", "2000-10-13"]);
  });
  // Another library for the same rules (rrule, from the registry): all-day, with exceptions of the kinds schools use.
  test.each([
    ["20260902", "FREQ=WEEKLY;BYDAY=MO,WE;COUNT=20"],
    ["20260904", "FREQ=WEEKLY;INTERVAL=2;BYDAY=FR;UNTIL=20270301"],
    ["20260925", "FREQ=MONTHLY;BYDAY=-1FR;COUNT=8"],
    ["20270517", "FREQ=YEARLY;BYMONTH=5;BYDAY=3MO;COUNT=4"],
    ["20260905", "FREQ=DAILY;BYDAY=SA,SU;COUNT=30"],
  ])("from %s, %s is what an independent library makes of it", (start, rule) => {
    const theirs = RRule.fromString(`DTSTART:${start}T000000Z\nRRULE:${rule}`)
      .between(new Date("2026-09-01T00:00:00Z"), new Date("2030-12-31T00:00:00Z"), true)
      .map((d) => d.toISOString().slice(0, 10));
    const ours = days(
      ics(`UID:q\nDTSTART;VALUE=DATE:${start}\nSUMMARY:x\nRRULE:${rule}`),
      "2026-09-01",
      "2030-12-31",
    );
    expect(ours).toEqual(theirs);
    expect(theirs.length).toBeGreaterThan(3);
  });
  test("times are days of the school: TZID with its VTIMEZONE, without it, in UTC, and floating", () => {
    const vtimezone =
      "BEGIN:VTIMEZONE\r\nTZID:Somewhere\r\nBEGIN:STANDARD\r\nDTSTART:19700101T000000\r\nTZOFFSETFROM:+1000\r\nTZOFFSETTO:+1000\r\nEND:STANDARD\r\nEND:VTIMEZONE";
    const text = ics(
      "UID:1\nDTSTART;TZID=Somewhere:20261020T080000\nDTEND;TZID=Somewhere:20261020T090000\nSUMMARY:a",
      "UID:2\nDTSTART;TZID=Asia/Tokyo:20261020T080000\nSUMMARY:b",
      "UID:3\nDTSTART:20261020T020000Z\nSUMMARY:c",
      "UID:4\nDTSTART:20261020T233000\nDTEND:20261021T000000\nSUMMARY:d",
    ).replace("PRODID:-//x//y//EN", `PRODID:-//x//y//EN\r\n${vtimezone}`);
    expect(
      read(text, "2026-01-01", "2026-12-31").entries.map((e) => [
        e.name,
        e.startsOn,
        e.endsOn,
        e.allDay,
      ]),
    ).toEqual([
      ["a", "2026-10-19", "2026-10-19", false],
      ["b", "2026-10-19", "2026-10-19", false],
      ["c", "2026-10-19", "2026-10-19", false],
      ["d", "2026-10-20", "2026-10-20", false],
    ]);
  });
  test("a changed occurrence stands where it was moved, a cancelled event not at all", () => {
    const text = ics(
      "UID:m\nDTSTART;VALUE=DATE:20260907\nRRULE:FREQ=WEEKLY;COUNT=3\nSUMMARY:Staff day",
      "UID:m\nRECURRENCE-ID;VALUE=DATE:20260914\nDTSTART;VALUE=DATE:20260916\nSUMMARY:Staff day, moved",
      "UID:c\nDTSTART;VALUE=DATE:20260910\nSTATUS:CANCELLED\nSUMMARY:Off",
    );
    expect(read(text, "2026-09-01", "2026-12-31").entries.map((e) => [e.startsOn, e.name])).toEqual(
      [
        ["2026-09-07", "Staff day"],
        ["2026-09-16", "Staff day, moved"],
        ["2026-09-21", "Staff day"],
      ],
    );
  });
  test("a rule without end stays within the window", () => {
    expect(
      read(
        ics("UID:w\nDTSTART;VALUE=DATE:20200106\nRRULE:FREQ=WEEKLY\nSUMMARY:Mondays"),
        "2026-09-01",
        "2026-12-31",
      ).entries,
    ).toHaveLength(17);
    const second = read(
      ics("UID:s\nDTSTART:20200106T000000Z\nRRULE:FREQ=SECONDLY\nSUMMARY:Tick"),
      "2026-09-01",
      "2026-12-31",
    );
    expect(second.notes[0]).toContain("repeats too often");
  });
  test.each([
    ["nothing", "", "not a calendar file"],
    ["a table", "name;date\nx;2026", "not a calendar file"],
    ["a page", "<html><body>x</body></html>", "not a calendar file"],
    [
      "50,000 events",
      ics(
        ...Array.from({ length: 50 }, () => "UID:x\nDTSTART;VALUE=DATE:20260907\nSUMMARY:x"),
      ).replace(
        "END:VCALENDAR",
        Array.from({ length: 50_000 }, () => "BEGIN:VEVENT\r\nEND:VEVENT").join("\r\n") +
          "\r\nEND:VCALENDAR",
      ),
      "50,050 events",
    ],
    [
      "one that is cut off",
      ics("UID:x\nDTSTART;VALUE=DATE:20260907\nSUMMARY:x").slice(0, 90),
      "not a calendar file",
    ],
  ])("%s gets a clear word", (_, text, words) => {
    const found = read(text);
    expect(found.entries).toEqual([]);
    expect(found.faults.join()).toContain(words);
  });
  test("an event that cannot be read does not take the others with it", () => {
    const found = read(
      ics("UID:x\nSUMMARY:No start", "UID:y\nDTSTART;VALUE=DATE:20260907\nSUMMARY:Good"),
      "2026-01-01",
      "2026-12-31",
    );
    expect([found.entries.map((e) => e.name), found.faults]).toEqual([
      ["Good"],
      ["“No start” cannot be read: it has no DTSTART."],
    ]);
  });
});

describe("the feed of due dates", () => {
  const now = new Date("2026-10-07T12:00:00Z");
  const entry = {
    uid: "piece-1@almanac",
    title: "Due: Letter; from a place, that changed \\ “now”",
    detail: "Field Writing 9,\nCurlew",
    at: new Date("2026-11-01T05:30:00Z"),
    changedAt: now,
    sequence: 3,
    cancelled: false,
    url: "https://almanac.example/work/1",
  };
  test("comes back from an independent parser as it went in (RFC 5545)", () => {
    const text = writeDueFeed(
      "Tern Island School: due dates",
      [entry, { ...entry, uid: "piece-2@almanac", title: "x".repeat(300) }],
      720,
      now,
    );
    const parsed = new ICAL.Component(ICAL.parse(text) as unknown[]);
    expect([
      parsed.getFirstPropertyValue("version"),
      Boolean(parsed.getFirstPropertyValue("prodid")),
    ]).toEqual(["2.0", true]);
    const [event, second] = parsed
      .getAllSubcomponents("vevent")
      .map((part) => new ICAL.Event(part));
    expect([
      event!.uid,
      event!.summary,
      event!.description,
      event!.startDate.toJSDate(),
      event!.component.getFirstPropertyValue("url"),
    ]).toEqual([entry.uid, entry.title, entry.detail, entry.at, entry.url]);
    expect(second!.summary).toHaveLength(300);
    // Section 3.6.1: UID and DTSTAMP are required; section 3.6.6: a display alarm has ACTION, DESCRIPTION, TRIGGER.
    for (const part of parsed.getAllSubcomponents("vevent")) {
      expect(part.hasProperty("dtstamp")).toBe(true);
      const [alarm] = part.getAllSubcomponents("valarm");
      expect([
        alarm!.getFirstPropertyValue("action"),
        String(alarm!.getFirstPropertyValue("trigger")),
        alarm!.hasProperty("description"),
      ]).toEqual(["DISPLAY", "-PT12H", true]);
    }
    // Section 3.1: lines end in CRLF and have 75 octets at most.
    expect(
      text.split("\r\n").every((line) => Buffer.byteLength(line) <= 75 && !line.includes("\n")),
    ).toBe(true);
  });
  test("without an alarm there is none", () =>
    expect(writeDueFeed("x", [entry], null, now)).not.toContain("VALARM"));
});

describe("tables as text", () => {
  // RFC 4180, section 2: quotes, doubled quotes, line ends inside.
  test.each([
    [
      "commas",
      'a,b\r\n"x, ""y""","1\n2"\r\n',
      [
        ["a", "b"],
        ['x, "y"', "1\n2"],
      ],
    ],
    [
      "semicolons",
      "a;b\nx;1,5\n",
      [
        ["a", "b"],
        ["x", "1,5"],
      ],
    ],
    [
      "tabs",
      "a\tb\nx\ty\n",
      [
        ["a", "b"],
        ["x", "y"],
      ],
    ],
    [
      "empty rows, counted but left out",
      "a,b\n\n,\nx,y\n",
      [
        ["a", "b"],
        ["x", "y"],
      ],
    ],
  ])("%s", (_, text, rows) => expect(parseTable(text).rows.map((r) => r.cells)).toEqual(rows));
  test("rows are numbered as they stand in the file", () =>
    expect(parseTable("a,b\n\nx,y").rows.map((r) => r.number)).toEqual([1, 3]));
  test("what is written is read back", () => {
    const rows = [
      ["a", 'q"uote', "semi;colon"],
      ["line\nend", "", "ü"],
    ];
    expect(parseTable(writeTable(rows)).rows.map((r) => r.cells)).toEqual(rows);
  });
  test("encodings: UTF-8 with and without its mark, UTF-16 both ways, Windows-1252", () => {
    const text = "Zoë Þórsdóttir";
    const utf16 = (swap: boolean) => {
      const bytes = Buffer.from(`\uFEFF${text}`, "utf16le");
      return swap ? bytes.swap16() : bytes;
    };
    expect(decodeText(Buffer.from(text))).toEqual({ text, encoding: "UTF-8" });
    expect(decodeText(Buffer.from(`\uFEFF${text}`))).toEqual({ text, encoding: "UTF-8" });
    expect(decodeText(utf16(false))).toEqual({ text, encoding: "UTF-16" });
    expect(decodeText(utf16(true))).toEqual({ text, encoding: "UTF-16" });
    expect(decodeText(Buffer.from([0x5a, 0x6f, 0xeb, 0x20, 0x96]))).toEqual({
      text: "Zoë –",
      encoding: "Windows-1252",
    });
    expect(decodeText(Buffer.from([1, 0, 2]))).toEqual({ fault: "This is not a text file." });
  });
});

describe("a table that leaves is text in every program", () => {
  // The signs a spreadsheet takes for the beginning of a formula (OWASP, CSV injection; from memory).
  const CELLS = [
    "=1+1",
    "+44 20",
    "-5",
    "@SUM(A1)",
    "\tx",
    "\rx",
    "'plain",
    "'=1",
    "''-",
    "it's",
    "",
    "a=b",
  ];
  test("no cell begins like a formula, and each comes back as it was", () => {
    const text = writeTable([CELLS.map((_, n) => `c${n}`), CELLS]);
    const raw = Papa.parse<string[]>(text.trimEnd(), { delimiter: "," }).data[1]!;
    for (const cell of raw) expect(cell).not.toMatch(/^[=+\-@\t\r]/);
    expect(parseTable(text).rows[1]!.cells).toEqual(CELLS);
  });
});
