import { afterAll, beforeAll, describe, expect, test } from "@jest/globals";
import { WRITING } from "../../src/core/handouts/parts";
import { emptyPlan, type Plan } from "../../src/core/handouts/plan";
import { wallToInstant } from "../../src/core/time/zone";
import { NotFound, Refused } from "../../src/core/refusals";
import type { Endpoint } from "../../src/core/api/endpoint";
import { beginSession } from "../../src/server/auth/sessions";
import { readFeed, setFeed } from "../../src/server/calendar/feeds";
import { monthView, termView } from "../../src/server/calendar/calendarView";
import { putClosure, putTerm, setSchoolDays } from "../../src/server/office/schoolCalendar";
import { setMeetings } from "../../src/server/classes/changeSetUp";
import { makeGroup } from "../../src/server/classes/members";
import { saveFeedback } from "../../src/server/marking/draft";
import { handBack } from "../../src/server/handingBack/handBack";
import { changeHandOut, moveDue } from "../../src/server/handouts/changeHandOut";
import { copyHandOut, readDraft } from "../../src/server/handouts/drafts";
import { setException } from "../../src/server/handouts/exceptions";
import { handOut } from "../../src/server/handouts/handOut";
import { planOf } from "../../src/server/handouts/planOf";
import { withdraw } from "../../src/server/handouts/withdraw";
import { queueView } from "../../src/server/overview/queue";
import { handOutSheet } from "../../src/server/overview/sheet";
import { todayView } from "../../src/server/overview/today";
import { weekView } from "../../src/server/weekSheet/week";
import { workView } from "../../src/server/overview/work";
import { handIn, openPiece, saveWork } from "../../src/server/pieces/moves";
import { pieceView } from "../../src/server/pieces/pieceView";
import { addRubric } from "../../src/server/rubrics/rubrics";
import { addUpload, lookAtUpload } from "../../src/server/uploads/uploads";
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
import { planFor, type Simple } from "../support/handOut";
import { ask, endpoints } from "../support/routes";

/** Plans that go out and come back whole, and what time does to them. */
let database: TestDatabase;
let school: SmallSchool;
let owner: ReturnType<typeof asPerson>;
let office: ReturnType<typeof asPerson>;
const zone = "America/Halifax";
const at = (wall: string) => wallToInstant(wall, zone).at;
const NOW = at("2026-10-07T09:00");
const base: Simple = {
  title: "Log",
  instructions: doc("Seven days."),
  expects: "work",
  points: "10",
  opens: null,
  due: "2026-10-16T16:00",
  closes: null,
  promised: null,
  graceMinutes: 0,
  mayTakeBack: true,
};
const student = (n: number) => asPerson(database.sql, school.students[n]!);

beforeAll(async () => {
  database = await testDatabase();
  answerOn(database);
  school = await smallSchool(database.sql, 4);
  owner = asPerson(database.sql, school.owner);
  office = asPerson(database.sql, school.office);
});
afterAll(() => endAnswers(database));

const give = async (
  change: (plan: Plan) => void = () => {},
  now = NOW,
  pastIsMeant = false,
): Promise<string> => {
  const plan = planFor(school.sectionId, base);
  change(plan);
  return (await owner.change(now, (call) => handOut(call, { plan, draftId: null, pastIsMeant })))
    .handOuts[0]!.id;
};
const pieceOf = async (handOutId: string, n: number) =>
  (
    await database.sql<
      { id: string }[]
    >`select id from piece where hand_out_id = ${handOutId} and student_id = ${school.students[n]!.id}`
  )[0]!.id;
const planNow = (id: string) => owner.read(NOW, (call) => planOf(call, id));

