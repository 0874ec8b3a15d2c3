import { afterAll, beforeAll, describe, expect, test } from "@jest/globals";
import type { Person, ReadCall } from "../../src/server/call";
import { deskPiece } from "../../src/server/marking/desk/deskPiece";
import { newPlan } from "../../src/server/handouts/drafts";
import { readCalendar } from "../../src/server/calendar/calendar";
import { isSchoolDay } from "../../src/core/time/term";
import { QUEUE_PILES, queueView } from "../../src/server/overview/queue";
import { mastheadView, officeView, ribbonView } from "../../src/server/overview/school";
import { ledgerView } from "../../src/server/ledger/view";
import { sectionList, sectionView } from "../../src/server/overview/sections";
import { handOutSheet } from "../../src/server/overview/sheet";
import { todayView } from "../../src/server/overview/today";
import { weekView } from "../../src/server/weekSheet/week";
import { workView } from "../../src/server/overview/work";
import { pieceView } from "../../src/server/pieces/pieceView";
import { wordLikeness } from "@/core/text/aligning/alignWords";
import { tokens } from "../../src/core/text/tokens";
import { weekdayOf } from "../../src/core/time/zone";
import { testDatabase, type TestDatabase } from "../support/database";

/** The lists, on the demo's unevenness: every one counts the same pieces, each person sees their own. */
let database: TestDatabase;
const now = new Date();
/** By name for those who stand in the tests; two students share a name, so all are kept apart in `everyone`. */
const people = new Map<string, Person>();
let everyone: Person[];
const as = (name: string): ReadCall => ({ db: database.sql, who: people.get(name)!, now });
let sections: Map<string, string>;

beforeAll(async () => {
  database = await testDatabase("almanac_demo");
  everyone = await database.sql<
    Person[]
  >`select person.id, kind, person.name, called, school_id, time_zone as zone from person join school on school.id = school_id order by person.id`;
  for (const person of everyone) people.set(person.name, person);
  sections = new Map(
    (await database.sql<{ name: string; id: string }[]>`select name, id from section`).map((s) => [
      s.name,
      s.id,
    ]),
  );
});
afterAll(() => database?.drop());

const ODALYS = "Odalys Brandt";

describe("Today and the Desk's queue", () => {
  test("every pile leads to a queue of just its pieces", async () => {
    const today = await todayView(as(ODALYS));
    for (const pile of today.piles) {
      const queue = await queueView(as(ODALYS), { handOutId: null, pile: pile.kind });
      expect({ pile: pile.kind, count: queue.length }).toEqual({
        pile: pile.kind,
        count: pile.count,
      });
    }
    // The same line by line, and the lines add up to the piles.
    const onLines = ["new", "again", "late", "drafted", "questions"] as const;
    for (const pile of onLines) {
      for (const { handOutId, counts } of today.lines)
        expect(await queueView(as(ODALYS), { handOutId, pile })).toHaveLength(counts[pile]);
      const sum = today.lines.reduce((all, line) => all + line.counts[pile], 0);
      expect({ pile, sum }).toEqual({
        pile,
        sum: today.piles.find(({ kind }) => kind === pile)!.count,
      });
    }
  });
  test("the piles of what is in are together all that waits", async () => {
    const { piles } = await todayView(as(ODALYS));
    const waiting = await queueView(as(ODALYS), { handOutId: null, pile: "waiting" });
    const count = (kind: string) => piles.find((p) => p.kind === kind)!.count;
    const draftedAndIn = (await queueView(as(ODALYS), { handOutId: null, pile: "drafted" })).filter(
      (q) => q.moon.state === "handed_in",
    ).length;
    expect(waiting).toHaveLength(count("new") + count("again") + count("late") + draftedAndIn);
  });
  test("rework comes first in the queue, then what came in first", async () => {
    const queue = await queueView(as(ODALYS), { handOutId: null, pile: "waiting" });
    const rounds = queue.map((item) => (item.moon.round > 1 ? 0 : 1));
    expect([...rounds].sort()).toEqual(rounds);
  });
  test("a line says what of a promise is still owed, and how long reading takes at one's own pace", async () => {
    const { lines } = await todayView(as(ODALYS));
    expect(lines.some((line) => line.broken)).toBe(true);
    // Broken promises come before all others.
    const broken = lines.map((line) => (line.broken ? 0 : 1));
    expect([...broken].sort()).toEqual(broken);
    for (const { counts, promised, minutes } of lines) {
      if (promised) expect(counts.new + counts.late + counts.drafted).toBeGreaterThan(0);
      if (minutes !== null) expect(counts.new + counts.again + counts.late).toBeGreaterThan(0);
    }
    expect((await todayView(as("Imke Solheim"))).lines.every((l) => l.section === "Fulmar")).toBe(
      true,
    );
  });
  test("a co-teacher sees the shared section only, another teacher none of it", async () => {
    expect(
      new Set((await todayView(as("Ruben Achterberg"))).handOuts.map((h) => h.section)),
    ).toEqual(new Set(["Gannet"]));
    for (const pile of QUEUE_PILES)
      for (const item of await queueView(as("Imke Solheim"), { handOutId: null, pile }))
        expect(item.section).toBe("Fulmar");
  });
  test("counts of a hand-out add up to its pieces", async () => {
    for (const { counts } of (await todayView(as(ODALYS))).handOuts)
      expect(counts.in + counts.started + counts.notOpened + counts.back + counts.revise).toBe(
        counts.of,
      );
  });
});

