import { afterAll, beforeAll, describe, expect, test } from "@jest/globals";
import type { Call, Person } from "../../src/server/call";
import type { Plan, PlanRow } from "../../src/core/handouts/plan";
import { wallToInstant } from "../../src/core/time/zone";
import { Conflict, Invalid, NotFound, Refused } from "../../src/core/refusals";
import { makeGroup, setMember } from "../../src/server/classes/members";
import { setCounting, setMeetings } from "../../src/server/classes/changeSetUp";
import { saveFeedback } from "../../src/server/marking/draft";
import { handBack } from "../../src/server/handingBack/handBack";
import { changeHandOut, moveDue } from "../../src/server/handouts/changeHandOut";
import {
  beginDraft,
  copyHandOut,
  listDrafts,
  readDraft,
  saveDraft,
} from "../../src/server/handouts/drafts";
import { giveTo, setException } from "../../src/server/handouts/exceptions";
import { handOut, type HandedOut } from "../../src/server/handouts/handOut";
import { putAway, putAwayWhatIsOver } from "../../src/server/handouts/putAway";
import { followTheCalendar } from "../../src/server/handouts/followTheCalendar";
import { planOf } from "../../src/server/handouts/planOf";
import { deleteHandOut, withdraw } from "../../src/server/handouts/withdraw";
import { todayView } from "../../src/server/overview/today";
import { deskQueue } from "../../src/server/overview/queue";
import { handOutSheet } from "../../src/server/overview/sheet";
import { ledgerView } from "../../src/server/ledger/view";
import { sectionView } from "../../src/server/overview/sections";
import { workView } from "../../src/server/overview/work";
import { lookAtCopy, saveCopy } from "../../src/server/pieces/given";
import { handIn, openPiece, saveWork } from "../../src/server/pieces/moves";
import { pieceView } from "../../src/server/pieces/pieceView";
import { addRubric, changeRubric } from "../../src/server/rubrics/rubrics";
import { addUpload, lookAtUpload, readUpload } from "../../src/server/uploads/uploads";
import { deskPiece } from "../../src/server/marking/desk/deskPiece";
import {
  asPerson,
  doc,
  smallSchool,
  testDatabase,
  type SmallSchool,
  type TestDatabase,
} from "../support/database";
import { planFor } from "../support/handOut";

/** Handing out with all that belongs to it, through the use-cases, on a clock of its own. */
let database: TestDatabase;
let school: SmallSchool;
let owner: ReturnType<typeof asPerson>;
let second: string;
const zone = "America/Halifax";
const at = (wall: string) => wallToInstant(wall, zone).at;
const NOW = at("2026-10-07T09:00");
const student = (n: number) => asPerson(database.sql, school.students[n]!);
const base = {
  title: "Rainfall log",
  instructions: doc("Seven days."),
  expects: "work" as const,
  points: "50",
  opens: null,
  due: "2026-10-16T16:00",
  closes: null,
  promised: null,
  graceMinutes: 0,
  mayTakeBack: true,
};

beforeAll(async () => {
  database = await testDatabase();
  school = await smallSchool(database.sql, 5);
  owner = asPerson(database.sql, school.owner);
  // A second section of the same course, with the first section's last two students in it too.
  second = crypto.randomUUID();
  await database.sql`insert into section (id, course_id, name) select ${second}, course_id, 'Plover' from section where id = ${school.sectionId}`;
  await database.sql`insert into section_teacher (section_id, person_id, role, may_hand_back) values (${second}, ${school.owner.id}, 'owner', true)`;
  for (const n of [3, 4])
    await database.sql`insert into enrolment (section_id, student_id, joined_on) values (${second}, ${school.students[n]!.id}, '2026-09-08')`;
});
afterAll(() => database?.drop());

const row = (part: Partial<PlanRow> = {}): PlanRow => ({
  ...planFor(school.sectionId, base).rows[0]!,
  ...part,
});
const give = (change: (plan: Plan) => void = () => {}, now = NOW): Promise<HandedOut> => {
  const plan = planFor(school.sectionId, base);
  change(plan);
  return owner.change(now, (call) => handOut(call, { plan, draftId: null, pastIsMeant: false }));
};
const pieceOf = async (handOutId: string, n: number) =>
  (
    await database.sql<
      {
        id: string;
        ownDueAt: Date | null;
        ownDueFrom: string | null;
        removedAt: Date | null;
        leftAt: Date | null;
      }[]
    >`select id, own_due_at, own_due_from, removed_at, left_at from piece where hand_out_id = ${handOutId} and student_id = ${school.students[n]!.id}`
  )[0]!;
const sheetOf = (handOutId: string, now = NOW) =>
  owner.read(now, (call) => handOutSheet(call, handOutId));
const seenBy = (n: number, now = NOW) =>
  student(n)
    .read(now, (call) => workView(call))
    .then(({ takenOff: _, ...view }) => JSON.stringify(view));