/** A plan in which nothing stands as it does on an empty page. */
async function fullPlan(): Promise<Plan> {
  const upload = await owner.change(NOW, (call) =>
    lookAtUpload(call, { name: "form.odt", bytes: Buffer.from("form") }).then((kept) =>
      addUpload(call, kept),
    ),
  );
  const rubric = await owner.change(NOW, (call) =>
    addRubric(call, {
      name: "R",
      rubric: {
        criteria: [
          {
            id: crypto.randomUUID(),
            name: "Place",
            note: "n",
            weight: "1.5",
            levels: [
              { id: crypto.randomUUID(), name: "there", points: "4", most: "5", descriptor: "d" },
            ],
          },
        ],
      },
    }),
  );
  const group = await owner.change(NOW, (call) =>
    makeGroup(call, school.sectionId, {
      name: `Group ${crypto.randomUUID()}`,
      extra: null,
      students: [school.students[0]!.id],
    }),
  );
  const version = crypto.randomUUID();
  return {
    work: {
      title: "Everything",
      numbered: true,
      emoji: "🧭",
      instructions: doc("Do all.") as never,
      parts: [WRITING],
      materials: [
        { id: crypto.randomUUID(), kind: "file", use: "copy", title: "Form", uploadId: upload.id },
        {
          id: crypto.randomUUID(),
          kind: "link",
          use: "look",
          title: "Link",
          href: "https://x.example/",
        },
        {
          id: crypto.randomUUID(),
          kind: "text",
          use: "copy",
          title: "Frame",
          doc: doc("Q:") as never,
        },
      ],
      versions: [{ id: version, name: "B", instructions: doc("Do some.") as never }],
      selfAssessment: { question: "Well?", answers: "scale", choices: [] },
      mayTakeBack: false,
      openBefore: true,
      wordsLeast: "50",
      wordsMost: "200",
      clipId: null,
    },
    rows: [
      {
        sectionId: school.sectionId,
        opens: "2026-10-08T08:00",
        due: "2026-10-16T16:00",
        closes: "2026-10-20T16:00",
        promised: "2026-10-23T16:00",
        audience: {
          kind: "chosen",
          groups: [group.groupId],
          students: [school.students[1]!.id, school.students[2]!.id],
        },
        exceptions: [
          {
            studentId: school.students[1]!.id,
            due: "2026-10-19T10:00",
            excused: false,
            versionId: version,
          },
          { studentId: school.students[2]!.id, due: null, excused: true, versionId: null },
        ],
      },
    ],
    counting: {
      kind: "percent",
      points: "40",
      category: "Logs",
      counts: false,
      extraCredit: true,
      graceMinutes: 15,
      late: { kind: "deduct", percent: "12.5", per: "day", floorPercent: "30" },
      roundsMost: "3",
      roundsUntil: "2026-11-20T16:00",
      final: "win back",
      winBackPercent: "40",
      rubricId: rubric.id,
      archiveDays: "9",
    },
  };
}
/** Ids that the rows have anew are taken out before plans are compared. */
const comparable = (plan: Plan): unknown => {
  const { materials, versions, ...work } = plan.work;
  const names = new Map(versions.map((v) => [v.id, v.name]));
  const row = plan.rows[0]!;
  const students =
    row.audience.kind === "chosen"
      ? { ...row.audience, students: "those who have it" }
      : row.audience;
  return {
    ...plan,
    work: {
      ...work,
      materials: materials.map((m) => ({ ...m, id: "" })),
      versions: versions.map((v) => ({ ...v, id: "" })),
    },
    rows: [
      {
        ...row,
        audience: students,
        exceptions: [...row.exceptions]
          .map((e) => ({ ...e, versionId: e.versionId && names.get(e.versionId) }))
          .sort((a, b) => a.studentId.localeCompare(b.studentId)),
      },
    ],
  };
};