describe("the ribbon and the masthead", () => {
  test("36 days with today among them, weekends without school, and no two lines over one another", async () => {
    const short = (await ribbonView(as(ODALYS))).days;
    expect([short.length, weekdayOf(short[0]!.day), weekdayOf(short[13]!.day)]).toEqual([14, 1, 7]);
    expect(short.slice(0, 7).filter((day) => day.today)).toHaveLength(1);
    const ribbon = await ribbonView(as(ODALYS), { long: true });
    expect(ribbon.days).toHaveLength(36);
    expect(ribbon.days.filter((day) => day.today)).toHaveLength(1);
    for (const day of ribbon.days) if (weekdayOf(day.day) > 5) expect(day.closed).not.toBeNull();
    expect(ribbon.lanes.map((lane) => lane.section)).toEqual([
      "Gannet",
      "Plover",
      "Curlew",
      "Petrel",
    ]);
    for (const { lines } of ribbon.lanes) {
      const end = (line: (typeof lines)[number]) =>
        Math.max(line.due, line.closes ?? 0, line.promised ?? 0);
      for (const a of lines)
        for (const b of lines)
          if (a !== b && a.row === b.row)
            expect(Math.max(0, a.from) > end(b) || Math.max(0, b.from) > end(a)).toBe(true);
    }
  });
  test("the date as an almanac writes it, and the teaching week", async () => {
    expect(await mastheadView(as(ODALYS))).toMatchObject({
      day: expect.stringMatching(/^\w+day, \d{1,2} \w+ \d{4}$/),
      week: expect.stringMatching(/term/),
      school: "Tern Island School",
    });
  });
});

describe("sections, sheet and Ledger", () => {
  test("a section's board has a line for each student; the office sees people and no work", async () => {
    const board = await sectionView(as(ODALYS), sections.get("Gannet")!);
    expect(board.roster).toHaveLength(26);
    expect(board.roster[0]!.moons).toHaveLength(board.handOuts.length);
    const office = await sectionView(as("Pell Okonjo"), sections.get("Gannet")!);
    expect(office.roster).toHaveLength(26);
    expect(office).toMatchObject({ handOuts: [], mayHandOut: false });
    expect((await sectionList(as(ODALYS))).map((s) => s.students)).toEqual([26, 24, 22, 19]);
  });
  test("names are in the order of rosters, whatever their accents, and both of one name are there", async () => {
    const names = [...sections.values()].map((id) =>
      sectionView({ ...as(ODALYS), who: people.get(ODALYS)! }, id).catch(() => null),
    );
    const all = (await Promise.all(names)).flatMap(
      (view) => view?.roster.map((line) => line.name) ?? [],
    );
    expect(all).toContain("Sigrún");
    expect(new Set(all).size).toBeGreaterThanOrEqual(all.length - 1);
  });
  test("the Ledger shows the newest score that was handed back, the sheet the same", async () => {
    const ledger = await ledgerView(as(ODALYS), sections.get("Curlew")!);
    for (const [n, column] of ledger.columns.entries()) {
      const sheet = await handOutSheet(as(ODALYS), column.handOutId);
      for (const row of ledger.rows) {
        const cell = row.cells[n];
        const line = sheet.lines.find((l) => l.pieceId === cell?.pieceId);
        expect(line?.score?.split(" / ")[0] ?? null).toBe(cell?.score ?? null);
        expect(line?.moon).toEqual(cell?.moon);
      }
    }
  });
  test("dates that are suggested are school days, a week apart", async () => {
    const { rows } = await newPlan(as(ODALYS), [...sections.values()]);
    const { calendar } = await readCalendar(database.sql, people.get(ODALYS)!.schoolId);
    expect(rows).toHaveLength(5);
    for (const { due, promised } of rows) {
      for (const wall of [due, promised!])
        expect(isSchoolDay(wall.slice(0, 10), calendar)).toBe(true);
      expect(promised! > due).toBe(true);
    }
  });
});

