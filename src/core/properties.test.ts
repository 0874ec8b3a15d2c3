import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import { readCalendarFile } from "./formats/calendar/calendarFile";
import { decodeText, parseTable, writeTable } from "./formats/table";
import { studentsFor } from "./handouts/audience";
import { dueChoices } from "./handouts/dueChoices";
import { withExtraTime } from "./handouts/extraTime";
import { moveDates, type Timetable } from "./handouts/moveDates";
import { readOneRoster } from "./roster/oneRoster";
import { writeOneRoster } from "./roster/writeOneRoster";
import { planRoster } from "./roster/planRoster";
import { readPlainRoster } from "./roster/plainRoster";
import type { Roster } from "./roster/roster";
import { readRubric, rubricTable } from "./rubrics/readRubric";
import { carryPicks, possibleOf, scoreOf, type Rubric } from "./rubrics/rubric";
import { readScore, sayPoints, type ScoreKind } from "./scores/scales";
import { readRichDoc } from "./text/richDoc";
import { isSchoolDay, PLAIN_CALENDAR, type SchoolCalendar } from "./time/term";
import { addDays, dayOf, wallToInstant } from "./time/zone";

/** What holds whatever comes in: drawn at random, many times. */
const zone = "America/Halifax";
const day = fc.integer({ min: 0, max: 250 }).map((n) => addDays("2026-09-01", n));
const clock = fc
  .tuple(fc.integer({ min: 7, max: 20 }), fc.integer({ min: 0, max: 59 }))
  .map(([h, m]) => `${String(h).padStart(2, "0")}:${String(m).padStart(2, "0")}`);
const wall = fc.tuple(day, clock).map(([d, c]) => `${d}T${c}`);
const closures = fc.array(
  fc
    .tuple(day, fc.integer({ min: 0, max: 9 }))
    .map(([startsOn, n]) => ({ name: "closed", startsOn, endsOn: addDays(startsOn, n) })),
  { maxLength: 6 },
);
const calendar: fc.Arbitrary<SchoolCalendar> = closures.map((list) => ({
  ...PLAIN_CALENDAR,
  closures: list,
}));
const meetings = fc.array(
  fc.tuple(fc.integer({ min: 1, max: 5 }), fc.integer({ min: 8, max: 14 })).map(([weekday, h]) => ({
    weekday,
    starts: `${String(h).padStart(2, "0")}:05`,
    ends: `${String(h).padStart(2, "0")}:55`,
  })),
  { minLength: 1, maxLength: 5 },
);