describe("a plan with everything in it", () => {
  test("comes back from the hand-out as it went in", async () => {
    const plan = await fullPlan();
    const { handOuts } = await owner.change(NOW, (call) =>
      handOut(call, { plan, draftId: null, pastIsMeant: false }),
    );
    const { assignmentId: _, number, ...back } = await planNow(handOuts[0]!.id);
    expect(number).toBe(1);
    expect(comparable(back)).toEqual(comparable(plan));
  });
  test("changed without a change it stays what it is; changed in every field it is what was asked", async () => {
    const plan = await fullPlan();
    const { handOuts } = await owner.change(NOW, (call) =>
      handOut(call, { plan, draftId: null, pastIsMeant: false }),
    );
    const { id } = handOuts[0]!;
    const { assignmentId: _, number: __, ...back } = await planNow(id);
    expect(
      (await owner.change(NOW, (call) => changeHandOut(call, id, { plan: back, tell: true }, 1)))
        .words,
    ).toEqual([]);
    expect(
      comparable(await planNow(id).then(({ assignmentId: _a, number: _n, ...p }) => p)),
    ).toEqual(comparable(back));
    const next: Plan = {
      work: {
        ...back.work,
        title: "All of it",
        emoji: "🪁",
        instructions: doc("Do more.") as never,
        materials: [
          ...back.work.materials.slice(1),
          {
            id: crypto.randomUUID(),
            kind: "link",
            use: "look",
            title: "New",
            href: "mailto:a@x.example",
          },
        ],
        versions: [{ ...back.work.versions[0]!, instructions: doc("Do less.") as never }],
        selfAssessment: null,
        mayTakeBack: true,
        openBefore: false,
        wordsLeast: "",
        wordsMost: "90",
      },
      rows: [
        {
          ...back.rows[0]!,
          opens: "2026-10-09T08:00",
          due: "2026-10-17T16:00",
          closes: null,
          promised: "2026-10-24T16:00",
        },
      ],
      counting: {
        ...back.counting,
        kind: "levels",
        points: "30",
        category: "",
        counts: true,
        extraCredit: false,
        graceMinutes: 0,
        late: { kind: "flag" },
        roundsMost: "",
        roundsUntil: null,
        final: "best",
        winBackPercent: "50",
        rubricId: null,
        archiveDays: "",
      },
    };
    const { words, told } = await owner.change(NOW, (call) =>
      changeHandOut(call, id, { plan: next, tell: true }, 2),
    );
    expect(
      comparable(await planNow(id).then(({ assignmentId: _a, number: _n, ...p }) => p)),
    ).toEqual(comparable(next));
    // It has not opened yet, so there is nobody to tell.
    expect([words.length, told]).toEqual([8, 0]);
  });
  test("copied, it is the same work again, for everyone, with nothing of single students", async () => {
    const plan = await fullPlan();
    const { handOuts } = await owner.change(NOW, (call) =>
      handOut(call, { plan, draftId: null, pastIsMeant: false }),
    );
    const { draftId } = await owner.change(NOW, (call) => copyHandOut(call, handOuts[0]!.id, []));
    const copy = (await owner.read(NOW, (call) => readDraft(call, draftId))).plan;
    expect((comparable(copy) as Plan).work).toEqual((comparable(plan) as Plan).work);
    expect(copy.rows[0]!.exceptions).toEqual([]);
    await owner.change(NOW, (call) => handOut(call, { plan: copy, draftId, pastIsMeant: false }));
  });
  test.each<[string, (plan: Plan) => void, string]>([
    ["no title", (p) => void (p.work.title = "  "), "work.title"],
    [
      "a version without a name",
      (p) => void (p.work.versions = [{ id: "v", name: " ", instructions: doc("x") as never }]),
      "work.versions[0].name",
    ],
    [
      "two versions of one name",
      (p) =>
        void (p.work.versions = ["B", "b"].map((name) => ({
          id: name,
          name,
          instructions: doc("x") as never,
        }))),
      "work.versions[1].name",
    ],
    [
      "a link that runs code",
      (p) =>
        void (p.work.materials = [
          { id: "m", kind: "link", use: "look", title: "x", href: "javascript:alert(1)" },
        ]),
      "work.materials[0]",
    ],
    [
      "two texts to write in",
      (p) =>
        void (p.work.materials = ["a", "b"].map((id) => ({
          id,
          kind: "text",
          use: "copy",
          title: id,
          doc: doc("x") as never,
        }))),
      "work.materials",
    ],
    [
      "a text to write in where nothing is written",
      (p) =>
        void (
          (p.work.parts = []),
          (p.work.materials = [
            { id: "m", kind: "text", use: "copy", title: "x", doc: doc("x") as never },
          ])
        ),
      "work.materials[0]",
    ],
    [
      "a goal that runs backwards",
      (p) => void ((p.work.wordsLeast = "200"), (p.work.wordsMost = "100")),
      "work.wordsMost",
    ],
    [
      "one answer to choose from",
      (p) =>
        void (p.work.selfAssessment = { question: "?", answers: "words", choices: ["well", " "] }),
      "work.selfAssessment",
    ],
    ["no points", (p) => void (p.counting.points = "0"), "counting.points"],
    [
      "a share above all",
      (p) =>
        void (p.counting.late = { kind: "deduct", percent: "120", per: "day", floorPercent: "0" }),
      "counting.late.percent",
    ],
    [
      "winning back more than was lost",
      (p) => void (p.counting.winBackPercent = "130"),
      "counting.winBackPercent",
    ],
    ["a due time that is none", (p) => void (p.rows[0]!.due = "2026-02-30T10:00"), "rows[0].due"],
    [
      "instructions that are no text",
      (p) => void (p.work.instructions = { type: "doc", content: [{ type: "iframe" }] } as never),
      "work.instructions",
    ],
  ])("%s is refused by its field, and nothing is made", async (_, spoil, field) => {
    const [before] = await database.sql<{ n: number }[]>`select count(*)::int as n from assignment`;
    await expect(give(spoil)).rejects.toMatchObject({ fields: { [field]: expect.any(String) } });
    expect(
      (await database.sql<{ n: number }[]>`select count(*)::int as n from assignment`)[0],
    ).toEqual(before);
  });
});