describe("the student's and the guardian's side", () => {
  test("every student's My work holds each open piece once, what needs its student first of all", async () => {
    for (const who of everyone.filter((p) => p.kind === "student")) {
      const view = await workView({ db: database.sql, who, now });
      const listed = [
        ...view.needsYou,
        ...view.dueByDay.flatMap((d) => d.items),
        ...view.waiting,
        ...view.finished,
      ].map((item) => item.pieceId);
      const own = await database.sql<
        { id: string }[]
      >`select id from piece_standing where student_id = ${who.id} and opens_at <= ${now}`;
      expect([...listed].sort()).toEqual(own.map((p) => p.id).sort());
      const revised = ["to_revise", "reworking"];
      expect(view.needsYou.every(({ moon }) => revised.includes(moon.state) || moon.missing)).toBe(
        true,
      );
      // What is missing stands nowhere else as long as it can be handed in.
      const open = await database.sql<{ id: string }[]>`
        select id from piece_standing
        where student_id = ${who.id} and opens_at <= ${now} and awaited and last_moment < ${now} and (closes_at is null or closes_at > ${now})`;
      const needed = view.needsYou.map((item) => item.pieceId);
      expect(needed).toEqual(expect.arrayContaining(open.map((p) => p.id)));
    }
  });
  test("open requests on My work, on the piece and on the teacher's sheet are the same number", async () => {
    const rows = await database.sql<
      { id: string; studentId: string; handOutId: string; name: string }[]
    >`
      select piece.id, student_id, hand_out_id, person.name from piece join person on person.id = student_id
      join hand_out on hand_out.id = hand_out_id join section_teacher on section_teacher.section_id = hand_out.section_id and section_teacher.person_id = ${people.get(ODALYS)!.id}
      where state in ('to_revise', 'reworking') order by piece.id`;
    expect(rows.length).toBeGreaterThan(3);
    for (const row of rows) {
      const call = { db: database.sql, who: everyone.find((p) => p.id === row.studentId)!, now };
      const [work, piece, sheet] = [
        await workView(call),
        await pieceView(call, row.id),
        await handOutSheet(as(ODALYS), row.handOutId),
      ];
      const onSheet = sheet.lines.find((line) => line.pieceId === row.id)!.openRequests;
      expect([
        work.needsYou.find((i) => i.pieceId === row.id)!.openRequests,
        piece.openRequests,
      ]).toEqual([onSheet, onSheet]);
      expect(piece.marks.filter((m) => m.request === "open")).toHaveLength(onSheet);
    }
  });
  test("marks on every piece of the demo stand on the words they were made on, or are said to be gone", async () => {
    const rows = await database.sql<
      { id: string }[]
    >`select id from piece where round > 1 and state = 'handed_in'`;
    for (const { id } of rows) {
      const [teacher] = await database.sql<
        { name: string }[]
      >`select person.name from piece join hand_out on hand_out.id = hand_out_id join section_teacher using (section_id) join person on person.id = person_id where piece.id = ${id} and role = 'owner'`;
      const desk = await deskPiece(as(teacher!.name), id);
      const [version] = await database.sql<
        { text: string }[]
      >`select text from version where id = ${desk.versionId}`;
      for (const mark of desk.earlier.filter((m) => m.at !== null && m.quote.length > 3)) {
        // A word that was mended in between counts: "habour" is "harbour".
        const place = tokens(version!.text.slice(mark.at!.start, mark.at!.end));
        const shared = tokens(mark.quote).filter((word) =>
          place.some((other) => wordLikeness(word.text, other.text) >= 0.65),
        );
        expect({
          quote: mark.quote,
          found: place.map((t) => t.text).join(" "),
          shared: shared.length > 0,
        }).toMatchObject({ shared: true });
      }
    }
  });
  test("a guardian sees each child's dates, states and the scores that were told, and no text or feedback", async () => {
    const { children } = await weekView(as("Bríd Ní Bhriain"));
    expect(children).toHaveLength(2);
    expect(
      Object.keys(
        children[0]!.lines[0] ?? {
          title: 0,
          section: 0,
          due: 0,
          state: 0,
          moon: 0,
          score: 0,
          back: 0,
        },
      ).sort(),
    ).toEqual(["back", "due", "moon", "score", "section", "state", "title"]);
  });
  test("the office sees numbers and what happened, and no student's writing", async () => {
    const office = await officeView(as("Pell Okonjo"));
    expect(office.sections).toHaveLength(5);
    const [message] = await database.sql<
      { body: string }[]
    >`select body from message where length(body) > 12 order by id limit 1`;
    expect(JSON.stringify(office)).not.toContain(message!.body);
  });
});
