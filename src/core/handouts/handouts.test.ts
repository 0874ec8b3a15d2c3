import { describe, expect, test } from "@jest/globals";
import { PLAIN_CALENDAR, type SchoolCalendar } from "../time/term";
import { wallToInstant } from "../time/zone";
import { owes, studentsFor } from "./audience";
import { notesOnDates, sayLoad, sayOddHour } from "./checkDates";
import { checkRow } from "./checkRow";
import { describeChange, noticeFor, type HandOutFacts } from "./describeChange";
import { dueChoices, suggestedDates } from "./dueChoices";
import { dueThroughGroups, sayExtraTime, withExtraTime } from "./extraTime";
import { moveDates, type Timetable } from "./moveDates";
import { sayTitle } from "./plan";

const zone = "America/Halifax";
const at = (wall: string) => wallToInstant(wall, zone).at;
const calendar: SchoolCalendar = {
  meetsOn: [1, 2, 3, 4, 5],
  terms: [{ name: "autumn", startsOn: "2026-09-08", endsOn: "2026-12-18" }],
  closures: [{ name: "Thanksgiving", startsOn: "2026-10-12", endsOn: "2026-10-12" }],
};
const meetings = [1, 3, 5].map((weekday) => ({ weekday, starts: "09:05", ends: "09:55" }));

describe("quick choices for a due time", () => {
  const choices = (now: string, times = { meetings, calendar, dayEnds: "15:30" }) =>
    Object.fromEntries(dueChoices(now, times).map((c) => [c.name, c.wall]));
  // Wed 7 Oct to Fri 9 Oct 2026; Monday the 12th is a holiday.
  test.each([
    [
      "2026-10-07T08:00",
      "2026-10-07T09:05",
      "2026-10-07T15:30",
      "2026-10-14T09:05",
      "2026-10-11T20:00",
    ],
    [
      "2026-10-07T09:20",
      "2026-10-09T09:05",
      "2026-10-07T15:30",
      "2026-10-14T09:05",
      "2026-10-11T20:00",
    ],
    [
      "2026-10-09T16:00",
      "2026-10-14T09:05",
      "2026-10-13T15:30",
      "2026-10-16T09:05",
      "2026-10-11T20:00",
    ],
    [
      "2026-10-05T12:00",
      "2026-10-07T09:05",
      "2026-10-05T15:30",
      "2026-10-14T09:05",
      "2026-10-11T20:00",
    ],
    [
      "2026-10-11T20:00",
      "2026-10-14T09:05",
      "2026-10-13T15:30",
      "2026-10-21T09:05",
      "2026-10-18T20:00",
    ],
  ])("at %s", (now, next, end, week, sunday) => {
    expect(choices(now)).toEqual({
      "start of the next lesson": next,
      "end of the school day": end,
      "in one week, same lesson": week,
      "Sunday evening": sunday,
    });
  });
  test("a section without lessons has no choice that needs one, and still a suggestion", () => {
    const bare = { meetings: [], calendar, dayEnds: "15:30" };
    expect(Object.keys(choices("2026-10-07T08:00", bare))).toEqual([
      "end of the school day",
      "Sunday evening",
    ]);
    expect(suggestedDates("2026-10-05T08:00", bare)).toEqual({
      due: "2026-10-13T15:30",
      promised: "2026-10-20T15:30",
    });
  });
});

describe("extra time", () => {
  test.each([
    ["2026-10-09T16:00", 2, "school days", "2026-10-14T16:00"],
    ["2026-10-09T16:00", 1, "days", "2026-10-10T16:00"],
    ["2026-10-31T16:00", 1, "days", "2026-11-01T16:00"],
    ["2026-10-31T16:00", 24, "hours", "2026-11-01T15:00"],
    ["2026-10-11T20:00", 1, "school days", "2026-10-13T20:00"],
  ] as const)("%s + %d %s is %s", (due, amount, unit, found) => {
    expect(withExtraTime(at(due), { amount, unit }, calendar, zone)).toEqual(at(found));
  });
  test("of several groups the latest counts", () => {
    expect(
      dueThroughGroups(
        at("2026-10-09T16:00"),
        [
          { amount: 1, unit: "days" },
          { amount: 2, unit: "school days" },
        ],
        calendar,
        zone,
      ),
    ).toEqual(at("2026-10-14T16:00"));
    expect(dueThroughGroups(at("2026-10-09T16:00"), [], calendar, zone)).toBeNull();
    expect(sayExtraTime({ amount: 1, unit: "school days" })).toBe("+ 1 school day");
  });
});