describe("the nights on which the clocks change", () => {
  // RFC 5545, section 3.3.5, for the hour that comes twice and the one that does not exist (Halifax, 2026 and 2027).
  test.each([
    ["2026-11-01T01:30", "2026-11-01T04:30:00.000Z"],
    ["2027-03-14T02:30", "2027-03-14T06:30:00.000Z"],
    ["2026-11-01T16:00", "2026-11-01T20:00:00.000Z"],
  ])("due %s is %s", async (due, instant) => {
    const id = await give((p) => void (p.rows[0]!.due = due));
    const [row] = await database.sql<
      { dueAt: Date }[]
    >`select due_at from hand_out where id = ${id}`;
    expect(row!.dueAt.toISOString()).toBe(instant);
  });
  test("moved over it in the calendar, 16:00 stays 16:00", async () => {
    const id = await give(
      (p) =>
        void ((p.rows[0]!.due = "2026-10-30T16:00"), (p.rows[0]!.promised = "2026-10-31T12:00")),
    );
    const moved = await owner.change(NOW, (call) =>
      moveDue(call, id, { day: "2026-11-03", tell: false }),
    );
    const { rows } = await planNow(id);
    expect([rows[0]!.due, moved.was]).toEqual(["2026-11-03T16:00", "2026-10-30"]);
    expect(rows[0]!.promised! > rows[0]!.due).toBe(true);
    await expect(
      owner.change(NOW, (call) => moveDue(call, id, { day: "2026-10-01", tell: false })),
    ).rejects.toThrow(Refused);
    expect((await planNow(id)).rows[0]!.due).toBe("2026-11-03T16:00");
  });
});

