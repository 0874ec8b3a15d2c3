import { afterAll, beforeAll, describe, expect, test } from "@jest/globals";
import { Invalid, NotFound } from "../../src/core/refusals";
import type { Endpoint } from "../../src/core/api/endpoint";
import { contract } from "../../src/core/api/contract";
import { readFeed, setFeed } from "../../src/server/calendar/feeds";
import {
  deleteTerm,
  importClosures,
  readClosures,
  putClosure,
  putTerm,
  schoolCalendarView,
  setSchoolDays,
} from "../../src/server/office/schoolCalendar";
import { monthView, termView } from "../../src/server/calendar/calendarView";
import { makeSection } from "../../src/server/classes/changeSetUp";
import { mastheadView } from "../../src/server/overview/school";
import {
  answerOn,
  asPerson,
  doc,
  endAnswers,
  smallSchool,
  testDatabase,
  type SmallSchool,
  type TestDatabase,
} from "../support/database";
import { handOutSimply } from "../support/handOut";
import { ask } from "../support/routes";

/** The school's calendar and everyone's feed, through the use-cases. */
let database: TestDatabase;
let school: SmallSchool;
let office: ReturnType<typeof asPerson>;
let owner: ReturnType<typeof asPerson>;
const NOW = new Date("2026-10-07T12:00:00Z");

beforeAll(async () => {
  database = await testDatabase();
  answerOn(database);
  school = await smallSchool(database.sql);
  office = asPerson(database.sql, school.office);
  owner = asPerson(database.sql, school.owner);
});
afterAll(() => endAnswers(database));

describe("the school's calendar", () => {
  const ICS = [
    "BEGIN:VCALENDAR",
    "VERSION:2.0",
    "PRODID:-//t//t//EN",
    "BEGIN:VEVENT",
    "UID:h1",
    "DTSTART;VALUE=DATE:20261109",
    "DTEND;VALUE=DATE:20261114",
    "SUMMARY:Autumn break",
    "END:VEVENT",
    "BEGIN:VEVENT",
    "UID:p1",
    "DTSTART:20261020T210000Z",
    "SUMMARY:Parents’ evening",
    "END:VEVENT",
    "END:VCALENDAR",
  ].join("\r\n");
  const bring = (text: string, chosen: string[] | null) =>
    office.prepared(
      NOW,
      (call) => readClosures(call, { text }),
      (call, file) => importClosures(call, { source: "school.ics", chosen }, file),
    );

  test("a file is looked at, taken over, the same twice nothing, and what it no longer has goes", async () => {
    const seen = await bring(ICS, null);
    expect(seen.lines.map((l) => [l.name, l.startsOn, l.endsOn, l.allDay, l.what])).toEqual([
      ["Parents’ evening", "2026-10-20", "2026-10-20", false, "new"],
      ["Autumn break", "2026-11-09", "2026-11-13", true, "new"],
    ]);
    expect((await office.read(NOW, (call) => schoolCalendarView(call))).closures).toEqual([]);
    await bring(ICS, ["h1"]);
    expect((await bring(ICS, null)).lines.map((l) => l.what)).toEqual(["new", "unchanged"]);
    const later = ICS.replace("20261114", "20261113");
    expect((await bring(later, null)).lines.find((l) => l.key === "h1")!.what).toBe("changed");
    await bring(later, ["h1"]);
    expect((await office.read(NOW, (call) => schoolCalendarView(call))).closures).toMatchObject([
      { name: "Autumn break", endsOn: "2026-11-12", source: "school.ics" },
    ]);
    expect((await bring(later.replace("UID:h1", "UID:h2"), null)).gone).toMatchObject([
      { name: "Autumn break" },
    ]);
    await expect(bring("nonsense", ["h1"])).rejects.toThrow("Nothing was taken over");
  });
  test("teaching weeks and school days are counted from it", async () => {
    const week = async (day: string) =>
      (await owner.read(new Date(`${day}T15:00:00Z`), (call) => mastheadView(call))).week;
    // The break leaves its week one day, a Friday; closed on that day too, the week is not counted.
    expect([await week("2026-11-06"), await week("2026-11-13"), await week("2026-11-16")]).toEqual([
      "week 9 of the autumn term",
      "week 10 of the autumn term",
      "week 11 of the autumn term",
    ]);
    await office.change(NOW, (call) =>
      putClosure(call, null, { name: "Storm day", startsOn: "2026-11-13", endsOn: "2026-11-13" }),
    );
    expect([await week("2026-11-13"), await week("2026-11-16")]).toEqual([
      "autumn term, no school this week",
      "week 10 of the autumn term",
    ]);
    await office.change(NOW, (call) =>
      setSchoolDays(call, { meetsOn: [1, 2, 3, 4, 5, 6], dayEnds: "14:00" }),
    );
    expect(await week("2026-11-14")).toBe("week 10 of the autumn term");
    await office.change(NOW, (call) =>
      setSchoolDays(call, { meetsOn: [1, 2, 3, 4, 5], dayEnds: "15:30" }),
    );
  });
  test("terms do not overlap, and one with courses stays", async () => {
    await expect(
      office.change(NOW, (call) =>
        putTerm(call, null, { name: "other", startsOn: "2026-12-01", endsOn: "2027-01-10" }),
      ),
    ).rejects.toThrow(Invalid);
    await expect(
      office.change(NOW, (call) =>
        putTerm(call, null, { name: "other", startsOn: "2027-02-01", endsOn: "2027-01-10" }),
      ),
    ).rejects.toThrow("end before");
    const { id } = await office.change(NOW, (call) =>
      putTerm(call, null, { name: "spring", startsOn: "2027-04-05", endsOn: "2027-06-18" }),
    );
    const { sectionId } = await owner.change(NOW, (call) =>
      makeSection(call, { course: "Knots", name: "Bowline", termId: id }),
    );
    await expect(office.change(NOW, (call) => deleteTerm(call, id))).rejects.toThrow("1 course");
    await expect(
      owner.change(NOW, (call) =>
        makeSection(call, { course: "Knots", name: "bowline", termId: id }),
      ),
    ).rejects.toThrow(Invalid);
    expect(sectionId).toBeTruthy();
  });
  test("the month and the term show what is due, and the load of a day counts other teachers' work", async () => {
    const simple = {
      title: "Log",
      instructions: doc("x"),
      expects: "work" as const,
      points: "10",
      opens: null,
      due: "2026-10-16T16:00",
      closes: null,
      promised: null,
      graceMinutes: 0,
      mayTakeBack: true,
    };
    await owner.change(NOW, (call) => handOutSimply(call, school.sectionId, simple));
    await owner.change(NOW, (call) =>
      handOutSimply(call, school.sectionId, { ...simple, title: "Second" }),
    );
    const month = await owner.read(NOW, (call) => monthView(call, "2026-10"));
    expect([month.title, month.weeks.length, month.weeks[0]![0]!.day]).toEqual([
      "October 2026",
      5,
      "2026-09-28",
    ]);
    expect(month.items.filter((i) => i.what === "due").map((i) => [i.title, i.day])).toEqual([
      ["Log", "2026-10-16"],
      ["Second", "2026-10-16"],
    ]);
    expect(month.loads).toMatchObject([{ day: "2026-10-16", students: 3, most: 2 }]);
    const term = await owner.read(NOW, (call) => termView(call, null));
    expect(term.weeks.find((w) => w.items.length > 0)).toMatchObject({ week: 6 });
    expect(
      (
        await asPerson(database.sql, school.stranger).read(NOW, (call) =>
          monthView(call, "2026-10"),
        )
      ).items,
    ).toEqual([]);
  });
});