describe("to several sections at once", () => {
  test("one assignment of the course, a number, dates of each section's own, one draft used up", async () => {
    const plan = planFor(school.sectionId, base);
    plan.work.numbered = true;
    plan.work.emoji = "🌧️";
    plan.rows = [
      row(),
      row({ sectionId: second, opens: "2026-10-09T08:00", due: "2026-10-19T10:00" }),
    ];
    plan.counting.category = "Observation";
    const draft = await owner.change(NOW, (call) =>
      beginDraft(call, { id: crypto.randomUUID(), plan, kept: false }),
    );
    const { handOuts } = await owner.change(NOW, (call) =>
      handOut(call, { plan, draftId: draft.id, pastIsMeant: false }),
    );
    expect(handOuts.map((h) => [h.section, h.students, h.opens]).sort()).toEqual([
      ["Gannet", 5, "now"],
      ["Plover", 2, "later"],
    ]);
    const [count] = await database.sql<
      { n: number; number: number }[]
    >`select count(distinct assignment_id)::int as n, max(number)::int as number from hand_out join assignment on assignment.id = assignment_id where hand_out.id = any(${handOuts.map((h) => h.id)})`;
    expect(count).toEqual({ n: 1, number: 1 });
    await expect(owner.read(NOW, (call) => readDraft(call, draft.id))).rejects.toThrow(NotFound);
    expect(await seenBy(3)).toContain("🌧 1 · Rainfall log");
    // In Plover it opens on Friday: until then that student sees it once.
    expect([
      (await seenBy(3)).match(/Rainfall log/g)!.length,
      (await seenBy(3, at("2026-10-09T08:00"))).match(/Rainfall log/g)!.length,
    ]).toEqual([1, 2]);
    const sheet = await sheetOf(handOuts[0]!.id);
    expect([sheet.category, sheet.alsoIn.map((o) => o.section)]).toEqual([
      "Observation",
      ["Plover"],
    ]);
    const next = await give((p) => void (p.work.numbered = true));
    expect((await sheetOf(next.handOuts[0]!.id)).title).toBe("2 · Rainfall log");
  });
  test("another teacher's section, or a fault in one row, hands out nothing", async () => {
    const [before] = await database.sql<{ n: number }[]>`select count(*)::int as n from assignment`;
    await expect(
      give((p) => p.rows.push(row({ sectionId: school.otherSectionId }))),
    ).rejects.toThrow(NotFound);
    await expect(
      give((p) => p.rows.push(row({ sectionId: second, due: "2026-10-01T10:00" }))),
    ).rejects.toMatchObject({ fields: { "rows[1].due": "The due time is in the past." } });
    await expect(give((p) => p.rows.push(row()))).rejects.toMatchObject({
      fields: { rows: expect.any(String) },
    });
    await expect(give((p) => void (p.rows = []))).rejects.toMatchObject({
      fields: { rows: expect.any(String) },
    });
    expect(
      (await database.sql<{ n: number }[]>`select count(*)::int as n from assignment`)[0],
    ).toEqual(before);
  });
  test("due in the past only when it is meant", async () => {
    const plan = planFor(school.sectionId, {
      ...base,
      expects: "nothing",
      due: "2026-10-02T11:00",
    });
    const { handOuts } = await owner.change(NOW, (call) =>
      handOut(call, { plan, draftId: null, pastIsMeant: true }),
    );
    expect(handOuts[0]!.students).toBe(5);
  });
});

describe("for whom", () => {
  let groupId: string;
  test("a group, chosen students, exceptions for single ones", async () => {
    groupId = (
      await owner.change(NOW, (call) =>
        makeGroup(call, school.sectionId, {
          name: "Readers",
          extra: null,
          students: [school.students[0]!.id],
        }),
      )
    ).groupId;
    const version = crypto.randomUUID();
    const { handOuts } = await give((p) => {
      p.work.versions = [
        {
          id: version,
          name: "With a frame",
          instructions: doc("Begin with: On Monday …") as never,
        },
      ];
      p.rows = [
        row({
          audience: {
            kind: "chosen",
            groups: [groupId],
            students: [school.students[1]!.id, school.students[2]!.id],
          },
          exceptions: [
            {
              studentId: school.students[1]!.id,
              due: "2026-10-20T16:00",
              excused: false,
              versionId: version,
            },
            { studentId: school.students[2]!.id, due: null, excused: true, versionId: null },
          ],
        }),
      ];
    });
    const sheet = await sheetOf(handOuts[0]!.id);
    expect(
      sheet.lines.map((l) => [l.student, l.ownDue?.from ?? null, l.excused, l.version]),
    ).toEqual([
      ["Student 1", null, false, null],
      ["Student 2", "teacher", false, "With a frame"],
      ["Student 3", null, true, null],
    ]);
    expect(sheet.others.map((o) => o.student)).toEqual(["Student 4", "Student 5"]);
    // Two wordings, one column in the Ledger, and no student sees the other wording or that there is one.
    const view = (n: number) =>
      pieceOf(handOuts[0]!.id, n).then(({ id }) =>
        student(n).read(NOW, (call) => pieceView(call, id)),
      );
    expect(JSON.stringify((await view(1)).instructions)).toContain("On Monday");
    expect(JSON.stringify(await view(0))).not.toMatch(/On Monday|frame/);
    const ledger = await owner.read(NOW, (call) => ledgerView(call, school.sectionId));
    expect(ledger.columns.filter((c) => c.handOutId === handOuts[0]!.id)).toHaveLength(1);
    // Who comes into the group later is given it too.
    await owner.change(NOW, (call) =>
      makeGroup(call, school.sectionId, { name: "Other", extra: null, students: [] }),
    );
    await database.sql`insert into group_member (group_id, student_id) values (${groupId}, ${school.students[3]!.id})`;
    await owner.change(NOW, (call) =>
      setMember(call, school.sectionId, school.students[3]!.id, { joinedOn: null, leftOn: null }),
    );
    expect((await sheetOf(handOuts[0]!.id)).lines.map((l) => l.student)).toContain("Student 4");
  });
  test("nobody is a fault of that row", async () => {
    await expect(
      give(
        (p) => void (p.rows = [row({ audience: { kind: "chosen", groups: [], students: [] } })]),
      ),
    ).rejects.toMatchObject({ fields: { "rows[0].audience": expect.any(String) } });
  });
  test("taken from a student the work is kept, hidden, and comes back with them", async () => {
    const { handOuts } = await give((p) => void (p.work.title = "Taken away"));
    const { id } = await pieceOf(handOuts[0]!.id, 0);
    await student(0).change(NOW, (call) => handIn(call, id, { doc: doc("My log.") }, 0));
    await owner.change(NOW, (call) => giveTo(call, handOuts[0]!.id, school.students[0]!.id, false));
    expect(await seenBy(0)).not.toContain("Taken away");
    expect((await student(0).read(NOW, (call) => pieceView(call, id))).takenOff).toBe(true);
    expect((await sheetOf(handOuts[0]!.id)).others).toEqual([
      { studentId: school.students[0]!.id, student: "Student 1", taken: true },
    ]);
    await owner.change(NOW, (call) => giveTo(call, handOuts[0]!.id, school.students[0]!.id, true));
    expect((await student(0).read(NOW, (call) => pieceView(call, id))).receipts).toHaveLength(1);
  });
});