describe("dates", () => {
  test("every quick choice lies ahead, and every one but Sunday evening on a school day", () => {
    fc.assert(
      fc.property(wall, meetings, calendar, (now, meets, cal) => {
        const choices = dueChoices(now, { meetings: meets, calendar: cal, dayEnds: "15:30" });
        return choices.every(
          (c) =>
            c.wall > now && (c.name === "Sunday evening" || isSchoolDay(c.wall.slice(0, 10), cal)),
        );
      }),
    );
  });
  test("extra time never takes time away, and more gives no less", () => {
    fc.assert(
      fc.property(
        wall,
        calendar,
        fc.integer({ min: 1, max: 20 }),
        fc.integer({ min: 0, max: 10 }),
        fc.constantFrom("school days" as const, "days" as const, "hours" as const),
        (due, cal, amount, more, unit) => {
          const at = wallToInstant(due, zone).at;
          const [less, later] = [
            withExtraTime(at, { amount, unit }, cal, zone),
            withExtraTime(at, { amount: amount + more, unit }, cal, zone),
          ];
          return (
            less > at &&
            later >= less &&
            (unit !== "school days" || isSchoolDay(dayOf(less, zone), cal))
          );
        },
      ),
    );
  });
  test("a copy lies ahead and in order, wherever it goes", () => {
    const term = { name: "autumn", startsOn: "2026-09-08", endsOn: "2026-12-18" };
    const next = { name: "winter", startsOn: "2027-01-05", endsOn: "2027-03-26" };
    fc.assert(
      fc.property(
        wall,
        meetings,
        meetings,
        calendar,
        fc.integer({ min: 0, max: 8 }),
        fc.integer({ min: 0, max: 8 }),
        fc.boolean(),
        (due, from, to, cal, before, after, later) => {
          fc.pre(due.slice(0, 10) >= term.startsOn && due.slice(0, 10) <= term.endsOn);
          const source: Timetable = { meetings: from, calendar: cal, term };
          const target: Timetable = {
            meetings: to,
            calendar: { ...cal, terms: [term, next] },
            term: later ? next : term,
          };
          const now = "2026-10-07T10:00";
          const moved = moveDates(
            {
              opens: `${addDays(due.slice(0, 10), -before)}T08:00`,
              due,
              closes: `${addDays(due.slice(0, 10), after)}T23:00`,
              promised: `${addDays(due.slice(0, 10), after + 1)}T17:00`,
            },
            source,
            target,
            now,
          );
          return (
            moved.due > addDays(now.slice(0, 10), 1) + now.slice(10) &&
            (moved.opens === null || (moved.opens <= moved.due && moved.opens > now)) &&
            moved.closes! >= moved.due &&
            moved.promised! >= moved.due
          );
        },
      ),
    );
  });
  test("whoever gets something that was chosen would get it with the whole section too", () => {
    const member = fc.record({
      studentId: fc.uuid(),
      joinedOn: day,
      leftOn: fc.option(day, { nil: null }),
      groups: fc.subarray(["g", "h"]),
    });
    fc.assert(
      fc.property(
        fc.array(member, { maxLength: 12 }),
        day,
        day,
        fc.subarray(["g", "h"]),
        (members, today, due, groups) => {
          const all = new Set(studentsFor({ kind: "section" }, members, today, due));
          return studentsFor(
            { kind: "chosen", groups, students: members.slice(0, 2).map((m) => m.studentId) },
            members,
            today,
            due,
          ).every((id) => all.has(id));
        },
      ),
    );
  });
});

describe("formats", () => {
  const cell = fc.string({ maxLength: 12 }).map((text) => text.replace(/[\u0000\r\uFEFF]/g, ""));
  test("a table that is written is read back", () => {
    const table = fc.integer({ min: 2, max: 5 }).chain((width) =>
      fc.array(
        fc
          .array(cell, { minLength: width, maxLength: width })
          .filter((row) => row.some((c) => c.trim() !== "")),
        { minLength: 1, maxLength: 8 },
      ),
    );
    fc.assert(
      fc.property(table, (rows) => {
        // The first row decides the separator; it holds none of its own here.
        const whole = [rows[0]!.map((_, n) => `head${n}`), ...rows];
        expect(parseTable(writeTable(whole)).rows.map((r) => r.cells)).toEqual(whole);
      }),
    );
  });
  test("any bytes become text or a fault, never an error", () => {
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 200 }), (bytes) => {
        const found = decodeText(bytes);
        return "fault" in found || !found.text.includes("\u0000");
      }),
    );
  });
  test("no text makes the calendar reader throw or lose the window", () => {
    const line = fc.constantFrom(
      "BEGIN:VCALENDAR",
      "END:VCALENDAR",
      "BEGIN:VEVENT",
      "END:VEVENT",
      "DTSTART;VALUE=DATE:20261009",
      "DTSTART:20261009T100000Z",
      "DTEND;VALUE=DATE:20261001",
      "RRULE:FREQ=WEEKLY",
      "RRULE:FREQ=NONSENSE",
      "EXDATE:20261009",
      "UID:x",
      "SUMMARY:y",
      "DURATION:-P1D",
      "DTSTART;TZID=Nowhere:20261009T100000",
      "RECURRENCE-ID:20261009",
      "X-NOISE",
    );
    fc.assert(
      fc.property(fc.array(line, { maxLength: 14 }), (lines) => {
        const { entries } = readCalendarFile(
          ["BEGIN:VCALENDAR", ...lines, "END:VCALENDAR"].join("\r\n"),
          { from: "2026-09-01", to: "2026-12-31" },
          zone,
        );
        return entries.every(
          (e) => e.endsOn >= "2026-09-01" && e.startsOn <= "2026-12-31" && e.startsOn <= e.endsOn,
        );
      }),
      { numRuns: 300 },
    );
  });
  test("pictures stand in instructions only, and only as uploads", () => {
    const picture = (upload: unknown) => ({
      type: "doc",
      content: [{ type: "picture", attrs: { upload, alt: "a", onerror: "alert(1)" } }],
    });
    const id = "0190a0b0-1111-7222-8333-444455556666";
    expect(readRichDoc(picture(id), "task")).toEqual({
      type: "doc",
      content: [{ type: "picture", attrs: { upload: id, alt: "a" } }],
    });
    expect(() => readRichDoc(picture(id))).toThrow("cannot keep (picture)");
    for (const wrong of ["https://elsewhere.example/x.png", "../x", null, 1])
      expect(() => readRichDoc(picture(wrong), "task")).toThrow("was not uploaded");
  });
});