describe("a private calendar of due dates", () => {
  test("a teacher's and a student's, each of their own; a new address closes the old one", async () => {
    const feed = await owner.change(NOW, (call) =>
      setFeed(call, { alarmMinutes: 60, newAddress: false }),
    );
    const secret = feed.path!.split("/").at(-1)!;
    const text = (await readFeed(database.sql, secret, NOW, "https://almanac.example")).replace(
      /\r\n[ \t]/g,
      "",
    );
    expect(text).toContain("SUMMARY:Due: Log · Gannet");
    expect(text).toContain("TRIGGER:-PT1H");
    const own = await asPerson(database.sql, school.students[0]!).change(NOW, (call) =>
      setFeed(call, { alarmMinutes: null, newAddress: false }),
    );
    const theirs = await readFeed(
      database.sql,
      own.path!.split("/").at(-1)!,
      NOW,
      "https://almanac.example",
    );
    expect([
      theirs.includes("Due: Log"),
      theirs.includes("VALARM"),
      theirs.match(/BEGIN:VEVENT/g)!.length,
    ]).toEqual([true, false, 2]);
    const changed = await owner.change(NOW, (call) =>
      setFeed(call, { alarmMinutes: 60, newAddress: true }),
    );
    expect(changed.path).not.toBe(feed.path);
    await expect(readFeed(database.sql, secret, NOW, "x")).rejects.toThrow(NotFound);
    await expect(
      office.change(NOW, (call) => setFeed(call, { alarmMinutes: null, newAddress: false })),
    ).rejects.toThrow(NotFound);
  });
  test("fetched without a session, as calendars do; a wrong address is not there", async () => {
    const [row] = await database.sql<
      { secret: string }[]
    >`select secret from calendar_feed limit 1`;
    const answer = await ask(contract.feed as Endpoint, { params: { secret: row!.secret } });
    expect([answer.status, answer.headers.get("content-type")]).toEqual([
      200,
      "text/calendar; charset=utf-8",
    ]);
    expect(
      (await ask(contract.feed as Endpoint, { params: { secret: crypto.randomUUID() } })).status,
    ).toBe(404);
  });
});