describe("what students see of it", () => {
  test("another version while they write; after hand-in the version stays", async () => {
    const version = crypto.randomUUID();
    const id = await give(
      (p) =>
        void (p.work.versions = [
          { id: version, name: "B", instructions: doc("The other way.") as never },
        ]),
    );
    const [stored] = await database.sql<
      { id: string }[]
    >`select assignment_version.id from assignment_version join hand_out using (assignment_id) where hand_out.id = ${id}`;
    const pieceId = await pieceOf(id, 0);
    await student(0).change(NOW, (call) => saveWork(call, pieceId, { doc: doc("begun") }, 0));
    const except = (versionId: string | null) =>
      owner.change(NOW, (call) =>
        setException(call, pieceId, { due: null, excused: false, versionId, tell: true }),
      );
    await except(stored!.id);
    const view = await student(0).read(NOW, (call) => pieceView(call, pieceId));
    expect([
      JSON.stringify(view.instructions).includes("other way"),
      view.notices.map((n) => n.words),
      JSON.stringify(view.work.doc).includes("begun"),
    ]).toEqual([true, ["Changed for you: the task was changed."], true]);
    await student(0).change(NOW, (call) => handIn(call, pieceId, { doc: doc("done") }, 1));
    await expect(except(null)).rejects.toThrow("handed in already");
    await expect(
      owner.change(NOW, (call) =>
        setException(call, pieceId, {
          due: null,
          excused: false,
          versionId: crypto.randomUUID(),
          tell: false,
        }),
      ),
    ).rejects.toThrow(NotFound);
  });
  test("excused: it is on no list of what is due, and never missing", async () => {
    const id = await give((p) => void (p.work.title = "Excusable"));
    const pieceId = await pieceOf(id, 1);
    await owner.change(NOW, (call) =>
      setException(call, pieceId, { due: null, excused: true, versionId: null, tell: false }),
    );
    const after = at("2026-10-20T12:00");
    const work = await student(1).read(after, (call) => workView(call));
    expect([
      work.dueByDay.flatMap((d) => d.items).some((i) => i.pieceId === pieceId),
      work.finished.some((i) => i.pieceId === pieceId),
    ]).toEqual([false, true]);
    expect(
      (await owner.read(after, (call) => handOutSheet(call, id))).lines.find(
        (l) => l.pieceId === pieceId,
      )!.moon,
    ).toMatchObject({ missing: false, excused: true });
    expect(
      (await student(1).read(after, (call) => pieceView(call, pieceId))).due.lateness,
    ).toBeNull();
  });
  test("an extension past closing keeps it open for that student alone", async () => {
    const id = await give((p) => void (p.rows[0]!.closes = "2026-10-16T18:00"));
    const [mine, theirs] = [await pieceOf(id, 0), await pieceOf(id, 1)];
    await owner.change(NOW, (call) =>
      setException(call, mine, {
        due: "2026-10-19T10:00",
        excused: false,
        versionId: null,
        tell: true,
      }),
    );
    const late = at("2026-10-18T10:00");
    await student(0).change(late, (call) => handIn(call, mine, { doc: doc("in") }, 0));
    expect((await student(0).read(late, (call) => pieceView(call, mine))).receipts[0]!.late).toBe(
      false,
    );
    await expect(
      student(1).change(late, (call) => handIn(call, theirs, { doc: doc("in") }, 0)),
    ).rejects.toThrow("closed");
  });
  test("rounds end on their day", async () => {
    const id = await give((p) => void (p.counting.roundsUntil = "2026-11-01T16:00"));
    const pieceId = await pieceOf(id, 0);
    await student(0).change(NOW, (call) => handIn(call, pieceId, { doc: doc("in") }, 0));
    await owner.change(NOW, (call) =>
      saveFeedback(call, pieceId, { overall: "Again", score: "", picks: {} }, 0),
    );
    await expect(
      owner.change(NOW, (call) =>
        handBack(call, pieceId, { outcome: "revise", due: "2026-11-02T10:00" }),
      ),
    ).rejects.toThrow("rounds of this work end");
    await owner.change(NOW, (call) =>
      handBack(call, pieceId, { outcome: "revise", due: "2026-11-01T10:00" }),
    );
  });
  test("withdrawn, nothing of it can be reached by any route; brought back it is as it was", async () => {
    const id = await give((p) => void (p.work.title = "Withdrawn work"));
    const pieceId = await pieceOf(id, 0);
    await student(0).change(NOW, (call) => openPiece(call, pieceId));
    await owner.change(NOW, (call) => withdraw(call, id, true));
    const token = await beginSession(database.sql, school.students[0]!.id, new Date());
    const bodies: Record<string, unknown> = {
      saveWork: { doc: doc("x") },
      handIn: { doc: doc("x") },
      answerMark: { request: "done", decision: null },
      sendMessage: { body: "x", markId: null },
    };
    for (const [name, entry] of endpoints.filter(
      ([, e]) => e.path.startsWith("/api/pieces/{pieceId}") && e.for === "signed-in",
    )) {
      const answer = await ask(entry as Endpoint, {
        params: { pieceId, markId: crypto.randomUUID(), materialId: crypto.randomUUID() },
        token,
        body: bodies[name],
        revision: 0,
      });
      expect({ name, refused: [404, 422].includes(answer.status) }).toEqual({
        name,
        refused: true,
      });
    }
    const lists = [
      await owner.read(NOW, (call) => todayView(call)),
      await owner.read(NOW, (call) => queueView(call, { handOutId: null, pile: "all" })),
      await asPerson(database.sql, school.guardian).read(NOW, (call) => weekView(call)),
      await owner.read(NOW, (call) => monthView(call, "2026-10")),
    ];
    expect(JSON.stringify(lists)).not.toContain("Withdrawn work");
    await owner.change(NOW, (call) => withdraw(call, id, false));
    expect((await student(0).read(NOW, (call) => pieceView(call, pieceId))).moon.state).toBe(
      "started",
    );
  });
  test("a feed leaves out what is not open yet, and says of what is excused or withdrawn that it is cancelled", async () => {
    const feed = await student(2).change(NOW, (call) =>
      setFeed(call, { alarmMinutes: null, newAddress: false }),
    );
    const titles = async () =>
      [
        ...(await readFeed(database.sql, feed.path!.split("/").at(-1)!, NOW, "https://x.example"))
          .replace(/\r\n[ \t]/g, "")
          .matchAll(/STATUS:CONFIRMED[^]*?SUMMARY:Due: (.*)/g),
      ].map((m) => m[1]!.trim());
    const before = await titles();
    const shown = await give((p) => void (p.work.title = "Shown"));
    await give((p) => void ((p.work.title = "Not yet"), (p.rows[0]!.opens = "2026-10-12T08:00")));
    const gone = await give((p) => void (p.work.title = "Gone"));
    await owner.change(NOW, (call) => withdraw(call, gone, true));
    expect((await titles()).filter((t) => !before.includes(t))).toEqual(["Shown"]);
    await owner.change(NOW, async (call) =>
      setException(call, await pieceOf(shown, 2), {
        due: null,
        excused: true,
        versionId: null,
        tell: false,
      }),
    );
    expect(await titles()).toEqual(before);
  });
  // RFC 5545, section 3.8.7.4: the sequence rises with each revision of the event.
  test("in a feed the sequence rises when the date moves, and what is withdrawn is cancelled for a month", async () => {
    const feed = await student(2).change(NOW, (call) =>
      setFeed(call, { alarmMinutes: null, newAddress: false }),
    );
    const id = await give((p) => void (p.work.title = "Moving"));
    const eventOf = async (now = NOW) => {
      const text = await readFeed(
        database.sql,
        feed.path!.split("/").at(-1)!,
        now,
        "https://x.example",
      );
      const event = text
        .replace(/\r\n[ \t]/g, "")
        .split("BEGIN:VEVENT")
        .find((e) => e.includes("Due: Moving"));
      const field = (name: string) => new RegExp(`${name}:(.*)\r`).exec(event ?? "")?.[1];
      if (event === undefined) return undefined;
      return {
        sequence: Number(field("SEQUENCE")),
        start: field("DTSTART"),
        status: field("STATUS"),
        changed: field("LAST-MODIFIED"),
      };
    };
    const first = (await eventOf())!;
    const later = new Date(NOW.getTime() + 60_000);
    await owner.change(later, (call) => moveDue(call, id, { day: "2026-10-21", tell: false }));
    const moved = (await eventOf())!;
    expect(moved.sequence).toBeGreaterThan(first.sequence);
    expect(moved.start).not.toBe(first.start);
    expect(moved.changed! > first.changed!).toBe(true);
    await owner.change(later, (call) => withdraw(call, id, true));
    const gone = (await eventOf())!;
    expect(gone).toMatchObject({ status: "CANCELLED" });
    expect(gone.sequence).toBeGreaterThan(moved.sequence);
    expect(await eventOf(new Date(NOW.getTime() + 31 * 86_400_000))).toBeUndefined();
  });
});