describe("rosters", () => {
  const roster: fc.Arbitrary<Roster> = fc
    .record({
      students: fc.integer({ min: 1, max: 12 }),
      sections: fc.integer({ min: 1, max: 4 }),
      seed: fc.array(fc.nat(), { minLength: 40, maxLength: 40 }),
    })
    .map(({ students, sections, seed }) => {
      const person = (ref: string, kind: "student" | "teacher") => ({
        ref,
        sourceId: ref,
        kind,
        name: `${ref} Last`,
        called: ref,
        sortName: `Last, ${ref}`,
        email: `${ref}@x.example`,
        schoolName: ref,
      });
      const refs = Array.from({ length: students }, (_, n) => `s${n}`);
      return {
        terms: [
          { ref: "t", sourceId: "t", name: "autumn", startsOn: "2026-09-08", endsOn: "2026-12-18" },
        ],
        people: [person("teach", "teacher"), ...refs.map((ref) => person(ref, "student"))],
        sections: Array.from({ length: sections }, (_, n) => ({
          ref: `c${n}`,
          sourceId: `c${n}`,
          name: `C ${n}`,
          course: "Course",
          courseSourceId: "k",
          termRef: "t",
        })),
        teachers: Array.from({ length: sections }, (_, n) => ({
          sectionRef: `c${n}`,
          personRef: "teach",
          owner: true,
        })),
        enrolments: refs.flatMap((personRef, n) =>
          Array.from({ length: sections }, (_, k) => k)
            .filter((k) => seed[(n * 3 + k) % 40]! % 2 === 0)
            .map((k) => ({ sectionRef: `c${k}`, personRef, joinedOn: "2026-09-08", leftOn: null })),
        ),
        guardians: [],
        complete: true,
      };
    });
  const nobody = {
    terms: [],
    people: [],
    sections: [],
    teachers: [],
    enrolments: [],
    guardians: [],
  };
  test("out and in is the same, and all of it is new to an empty school", () => {
    fc.assert(
      fc.property(roster, (given) => {
        const { roster: back, problems } = readOneRoster(
          writeOneRoster(given, { id: "o", name: "S" }, "2026"),
        );
        expect(problems).toEqual([]);
        expect(back).toEqual(given);
        const { counts } = planRoster(back, nobody, "2026-10-07");
        expect([counts.people.new, counts.sections.new, counts.enrolments.new]).toEqual([
          given.people.length,
          given.sections.length,
          given.enrolments.length,
        ]);
      }),
      { numRuns: 40 },
    );
  });
  test("a cell that is spoilt anywhere is a problem or still a whole roster, never an error or a loose end", () => {
    fc.assert(
      fc.property(
        roster,
        fc.constantFrom(
          "orgs.csv",
          "academicSessions.csv",
          "courses.csv",
          "classes.csv",
          "users.csv",
          "roles.csv",
          "enrollments.csv",
          "manifest.csv",
        ),
        fc.nat(),
        fc.constantFrom("", "x", '"', ",,,", "2026-99-99", "tobedeleted", "c0", "s0"),
        (given, file, where, what) => {
          const texts = writeOneRoster(given, { id: "o", name: "S" }, "2026");
          const cells = texts.get(file)!.split(/([,\r\n]+)/);
          cells[(where % Math.ceil(cells.length / 2)) * 2] = what;
          const { roster: read } = readOneRoster(new Map(texts).set(file, cells.join("")));
          const people = new Set(read.people.map((p) => p.ref));
          const sections = new Set(read.sections.map((s) => s.ref));
          return read.enrolments.every(
            (e) => people.has(e.personRef) && sections.has(e.sectionRef),
          );
        },
      ),
      { numRuns: 200 },
    );
  });
  test("a plain table of any text is read or refused by row, never an error", () => {
    fc.assert(
      fc.property(
        fc.array(fc.array(fc.string({ maxLength: 10 }), { maxLength: 5 }), { maxLength: 6 }),
        (rows) => {
          const { roster: read, problems } = readPlainRoster(
            rows.map((r) => r.join(";")).join("\n"),
            { file: "f", sections: [{ ref: "g", name: "Gannet", course: "c" }], complete: false },
          );
          return (
            read.enrolments.every((e) => e.sectionRef === "g") &&
            problems.every((p) => p.words.length > 0)
          );
        },
      ),
    );
  });
});