describe("dates of a copy", () => {
  const term = calendar.terms[0]!;
  const monday: Timetable = {
    meetings: [{ weekday: 1, starts: "09:05", ends: "09:55" }],
    calendar,
    term,
  };
  const tuesday: Timetable = {
    meetings: [{ weekday: 2, starts: "11:00", ends: "11:50" }],
    calendar,
    term,
  };
  const next: Timetable = {
    meetings: [{ weekday: 4, starts: "08:10", ends: "09:00" }],
    calendar: {
      ...calendar,
      terms: [...calendar.terms, { name: "winter", startsOn: "2027-01-05", endsOn: "2027-03-26" }],
    },
    term: { name: "winter", startsOn: "2027-01-05", endsOn: "2027-03-26" },
  };

  test("from the third lesson of its term to the third of the other section", () => {
    // Mondays: 14, 21, 28 September. Tuesdays: 8, 15, 22 September.
    expect(
      moveDates(
        {
          opens: null,
          due: "2026-09-28T09:05",
          closes: "2026-10-05T20:00",
          promised: "2026-10-01T17:00",
        },
        monday,
        tuesday,
        "2026-09-09T08:00",
      ),
    ).toEqual({
      opens: null,
      due: "2026-09-22T11:00",
      closes: "2026-09-29T20:00",
      promised: "2026-09-25T17:00",
    });
  });
  test("to another term, the third Thursday of it; opening keeps its distance in school days", () => {
    expect(
      moveDates(
        { opens: "2026-09-21T08:15", due: "2026-09-28T09:55", closes: null, promised: null },
        monday,
        next,
        "2026-12-20T08:00",
      ),
    ).toEqual({ opens: "2027-01-14T08:15", due: "2027-01-21T09:00", closes: null, promised: null });
  });
  test("not due in a lesson: the nth school day of the term, at the same time of day", () => {
    // 9 October is the 23rd school day after 8 September; 5 January and 23 more is 5 February.
    expect(
      moveDates(
        { opens: null, due: "2026-10-09T16:00", closes: null, promised: null },
        monday,
        next,
        "2026-12-20T08:00",
      ).due,
    ).toBe("2027-02-05T16:00");
  });
  test("a lesson that is over: the next one", () => {
    expect(
      moveDates(
        { opens: "2026-09-21T08:00", due: "2026-09-28T09:05", closes: null, promised: null },
        monday,
        monday,
        "2026-10-07T10:00",
      ),
    ).toMatchObject({ due: "2026-10-19T09:05", opens: "2026-10-09T08:00" });
  });
});

describe("dates of a copy keep what they were meant as", () => {
  const term = calendar.terms[0]!;
  const lessons = (weekday: number, starts: string, ends: string): Timetable => ({
    meetings: [{ weekday, starts, ends }],
    calendar,
    term,
  });
  const [monday, tuesday] = [lessons(1, "09:05", "09:55"), lessons(2, "11:00", "11:50")];
  const dueOf = (due: string, to: Timetable, now: string) =>
    moveDates({ opens: null, due, closes: null, promised: null }, monday, to, now).due;
  test.each([
    // By hand, on a calendar of 2026: 4 October is a Sunday, so is 11 October.
    ["a Sunday evening, in the same term", "2026-10-04T20:00", "2026-10-07T10:00", 0, "20:00"],
    ["a Saturday noon", "2026-10-03T12:00", "2026-10-07T10:00", 6, "12:00"],
    ["a Sunday evening that is still to come", "2026-10-18T20:00", "2026-10-07T10:00", 0, "20:00"],
  ])("%s", (_, due, now, weekday, clock) => {
    const moved = dueOf(due, tuesday, now);
    expect([new Date(`${moved}:00Z`).getUTCDay(), moved.slice(11)]).toEqual([weekday, clock]);
    expect(moved > now).toBe(true);
  });
  test.each([
    ["at its start", "2026-09-28T09:05", "2026-09-22T11:00"],
    ["ten minutes in", "2026-09-28T09:15", "2026-09-22T11:10"],
    ["at its end", "2026-09-28T09:55", "2026-09-22T11:50"],
  ])("in a lesson, %s", (_, due, moved) =>
    expect(dueOf(due, tuesday, "2026-09-09T08:00")).toBe(moved),
  );
  test("never less than a day ahead", () => {
    // An hour before Tuesday's lesson: the one of next week.
    expect(dueOf("2026-09-14T09:05", tuesday, "2026-10-06T10:00")).toBe("2026-10-13T11:00");
    expect(dueOf("2026-09-15T16:00", tuesday, "2026-10-06T15:00")).toBe("2026-10-07T16:00");
    expect(dueOf("2026-09-15T14:00", tuesday, "2026-10-06T15:00")).toBe("2026-10-08T14:00");
  });
});