describe("extra time, joining and leaving", () => {
  test("a group's extra time is applied by itself, follows the due time, and gives way to a teacher's word", async () => {
    const { groupId } = await owner.change(NOW, (call) =>
      makeGroup(call, school.sectionId, {
        name: "Extra time",
        extra: { amount: 2, unit: "school days" },
        students: [school.students[0]!.id, school.students[1]!.id],
      }),
    );
    const { handOuts } = await give();
    const id = handOuts[0]!.id;
    expect((await pieceOf(id, 0)).ownDueAt).toEqual(at("2026-10-20T16:00"));
    await owner.change(NOW, async (call) =>
      setException(call, (await pieceOf(id, 1)).id, {
        due: "2026-10-17T10:00",
        excused: false,
        versionId: null,
        tell: true,
      }),
    );
    const moved = await owner.change(NOW, (call) =>
      moveDue(call, id, { day: "2026-10-21", tell: true }),
    );
    expect(moved.words[0]).toContain("1 with a due time of their own keeps it");
    expect([
      (await pieceOf(id, 0)).ownDueAt,
      (await pieceOf(id, 1)).ownDueAt,
      (await pieceOf(id, 2)).ownDueAt,
    ]).toEqual([at("2026-10-23T16:00"), at("2026-10-17T10:00"), null]);
    expect(await seenBy(1)).toContain("Changed");
    await database.sql`delete from group_member where group_id = ${groupId} and student_id = ${school.students[0]!.id}`;
    await owner.change(NOW, (call) =>
      setMember(call, school.sectionId, school.students[0]!.id, { joinedOn: null, leftOn: null }),
    );
    expect((await pieceOf(id, 0)).ownDueAt).toBeNull();
    await database.sql`delete from group_member where group_id = ${groupId}`;
  });
  test("who leaves owes nothing more, keeps what was done, and can come back; who joins owes from then on", async () => {
    const [early, late] = [
      await give((p) => void ((p.work.title = "Early"), (p.rows[0]!.due = "2026-10-09T16:00"))),
      await give((p) => void (p.work.title = "Late")),
    ];
    const done = await pieceOf(late.handOuts[0]!.id, 4);
    const today = at("2026-10-12T09:00");
    await student(4).change(NOW, (call) => handIn(call, done.id, { doc: doc("Done early.") }, 0));
    await owner.change(today, (call) =>
      setMember(call, school.sectionId, school.students[4]!.id, {
        joinedOn: null,
        leftOn: "2026-10-12",
      }),
    );
    await owner.change(today, (call) =>
      setMember(call, school.sectionId, school.outsider.id, { joinedOn: null, leftOn: null }),
    );
    expect((await pieceOf(early.handOuts[0]!.id, 4)).leftAt).toBeNull();
    expect((await pieceOf(late.handOuts[0]!.id, 4)).leftAt).toEqual(today);
    expect(await seenBy(4, today)).toContain("Late");
    const joined = await database.sql<
      { title: string }[]
    >`select title from piece join hand_out on hand_out.id = hand_out_id join assignment on assignment.id = assignment_id where student_id = ${school.outsider.id}`;
    expect(joined.map((j) => j.title)).toEqual(expect.arrayContaining(["Late"]));
    expect(joined.map((j) => j.title)).not.toContain("Early");
    await owner.change(today, (call) =>
      setMember(call, school.sectionId, school.students[4]!.id, { joinedOn: null, leftOn: null }),
    );
    expect((await pieceOf(late.handOuts[0]!.id, 4)).leftAt).toBeNull();
  });
});