describe("a change of the school's days", () => {
  test("moves the extra time that is counted in them, for what is not due yet", async () => {
    const { groupId } = await owner.change(NOW, (call) =>
      makeGroup(call, school.sectionId, {
        name: "Extra",
        extra: { amount: 1, unit: "school days" },
        students: [school.students[3]!.id],
      }),
    );
    const id = await give(
      (p) => void ((p.work.title = "Extra"), (p.rows[0]!.due = "2026-10-16T16:00")),
    );
    const own = async () =>
      (
        await database.sql<
          { ownDueAt: Date }[]
        >`select own_due_at from piece where id = ${await pieceOf(id, 3)}`
      )[0]!.ownDueAt;
    expect(await own()).toEqual(at("2026-10-19T16:00"));
    const { id: closure } = await office.change(NOW, (call) =>
      putClosure(call, null, { name: "Storm", startsOn: "2026-10-19", endsOn: "2026-10-19" }),
    );
    expect(await own()).toEqual(at("2026-10-20T16:00"));
    await office.change(NOW, (call) =>
      putClosure(call, closure, { name: "Storm", startsOn: "2026-10-19", endsOn: "2026-10-20" }),
    );
    expect(await own()).toEqual(at("2026-10-21T16:00"));
    await office.change(NOW, (call) =>
      setSchoolDays(call, { meetsOn: [1, 2, 4, 5], dayEnds: "15:30" }),
    );
    expect(await own()).toEqual(at("2026-10-22T16:00"));
    await office.change(NOW, (call) =>
      setSchoolDays(call, { meetsOn: [1, 2, 3, 4, 5], dayEnds: "15:30" }),
    );
    await database.sql`delete from group_member where group_id = ${groupId}`;
  });
  test("months and terms lead on, over the turn of the year too", async () => {
    await office.change(NOW, (call) =>
      putTerm(call, null, { name: "winter", startsOn: "2027-01-05", endsOn: "2027-03-26" }),
    );
    const month = (asked: string | null, now = NOW) =>
      owner
        .read(now, (call) => monthView(call, asked))
        .then(({ title, previous, next, weeks }) => [
          title,
          previous,
          next,
          weeks.flat().filter((d) => d.inMonth).length,
        ]);
    expect(await month("2026-12")).toEqual(["December 2026", "2026-11", "2027-01", 31]);
    expect(await month("2027-01")).toEqual(["January 2027", "2026-12", "2027-02", 31]);
    expect(await month("2028-02")).toEqual(["February 2028", "2028-01", "2028-03", 29]);
    expect((await month("nonsense"))[0]).toBe("October 2026");
    const term = await owner.read(NOW, (call) => termView(call, null));
    expect([term.term, term.previous, term.next]).toEqual(["autumn", null, "winter"]);
    const next = await owner.read(NOW, (call) => termView(call, "winter"));
    expect([next.previous, next.weeks[0]]).toMatchObject(["autumn", { week: 1, items: [] }]);
  });
  test("a section's copy into the next term lands on its corresponding lesson", async () => {
    const [winter] = await database.sql<
      { id: string }[]
    >`select id from term where name = 'winter'`;
    const [course, section] = [crypto.randomUUID(), crypto.randomUUID()];
    await database.sql`insert into course (id, school_id, term_id, name) values (${course}, ${school.owner.schoolId}, ${winter!.id}, 'Earth & Sky 8')`;
    await database.sql`insert into section (id, course_id, name) values (${section}, ${course}, 'Gannet, winter')`;
    await database.sql`insert into section_teacher (section_id, person_id, role, may_hand_back) values (${section}, ${school.owner.id}, 'owner', true)`;
    await database.sql`insert into enrolment (section_id, student_id, joined_on) values (${section}, ${school.students[0]!.id}, '2026-09-08')`;
    await owner.change(NOW, (call) =>
      setMeetings(call, school.sectionId, [{ weekday: 2, starts: "09:00", ends: "09:50" }]),
    );
    await owner.change(NOW, (call) =>
      setMeetings(call, section, [{ weekday: 4, starts: "13:00", ends: "13:50" }]),
    );
    // The sixth Tuesday of autumn is 13 October; the sixth Thursday of winter, which begins on a Tuesday, is 11 February.
    const id = await give((p) => void (p.rows[0]!.due = "2026-10-13T09:00"));
    const { draftId } = await owner.change(NOW, (call) => copyHandOut(call, id, [section]));
    const { plan } = await owner.read(NOW, (call) => readDraft(call, draftId));
    expect(plan.rows).toMatchObject([{ sectionId: section, due: "2027-02-11T13:00" }]);
    await expect(
      asPerson(database.sql, school.stranger).change(NOW, (call) => copyHandOut(call, id, [])),
    ).rejects.toThrow(NotFound);
  });
});

test("an empty page is no plan to hand out, and says all that it lacks at once", async () => {
  const plan = emptyPlan();
  await expect(
    owner.change(NOW, (call) => handOut(call, { plan, draftId: null, pastIsMeant: false })),
  ).rejects.toMatchObject({
    fields: { rows: expect.any(String), "work.title": expect.any(String) },
  });
});