describe("who gets it", () => {
  const member = (
    studentId: string,
    joinedOn: string,
    leftOn: string | null = null,
    groups: string[] = [],
  ) => ({ studentId, joinedOn, leftOn, groups });
  const members = [
    member("a", "2026-09-08", null, ["g"]),
    member("joined", "2026-10-12"),
    member("left", "2026-09-08", "2026-10-09"),
    member("leaves", "2026-09-08", "2026-10-20"),
  ];
  test("whole section, groups, chosen students; those who left before it is due owe nothing", () => {
    expect(studentsFor({ kind: "section" }, members, "2026-10-13", "2026-10-16")).toEqual([
      "a",
      "joined",
      "leaves",
    ]);
    expect(studentsFor({ kind: "section" }, members, "2026-10-13", "2026-10-20")).toEqual([
      "a",
      "joined",
    ]);
    expect(
      studentsFor(
        { kind: "chosen", groups: ["g"], students: ["leaves"] },
        members,
        "2026-10-13",
        "2026-10-16",
      ),
    ).toEqual(["a", "leaves"]);
  });
  test("who joins owes what is due from that day on", () => {
    expect([
      owes(members[1]!, "2026-10-12", "2026-10-09"),
      owes(members[1]!, "2026-10-12", "2026-10-12"),
    ]).toEqual([false, true]);
  });
});

describe("checked as it is typed", () => {
  const form = {
    now: "2026-10-07T09:41",
    zone,
    calendar,
    sections: [
      {
        id: "s",
        name: "Gannet",
        course: "c",
        late: { kind: "flag" as const },
        categories: [],
        meetings,
        students: [
          { id: "a", name: "A" },
          { id: "b", name: "B" },
        ],
        groups: [{ id: "g", name: "G", members: ["b"], extra: null }],
      },
    ],
    dueDays: { a: ["2026-10-16", "2026-10-16"], b: ["2026-10-16"] },
  };
  const row = {
    sectionId: "s",
    opens: null,
    due: "2026-10-16T16:00",
    closes: null,
    promised: null,
    audience: { kind: "section" as const },
    exceptions: [],
  };
  test("in order, with the load of that day", () => {
    expect(checkRow(row, form)).toMatchObject({
      faults: {},
      notes: [],
      load: "1 student already has two things due on that day.",
      students: ["a", "b"],
      onlyPast: false,
    });
    expect(
      checkRow({ ...row, audience: { kind: "chosen", groups: ["g"], students: [] } }, form),
    ).toMatchObject({ load: "1 student already has one thing due on that day.", students: ["b"] });
  });
  test("opens ≤ due ≤ closes, due ≤ promised", () => {
    expect(
      checkRow(
        {
          ...row,
          opens: "2026-10-17T08:00",
          closes: "2026-10-15T08:00",
          promised: "2026-10-14T08:00",
        },
        form,
      ).faults,
    ).toEqual({
      due: "It would be due before it opens.",
      closes: "It would close before it is due.",
      promised: "It cannot be promised back before it is due.",
    });
  });
  test("the past is a fault unless it is meant; a day without school is only said", () => {
    const past = { ...row, due: "2026-10-05T16:00" };
    expect(checkRow(past, form)).toMatchObject({
      faults: { due: "The due time is in the past." },
      onlyPast: true,
    });
    expect(checkRow(past, form, { pastIsMeant: true }).faults).toEqual({});
    expect(checkRow({ ...row, due: "2026-10-12T16:00" }, form).notes).toEqual([
      { field: "due", words: "Mon 12 Oct is not a school day (Thanksgiving)." },
    ]);
    expect(checkRow({ ...row, due: "nonsense" }, form).faults).toEqual({
      due: "Say when it is due.",
    });
  });
  // RFC 5545, section 3.3.5: a time that does not exist is read with the offset before the gap, one that comes twice is the first.
  test("an hour that the clocks skip or repeat is said", () => {
    expect(sayOddHour("2026-03-08T02:30", zone)).toBe(
      "02:30 does not exist that night: the clocks go forward. It means 03:30.",
    );
    expect(sayOddHour("2026-11-01T01:30", zone)).toBe(
      "01:30 comes twice that night: the clocks go back. It means the first of the two.",
    );
    expect(
      notesOnDates(
        { opens: null, due: "2026-11-01T01:30", closes: null, promised: null },
        PLAIN_CALENDAR,
        zone,
        "2026-10-07",
      ),
    ).toHaveLength(2);
  });
  test("many students, many things", () => {
    const days = new Map(
      Array.from({ length: 11 }, (_, n) => [`s${n}`, ["2026-10-16", "2026-10-16"]] as const),
    );
    expect(sayLoad([...days.keys()], days, "2026-10-16")).toBe(
      "11 students already have two things due on that day.",
    );
    days.set("s0", ["2026-10-16", "2026-10-16", "2026-10-16"] as never);
    expect(sayLoad([...days.keys()], days, "2026-10-16")).toBe(
      "11 students already have two things or more due on that day.",
    );
    expect(sayLoad(["x"], days, "2026-10-16")).toBeNull();
  });
});