describe("scores", () => {
  const rubric: fc.Arbitrary<Rubric> = fc
    .array(fc.array(fc.integer({ min: 0, max: 20 }), { minLength: 1, maxLength: 5 }), {
      minLength: 1,
      maxLength: 6,
    })
    .map((criteria) => ({
      criteria: criteria.map((levels, c) => ({
        id: `c${c}`,
        name: `Criterion ${c}`,
        note: "",
        weight: String(1 + (c % 3)),
        levels: levels.map((points, l) => ({
          id: `l${c}.${l}`,
          name: `Level ${l}`,
          points: String(points),
          most: null,
          descriptor: `d ${c} ${l}`,
        })),
      })),
    }));
  test("a rubric's score lies between nothing and all, and the best levels earn all", () => {
    fc.assert(
      fc.property(rubric, fc.nat(), (given, draw) => {
        fc.pre(Number(possibleOf(given)) > 0);
        const pick = (
          choose: (c: Rubric["criteria"][number]) => Rubric["criteria"][number]["levels"][number],
        ) =>
          Object.fromEntries(
            given.criteria.map((c) => [c.id, { levelId: choose(c).id, points: choose(c).points }]),
          );
        const some = Number(
          scoreOf(
            given,
            pick((c) => c.levels[draw % c.levels.length]!),
            "50",
          ),
        );
        const best = scoreOf(
          given,
          pick((c) => [...c.levels].sort((a, b) => Number(b.points) - Number(a.points))[0]!),
          "50",
        );
        return some >= 0 && some <= 50 && best === "50";
      }),
    );
  });
  test("a rubric survives its own table, and its choices survive the rubric itself", () => {
    let n = 0;
    fc.assert(
      fc.property(rubric, (given) => {
        const back = readRubric(writeTable(rubricTable(given)), () => `n${(n += 1)}`);
        const shape = (r: Rubric) =>
          r.criteria.map((c) => [
            c.name,
            c.weight,
            c.levels.filter((l) => l.descriptor).map((l) => [l.points, l.descriptor]),
          ]);
        expect(back.leftOver).toEqual([]);
        expect(shape(back.rubric)).toEqual(shape(given));
        const picks = Object.fromEntries(
          given.criteria.map((c) => [
            c.id,
            { levelId: c.levels[0]!.id, points: c.levels[0]!.points },
          ]),
        );
        expect(carryPicks(picks, given)).toEqual({ kept: picks, lost: 0 });
      }),
      { numRuns: 60 },
    );
  });
  test("what a scale shows is understood again as at most what it was", () => {
    fc.assert(
      fc.property(
        fc.nat(2000),
        fc.constantFrom<ScoreKind>("letters", "levels", "percent"),
        (raw, kind) => {
          const points = String(raw / 100);
          const shown = sayPoints(points, { kind, possible: "20" });
          const read = readScore(shown.replace(" ", ""), { kind, possible: "20" });
          const again = readScore(shown, { kind, possible: "20" });
          const found = again.ok ? again : read;
          return found.ok && Number(found.points) <= raw / 100 + (kind === "percent" ? 0.011 : 0);
        },
      ),
    );
  });
});