describe("on the day", () => {
  test("who is to join or leave later does so when that day comes, without anybody pressing anything", async () => {
    const { handOuts } = await give(
      (p) => void ((p.work.title = "Later"), (p.rows[0]!.due = "2026-10-30T16:00")),
    );
    const id = handOuts[0]!.id;
    await owner.change(NOW, (call) =>
      setMember(call, school.sectionId, school.students[3]!.id, {
        joinedOn: null,
        leftOn: "2026-10-21",
      }),
    );
    await database.sql`update enrolment set joined_on = '2026-10-21' where student_id = ${school.outsider.id} and section_id = ${school.sectionId}`;
    expect([await pieceOf(id, 3).then((p) => p.leftAt), (await sheetOf(id)).lines.length]).toEqual([
      null,
      5,
    ]);
    expect(await followTheCalendar(database.sql, at("2026-10-20T12:00"))).toBe(0);
    expect(await followTheCalendar(database.sql, at("2026-10-21T06:00"))).toBe(1);
    expect((await pieceOf(id, 3)).leftAt).toEqual(at("2026-10-21T06:00"));
    expect((await sheetOf(id)).lines.map((l) => l.student)).toContain("Outsider");
    await owner.change(at("2026-10-21T07:00"), (call) =>
      setMember(call, school.sectionId, school.students[3]!.id, { joinedOn: null, leftOn: null }),
    );
    await database.sql`update enrolment set joined_on = '2026-10-12' where student_id = ${school.outsider.id}`;
  });
});