describe("a change after handing out", () => {
  const facts: HandOutFacts = {
    title: "Letter",
    opensAt: at("2026-10-01T08:00"),
    dueAt: at("2026-10-09T16:00"),
    closesAt: null,
    promisedAt: null,
    graceMinutes: 10,
    task: "a",
    counting: "points",
  };
  const touched = { students: 24, ownDue: 2, begun: 5, handedIn: 1 };
  const now = at("2026-10-07T09:00");
  test("says whom it touches, and tells students of what they act on", () => {
    const { words, notice } = describeChange(
      facts,
      { ...facts, dueAt: at("2026-10-13T16:00"), graceMinutes: 0 },
      touched,
      { now, zone },
    );
    expect(words).toEqual([
      "Due: Fri 9 Oct, 16:00 → Tue 13 Oct, 16:00, for 24 students; 2 with a due time of their own keep it; 1 has handed in, and lateness is counted anew",
      "Grace: 10 → 0 min",
    ]);
    expect(notice).toBe("Changed: due Tue 13 Oct, 16:00 (it was Fri 9 Oct, 16:00).");
  });
  describe("to a student with times of their own", () => {
    const own = at("2026-10-12T16:00");
    const later = { ...facts, dueAt: at("2026-10-13T16:00") };
    const clock = { now, zone };
    test.each([
      ["the class's due time moves, theirs stays", later, { before: own, after: own }, null],
      [
        "theirs moves with it",
        later,
        { before: own, after: at("2026-10-16T16:00") },
        "Changed: due Fri 16 Oct, 16:00 (it was Mon 12 Oct, 16:00).",
      ],
      [
        "it closes for the class before theirs is over",
        { ...facts, closesAt: at("2026-10-10T16:00") },
        { before: own, after: own },
        "Changed: closes Mon 12 Oct, 16:10.",
      ],
      [
        "the task changes too",
        { ...later, task: "b" },
        { before: own, after: own },
        "Changed: the task was changed.",
      ],
    ])("%s", (_, after, times, said) => {
      expect(noticeFor(facts, after, { ...times, revising: false }, clock)).toBe(said);
    });
    test("who revises has the due time of the revision, whatever the first one becomes", () => {
      const times = { before: null, after: null, revising: true };
      expect(noticeFor(facts, { ...later, closesAt: later.dueAt }, times, clock)).toBeNull();
      expect(noticeFor(facts, { ...later, task: "b" }, times, clock)).toContain("the task");
    });
  });
  test("how it counts and when it is promised are the teacher's to tell", () => {
    expect(
      describeChange(
        facts,
        { ...facts, counting: "letters", promisedAt: at("2026-10-20T16:00") },
        touched,
        { now, zone },
      ),
    ).toMatchObject({
      notice: null,
      words: ["Promised back: no date → Tue 20 Oct, 16:00", "How it counts: points → letters"],
    });
    expect(describeChange(facts, facts, touched, { now, zone })).toEqual({
      words: [],
      notice: null,
    });
  });
  test("the task and its name", () => {
    expect(
      describeChange(facts, { ...facts, task: "b", title: "A letter" }, touched, { now, zone })
        .notice,
    ).toBe("Changed: it is now called “A letter”; the task was changed.");
    expect(sayTitle({ title: "Clouds", number: 3, emoji: "☁️" })).toBe("☁ 3 · Clouds");
  });
});