describe("after handing out", () => {
  test("a change says whom it touches, tells them, keeps history, and meets another's change", async () => {
    const { handOuts } = await give((p) => void (p.work.title = "Changing"));
    const { id } = handOuts[0]!;
    const {
      assignmentId: _a,
      number: _n,
      ...plan
    } = await owner.read(NOW, (call) => planOf(call, id));
    plan.rows[0]!.due = "2026-10-20T16:00";
    const changed = await owner.change(NOW, (call) =>
      changeHandOut(call, id, { plan, tell: true }, 1),
    );
    expect(changed).toMatchObject({
      revision: 2,
      told: 5,
      words: ["Due: Fri 16 Oct, 16:00 → Tue 20 Oct, 16:00, for 5 students"],
    });
    expect(await seenBy(0)).toContain("Changed: due Tue 20 Oct, 16:00 (it was Fri 16 Oct, 16:00).");
    const { id: pieceId } = await pieceOf(id, 0);
    await student(0).change(NOW, (call) => openPiece(call, pieceId));
    expect(await seenBy(0)).not.toContain("Changed: due Tue");
    expect((await sheetOf(id)).history.map((h) => h.what).join()).toContain(
      "Fri 16 Oct, 16:00 → Tue 20 Oct, 16:00",
    );
    plan.work.instructions = doc("Eight days.") as never;
    expect(
      await owner.change(NOW, (call) => changeHandOut(call, id, { plan, tell: false }, 2)),
    ).toMatchObject({ told: 0 });
    await expect(
      owner.change(NOW, (call) => changeHandOut(call, id, { plan, tell: false }, 2)),
    ).rejects.toThrow(Conflict);
    await expect(
      owner.change(NOW, (call) =>
        changeHandOut(call, id, { plan: { ...plan, rows: [] }, tell: false }, 3),
      ),
    ).rejects.toThrow(Invalid);
    // Unchanged means unchanged, to the second: what was handed out at 09:00:27 did not open at 09:00.
    await database.sql`update hand_out set opens_at = opens_at + interval '27 seconds' where id = ${id}`;
    const {
      assignmentId: _b,
      number: _m,
      ...same
    } = await owner.read(NOW, (call) => planOf(call, id));
    expect(
      await owner.change(NOW, (call) => changeHandOut(call, id, { plan: same, tell: true }, 3)),
    ).toMatchObject({ words: [], told: 0 });
  });
  test("deleted only while nobody has begun; then withdrawn, which hides it and can be undone", async () => {
    const { handOuts } = await give((p) => void (p.work.title = "Gone"));
    await owner.change(NOW, (call) => deleteHandOut(call, handOuts[0]!.id));
    await expect(sheetOf(handOuts[0]!.id)).rejects.toThrow(NotFound);
    const again = (await give((p) => void (p.work.title = "Hidden"))).handOuts[0]!.id;
    const { id } = await pieceOf(again, 0);
    await student(0).change(NOW, (call) => handIn(call, id, { doc: doc("Mine.") }, 0));
    await expect(owner.change(NOW, (call) => deleteHandOut(call, again))).rejects.toThrow(Refused);
    await owner.change(NOW, (call) => withdraw(call, again, true));
    expect(await seenBy(0)).not.toContain("Hidden");
    expect(JSON.stringify(await owner.read(NOW, (call) => todayView(call)))).not.toContain(
      "Hidden",
    );
    expect((await sheetOf(again)).lines).toHaveLength(5);
    await owner.change(NOW, (call) => withdraw(call, again, false));
    expect((await student(0).read(NOW, (call) => pieceView(call, id))).receipts).toHaveLength(1);
  });
  describe("puts itself away when it is over", () => {
    const onToday = (handOutId: string, now: Date) =>
      owner
        .read(now, (call) => todayView(call))
        .then((view) => view.handOuts.some((h) => h.id === handOutId));
    /** The sweep of that moment, and whether the hand-out is on the lists after it. */
    const staysAt = async (handOutId: string, wall: string) => {
      await putAwayWhatIsOver(database.sql, at(wall));
      return onToday(handOutId, at(wall));
    };
    const giveOld = async (closes: string | null) =>
      (
        await give(
          (p) =>
            void (
              (p.work.title = "Old"),
              (p.rows[0]!.closes = closes),
              (p.counting.archiveDays = "3")
            ),
        )
      ).handOuts[0]!.id;

    test("so many days after it closed, or was due where it never closes; and is brought back by hand", async () => {
      const closing = await giveOld("2026-10-18T16:00");
      const open = await giveOld(null);
      expect(await staysAt(closing, "2026-10-21T15:59")).toBe(true);
      expect(await staysAt(closing, "2026-10-21T16:01")).toBe(false);
      expect(await onToday(open, at("2026-10-19T15:59"))).toBe(false);
      expect((await sheetOf(open)).archived).toBe(true);
      await owner.change(at("2026-10-22T09:00"), (call) => putAway(call, open, false));
      expect(await staysAt(open, "2026-10-25T08:59")).toBe(true);
      expect(await staysAt(open, "2026-10-25T09:01")).toBe(false);
    });

    test("never while something handed in waits; then so many days after it was handed back", async () => {
      const handOutId = await giveOld(null);
      const { id } = await pieceOf(handOutId, 0);
      let revision = 0;
      const handInAt = (wall: string) =>
        student(0).change(at(wall), (call) => handIn(call, id, { doc: doc(wall) }, revision++));
      await handInAt("2026-10-16T10:00");
      expect(await staysAt(handOutId, "2026-12-01T12:00")).toBe(true);
      await expect(
        owner.change(at("2026-12-01T12:00"), (call) => putAway(call, handOutId, true)),
      ).rejects.toThrow(/handed in and not handed back/);
      await owner.change(at("2026-12-01T12:00"), (call) =>
        saveFeedback(call, id, { overall: "Good.", score: "40", picks: {} }, 0),
      );
      await owner.change(at("2026-12-01T12:00"), (call) =>
        handBack(call, id, { outcome: "revise", due: "2026-12-10T16:00" }),
      );
      // The round has its own end, and what comes in afterwards brings the work back.
      expect(await staysAt(handOutId, "2026-12-13T15:59")).toBe(true);
      expect(await staysAt(handOutId, "2026-12-13T16:01")).toBe(false);
      await handInAt("2026-12-14T09:00");
      expect(await onToday(handOutId, at("2026-12-14T09:00"))).toBe(true);
    });

    test("put away by hand it is on no list, and the history says who did it", async () => {
      const handOutId = await giveOld(null);
      await owner.change(at("2026-10-17T09:00"), (call) => putAway(call, handOutId, true));
      expect(await onToday(handOutId, at("2026-10-17T09:01"))).toBe(false);
      const { history } = await sheetOf(handOutId, at("2026-10-17T09:01"));
      expect(JSON.stringify(history)).toContain("put away");
      await expect(
        student(0).change(NOW, (call) => putAway(call, handOutId, false)),
      ).rejects.toThrow();
    });
  });
  test("a copy for another section has its dates in the corresponding lesson, and is a draft", async () => {
    await owner.change(NOW, (call) =>
      setMeetings(call, school.sectionId, [{ weekday: 5, starts: "16:00", ends: "16:50" }]),
    );
    await owner.change(NOW, (call) =>
      setMeetings(call, second, [{ weekday: 3, starts: "11:00", ends: "11:50" }]),
    );
    const { handOuts } = await give(
      (p) => void ((p.work.title = "Copied"), (p.rows[0]!.promised = "2026-10-20T17:00")),
    );
    const { draftId } = await owner.change(NOW, (call) =>
      copyHandOut(call, handOuts[0]!.id, [second]),
    );
    const draft = await owner.read(NOW, (call) => readDraft(call, draftId));
    // The sixth Friday lesson of the term (16 October); the sixth Wednesday is 14 October. Due and promised lie two school days apart.
    expect(draft.plan.rows).toMatchObject([
      {
        sectionId: second,
        due: "2026-10-14T11:00",
        promised: "2026-10-16T17:00",
        audience: { kind: "section" },
      },
    ]);
    expect((await owner.read(NOW, (call) => listDrafts(call))).map((d) => d.title)).toContain(
      "Copied",
    );
    await expect(
      owner.change(NOW, (call) => saveDraft(call, draftId, { plan: draft.plan, kept: true }, 9)),
    ).rejects.toThrow(Conflict);
    await owner.change(NOW, (call) =>
      handOut(call, { plan: draft.plan, draftId, pastIsMeant: false }),
    );
  });
});

describe("names", () => {
  test("two of one name in a class have a sign behind it, wherever a name stands; others have none", async () => {
    const { handOuts } = await give((p) => void (p.work.title = "Of one name"));
    const handOutId = handOuts[0]!.id;
    const { id } = await pieceOf(handOutId, 0);
    const [first, second, other] = school.students;
    const rename = (from: Person, name: string) =>
      database.sql`update person set name = ${name} where id = ${from.id}`;
    const stranger = crypto.randomUUID();
    await database.sql`
      insert into person (id, school_id, kind, name, called, sort_name, school_name, password_hash)
      select ${stranger}, school_id, 'student', ${other!.name}, 'S', 'S', 'stranger', '-' from person where id = ${other!.id}`;
    await rename(second!, first!.name);
    const names = async () => {
      const sheet = await sheetOf(handOutId);
      const board = await owner.read(NOW, (call) => sectionView(call, school.sectionId));
      const ledger = await owner.read(NOW, (call) => ledgerView(call, school.sectionId));
      const queue = await owner.read(NOW, (call) => deskQueue(call, { handOutId, pile: "all" }));
      return [
        sheet.lines.map((l) => l.student),
        board.roster.map((l) => l.name),
        ledger.rows.map((l) => l.student),
        queue.items.map((l) => l.student),
      ].map((list) => [...new Set(list)].sort());
    };
    const lists = await names();
    for (const list of lists) {
      expect(list.filter((name) => name.startsWith(`${first!.name} (`))).toHaveLength(2);
      // Of the same name as someone who is in none of their sections.
      expect(list).toContain(other!.name);
    }
    const desk = await owner.read(NOW, (call) => deskPiece(call, id));
    expect(lists[0]).toContain(desk.student);
    await rename(second!, second!.name);
    expect((await names()).flat().some((name) => name.includes("("))).toBe(false);
  });
  test("with numbers in them they stand in the order of the numbers", async () => {
    const rows = await database.sql<{ name: string }[]>`
      select sort_name as name
      from (select 'Pupil ' || n as given from unnest(array[10, 2, 1, 11]) n) made
      cross join lateral (select (jsonb_populate_record(null::person, jsonb_build_object('sort_name', given))).sort_name) person
      order by sort_name`;
    expect(rows.map((r) => r.name)).toEqual(["Pupil 1", "Pupil 2", "Pupil 10", "Pupil 11"]);
  });
});

describe("what was taken off", () => {
  const LATER = at("2026-10-08T10:00");
  const begin = async (title: string) => {
    const { handOuts } = await give((p) => void (p.work.title = title));
    const handOutId = handOuts[0]!.id;
    const [mine, never] = [await pieceOf(handOutId, 0), await pieceOf(handOutId, 1)];
    await student(0).change(NOW, (call) =>
      saveWork(call, mine.id, { doc: doc("Half a page of mine.") }, 0),
    );
    return { handOutId, mine, never };
  };
  const read = (n: number, id: string) => student(n).read(LATER, (call) => pieceView(call, id));
  const taken = async (n: number) =>
    (await student(n).read(LATER, workView)).takenOff.map((item) => item.title);

  test("stays the student's to read, and nothing can be done with it; who never opened it has nothing to lose", async () => {
    const { handOutId, mine, never } = await begin("Taken off");
    for (const n of [0, 1])
      await owner.change(LATER, (call) => giveTo(call, handOutId, school.students[n]!.id, false));
    const shown = await read(0, mine.id);
    expect(shown).toMatchObject({ takenOff: true, mayTakeBack: false, mayAskToReopen: false });
    expect(shown.locked).toContain("taken this off your list");
    expect(shown.work.doc).toEqual(doc("Half a page of mine."));
    await expect(read(1, never.id)).rejects.toThrow(NotFound);
    await expect(read(1, mine.id)).rejects.toThrow(NotFound);
    const write = (call: Call) => saveWork(call, mine.id, { doc: doc("More.") }, 1);
    await expect(student(0).change(LATER, write)).rejects.toThrow(NotFound);
    await student(0).change(LATER, (call) => openPiece(call, mine.id));
    expect(await taken(0)).toContain("Taken off");
    expect(await taken(1)).not.toContain("Taken off");
    // In grids it is another thing than never having been given it.
    const ledger = await owner.read(LATER, (call) => ledgerView(call, school.sectionId));
    const column = ledger.columns.findIndex((c) => c.handOutId === handOutId);
    const cellOf = (n: number) => {
      const line = ledger.rows.find((r) => r.studentId === school.students[n]!.id)!;
      return [line.cells[column] !== null, line.takenOff[column]];
    };
    expect([0, 1, 2].map(cellOf)).toEqual([
      [false, true],
      [false, true],
      [true, false],
    ]);
    const board = await owner.read(LATER, (call) => sectionView(call, school.sectionId));
    const at = board.handOuts.findIndex((h) => h.id === handOutId);
    const line = board.roster.find((r) => r.studentId === school.students[0]!.id)!;
    expect(line.moons[at]).toMatchObject({ moon: null, takenOff: true });
    // Given once more, it goes on where it was.
    await owner.change(LATER, (call) => giveTo(call, handOutId, school.students[0]!.id, true));
    expect(await read(0, mine.id)).toMatchObject({ takenOff: false, locked: null });
  });
  test("so does what was written for a hand-out that is withdrawn", async () => {
    const { handOutId, mine, never } = await begin("Withdrawn");
    await owner.change(LATER, (call) => withdraw(call, handOutId, true));
    expect((await read(0, mine.id)).takenOff).toBe(true);
    await expect(read(1, never.id)).rejects.toThrow(NotFound);
    expect(await taken(0)).toContain("Withdrawn");
  });
});

describe("how it counts", () => {
  test("late work loses what the policy says, with the sum; the section's policy holds where none is chosen", async () => {
    await owner.change(NOW, (call) =>
      setCounting(call, school.sectionId, {
        late: { kind: "deduct", percent: "10", per: "school day", floorPercent: "0" },
        categories: [{ id: null, name: "Logs", weight: "100", drop: 0, shows: "by hand" }],
      }),
    );
    const { handOuts } = await give(
      (p) => void ((p.work.title = "Counted"), (p.counting.category = "logs")),
    );
    const { id } = await pieceOf(handOuts[0]!.id, 2);
    // Due Friday 16:00, handed in Tuesday 09:10: the worked example of two school days.
    const later = at("2026-10-20T10:00");
    await student(2).change(at("2026-10-20T09:10"), (call) =>
      handIn(call, id, { doc: doc("Late.") }, 0),
    );
    await owner.change(later, (call) =>
      saveFeedback(call, id, { overall: "", score: "41", picks: {} }, 0),
    );
    expect((await owner.read(later, (call) => deskPiece(call, id))).scoreWords).toBe(
      "41 / 50 · 41, 3 days 17 h late, 2 started school days: − 10 (10 % of 50 each) = 31",
    );
    await owner.change(later, (call) => handBack(call, id, { outcome: "final", due: null }));
    const [back] = (await student(2).read(later, (call) => pieceView(call, id))).cameBack;
    expect([back!.score, back!.deduction]).toEqual([
      "31 / 50",
      "41, 3 days 17 h late, 2 started school days: − 10 (10 % of 50 each) = 31",
    ]);
    const ledger = await owner.read(later, (call) => ledgerView(call, school.sectionId));
    const column = ledger.columns.findIndex((c) => c.handOutId === handOuts[0]!.id);
    expect([
      ledger.columns[column]!.about,
      ledger.rows.find((r) => r.student === "Student 3")!.cells[column]!.score,
    ]).toEqual(["Logs", "31"]);
    // Handing back once more without a change is refused: the deduction is no change.
    await expect(
      owner.change(later, (call) => handBack(call, id, { outcome: "final", due: null })),
    ).rejects.toThrow("Nothing has changed");
  });
  test("the section's policy can be gone back to after handing out", async () => {
    const { handOuts } = await give(
      (p) => void ((p.work.title = "Policy"), (p.counting.late = { kind: "flag" })),
    );
    const {
      assignmentId: _a,
      number: _n,
      ...plan
    } = await owner.read(NOW, (call) => planOf(call, handOuts[0]!.id));
    plan.counting.late = null;
    const { words } = await owner.change(NOW, (call) =>
      changeHandOut(call, handOuts[0]!.id, { plan, tell: true }, 1),
    );
    expect(words.join()).toContain("late: 10 % each school day");
    expect(
      (await owner.read(NOW, (call) => planOf(call, handOuts[0]!.id))).counting.late,
    ).toMatchObject({ kind: "deduct", per: "school day" });
  });
  test("letters are typed and shown as letters; rounds end where they end and the rule picks the score", async () => {
    const { handOuts } = await give(
      (p) =>
        void (
          (p.work.title = "Letters"),
          (p.counting.kind = "letters"),
          (p.counting.points = "20"),
          (p.counting.roundsMost = "2"),
          (p.counting.final = "best"),
          (p.counting.late = { kind: "flag" })
        ),
    );
    const { id } = await pieceOf(handOuts[0]!.id, 2);
    const due = "2026-10-30T16:00";
    await student(2).change(NOW, (call) => handIn(call, id, { doc: doc("One.") }, 0));
    await owner.change(NOW, (call) =>
      saveFeedback(call, id, { overall: "Again.", score: "a-", picks: {} }, 0),
    );
    await owner.change(NOW, (call) => handBack(call, id, { outcome: "revise", due }));
    await student(2).change(NOW, (call) => handIn(call, id, { doc: doc("Two.") }, 1));
    await owner.change(NOW, (call) =>
      saveFeedback(call, id, { overall: "Once more.", score: "C", picks: {} }, 0),
    );
    await expect(
      owner.change(NOW, (call) => handBack(call, id, { outcome: "revise", due })),
    ).rejects.toThrow("2 rounds at most");
    await owner.change(NOW, (call) => handBack(call, id, { outcome: "final", due: null }));
    const ledger = await owner.read(NOW, (call) => ledgerView(call, school.sectionId));
    const column = ledger.columns.findIndex((c) => c.handOutId === handOuts[0]!.id);
    expect(ledger.rows.find((r) => r.student === "Student 3")!.cells[column]!.score).toBe("A-");
    expect(
      (await sheetOf(handOuts[0]!.id)).lines.find((l) => l.student === "Student 3")!.score,
    ).toBe("A-");
  });
  test("nothing after it closes needs a closing time", async () => {
    await expect(give((p) => void (p.counting.late = { kind: "closed" }))).rejects.toMatchObject({
      fields: { "rows[0].closes": expect.any(String) },
    });
  });
  test("a rubric that was scored with gets a new version, and scores do what was asked", async () => {
    const level = (id: string, points: string) => ({
      id,
      name: points,
      points,
      most: null,
      descriptor: "",
    });
    const [c, top, low] = [crypto.randomUUID(), crypto.randomUUID(), crypto.randomUUID()];
    const rubric = {
      criteria: [
        { id: c, name: "Place", note: "", weight: "1", levels: [level(top, "4"), level(low, "2")] },
      ],
    };
    const made = await owner.change(NOW, (call) => addRubric(call, { name: "R", rubric }));
    const { handOuts } = await give(
      (p) =>
        void (
          (p.work.title = "With a rubric"),
          (p.counting.rubricId = made.id),
          (p.counting.late = { kind: "flag" })
        ),
    );
    const { id } = await pieceOf(handOuts[0]!.id, 2);
    await student(2).change(NOW, (call) => handIn(call, id, { doc: doc("One.") }, 0));
    await owner.change(NOW, (call) =>
      saveFeedback(
        call,
        id,
        { overall: "", score: "25", picks: { [c]: { levelId: low, points: "2" } } },
        0,
      ),
    );
    await expect(
      owner.change(NOW, (call) =>
        saveFeedback(
          call,
          id,
          {
            overall: "",
            score: "25",
            picks: { [c]: { levelId: crypto.randomUUID(), points: "2" } },
          },
          1,
        ),
      ),
    ).rejects.toThrow("rubric of this work has changed");
    const wider = {
      criteria: [{ ...rubric.criteria[0]!, levels: [level(top, "8"), level(low, "2")] }],
    };
    await expect(
      owner.change(NOW, (call) =>
        changeRubric(call, made.id, { name: "R", rubric: wider, scores: null }, 1),
      ),
    ).rejects.toMatchObject({ fields: { scores: expect.any(String) } });
    const newer = await owner.change(NOW, (call) =>
      changeRubric(call, made.id, { name: "R", rubric: wider, scores: "carry" }, 1),
    );
    expect([newer.version, newer.carried, newer.lost]).toEqual([2, 1, 0]);
    const desk = await owner.read(NOW, (call) => deskPiece(call, id));
    expect([desk.rubric!.rubric.criteria[0]!.levels[0]!.points, desk.scoreTyped]).toEqual([
      "8",
      "12.5",
    ]);
    await owner.change(NOW, (call) => handBack(call, id, { outcome: "final", due: null }));
    expect(
      (await student(2).read(NOW, (call) => pieceView(call, id))).cameBack[0]!.rubric,
    ).toMatchObject({ lines: [{ criterion: "Place", level: "2", points: "2" }] });
  });
});

describe("what comes with the task", () => {
  test("a text each student writes in is where their work begins, and the teacher may read along", async () => {
    const { handOuts } = await give((p) => {
      p.work.title = "Report";
      p.work.selfAssessment = {
        question: "How did it go?",
        answers: "words",
        choices: ["well", "badly"],
      };
      p.work.materials = [
        {
          id: crypto.randomUUID(),
          kind: "text",
          use: "copy",
          title: "Form",
          doc: doc("Question:") as never,
        },
        {
          id: crypto.randomUUID(),
          kind: "link",
          use: "look",
          title: "Table",
          href: "https://example.org/t",
        },
      ];
    });
    const { id } = await pieceOf(handOuts[0]!.id, 0);
    const view = await student(0).read(NOW, (call) => pieceView(call, id));
    expect([view.work.doc, view.openBefore, view.materials.map((m) => m.title)]).toEqual([
      doc("Question:"),
      true,
      ["Table"],
    ]);
    await student(0).change(NOW, (call) =>
      handIn(
        call,
        id,
        { doc: doc("Question: why?"), self: { choice: "well", words: "It went by itself." } },
        0,
      ),
    );
    expect((await owner.read(NOW, (call) => deskPiece(call, id))).self).toBe(
      "well: It went by itself.",
    );
  });
  test("a file is for those it was given to, and a copy of one's own for its teacher too", async () => {
    const upload = await owner.change(NOW, (call) =>
      lookAtUpload(call, { name: "../../form\u0000.txt", bytes: Buffer.from("form") }).then(
        (kept) => addUpload(call, kept),
      ),
    );
    expect([upload.name, upload.mediaType]).toEqual(["form.txt", "application/octet-stream"]);
    const { handOuts } = await give(
      (p) =>
        void (
          (p.work.title = "Form"),
          (p.rows = [
            row({ audience: { kind: "chosen", groups: [], students: [school.students[0]!.id] } }),
          ]),
          (p.work.materials = [
            {
              id: crypto.randomUUID(),
              kind: "file",
              use: "copy",
              title: "Form",
              uploadId: upload.id,
            },
          ])
        ),
    );
    const fetch = (who: ReturnType<typeof asPerson>, uploadId: string) =>
      who
        .read(NOW, (call) => readUpload(call, uploadId))
        .then(
          (f) => f.name,
          () => "nothing",
        );
    expect([
      await fetch(student(0), upload.id),
      await fetch(student(1), upload.id),
      await fetch(asPerson(database.sql, school.stranger), upload.id),
      await fetch(asPerson(database.sql, school.co), upload.id),
    ]).toEqual(["form.txt", "nothing", "nothing", "form.txt"]);
    const { id } = await pieceOf(handOuts[0]!.id, 0);
    const [material] = (await student(0).read(NOW, (call) => pieceView(call, id))).materials;
    const own = await student(0).change(NOW, (call) =>
      lookAtCopy(call, id, { name: "filled.txt", bytes: Buffer.from("filled") }).then((kept) =>
        saveCopy(call, id, material!.id, kept),
      ),
    );
    expect([await fetch(owner, own.uploadId), await fetch(student(1), own.uploadId)]).toEqual([
      "filled.txt",
      "nothing",
    ]);
    await expect(
      asPerson(database.sql, school.stranger).change(NOW, (call) =>
        handOut(call, {
          plan: {
            ...planFor(school.otherSectionId, base),
            work: {
              ...planFor(school.otherSectionId, base).work,
              materials: [
                {
                  id: crypto.randomUUID(),
                  kind: "file",
                  use: "look",
                  title: "Theirs",
                  uploadId: upload.id,
                },
              ],
            },
          },
          draftId: null,
          pastIsMeant: false,
        }),
      ),
    ).rejects.toThrow(NotFound);
  });
});
