import { afterAll, beforeAll, describe, expect, test } from "@jest/globals";
import sharp from "sharp";
import { wallToInstant } from "../../src/core/time/zone";
import { Conflict, Invalid, NotFound, Refused } from "../../src/core/refusals";
import type { Endpoint } from "../../src/core/api/endpoint";
import { contract } from "../../src/core/api/contract";
import { beginSession } from "../../src/server/auth/sessions";
import {
  removeCoTeacher,
  setCoTeacher,
  setCounting,
  setMeetings,
} from "../../src/server/classes/changeSetUp";
import {
  changeGroup,
  deleteGroup,
  findPeople,
  makeGroup,
  setMember,
} from "../../src/server/classes/members";
import { sectionSetUp } from "../../src/server/classes/setUp";
import { beginDraft, listDrafts, newPlan, readDraft } from "../../src/server/handouts/drafts";
import { handOutFormView } from "../../src/server/handouts/formView";
import { handOut } from "../../src/server/handouts/handOut";
import { planOf } from "../../src/server/handouts/planOf";
import { shelfView } from "../../src/server/overview/shelf";
import { sectionView } from "../../src/server/overview/sections";
import { pieceView } from "../../src/server/pieces/pieceView";
import {
  addRubric,
  changeRubric,
  deleteRubric,
  listRubrics,
} from "../../src/server/rubrics/rubrics";
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
import { handOutSimply, planFor, type Simple } from "../support/handOut";
import { ask } from "../support/routes";

/** Setting a section up, and what a teacher takes from the Shelf. */
let database: TestDatabase;
let school: SmallSchool;
let owner: ReturnType<typeof asPerson>;
let co: ReturnType<typeof asPerson>;
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

beforeAll(async () => {
  database = await testDatabase();
  answerOn(database);
  school = await smallSchool(database.sql, 4);
  owner = asPerson(database.sql, school.owner);
  co = asPerson(database.sql, school.co);
});
afterAll(() => endAnswers(database));
const setUp = () => owner.read(NOW, (call) => sectionSetUp(call, school.sectionId));

describe("lessons", () => {
  test("are kept in the order of the week, and lead the dates of a new page", async () => {
    await owner.change(NOW, (call) =>
      setMeetings(call, school.sectionId, [
        { weekday: 5, starts: "13:00", ends: "13:50" },
        { weekday: 3, starts: "08:30", ends: "09:20" },
      ]),
    );
    expect((await setUp()).meetings.map((m) => [m.weekday, m.starts])).toEqual([
      [3, "08:30"],
      [5, "13:00"],
    ]);
    // It is Wednesday 09:00, in the middle of a lesson: due in the same lesson a week from now.
    const plan = await owner.read(NOW, (call) => newPlan(call, [school.sectionId]));
    expect(plan.rows).toMatchObject([{ due: "2026-10-14T08:30", promised: "2026-10-21T15:30" }]);
  });
  test.each([
    [
      "that end before they start",
      [{ weekday: 1, starts: "10:00", ends: "09:00" }],
      "meetings[0].ends",
    ],
    [
      "that overlap",
      [
        { weekday: 1, starts: "09:00", ends: "10:00" },
        { weekday: 1, starts: "09:30", ends: "10:30" },
      ],
      "meetings[1].starts",
    ],
  ])("%s are refused, and those there were stay", async (_, meetings, field) => {
    await expect(
      owner.change(NOW, (call) => setMeetings(call, school.sectionId, meetings)),
    ).rejects.toMatchObject({ fields: { [field]: expect.any(String) } });
    expect((await setUp()).meetings).toHaveLength(2);
  });
  test("back to back is no overlap, and none at all is allowed", async () => {
    await owner.change(NOW, (call) =>
      setMeetings(call, school.sectionId, [
        { weekday: 1, starts: "09:00", ends: "10:00" },
        { weekday: 1, starts: "10:00", ends: "11:00" },
      ]),
    );
    await owner.change(NOW, (call) => setMeetings(call, school.sectionId, []));
    expect((await setUp()).meetings).toEqual([]);
  });
});

describe("teachers", () => {
  const tryHandOut = () =>
    co.change(NOW, (call) =>
      handOutSimply(call, school.sectionId, { ...base, title: "By the co-teacher" }),
    );
  test("a co-teacher hands out and sets exceptions only when the owner trusts them to hand back", async () => {
    await expect(tryHandOut()).rejects.toThrow(NotFound);
    await owner.change(NOW, (call) => setCoTeacher(call, school.sectionId, school.co.id, true));
    const { handOuts } = await tryHandOut();
    expect(handOuts).toHaveLength(1);
    // Setting the section up stays the owner's.
    await expect(co.change(NOW, (call) => setMeetings(call, school.sectionId, []))).rejects.toThrow(
      NotFound,
    );
    expect((await co.read(NOW, (call) => sectionSetUp(call, school.sectionId))).mayChange).toBe(
      false,
    );
    await owner.change(NOW, (call) => setCoTeacher(call, school.sectionId, school.co.id, false));
    await expect(tryHandOut()).rejects.toThrow(NotFound);
  });
  test("taken off, the section is not there any more; the owner cannot be made co-teacher, nor a student", async () => {
    await owner.change(NOW, (call) =>
      setCoTeacher(call, school.sectionId, school.stranger.id, false),
    );
    const stranger = asPerson(database.sql, school.stranger);
    expect((await stranger.read(NOW, (call) => sectionView(call, school.sectionId))).name).toBe(
      "Gannet",
    );
    await owner.change(NOW, (call) => removeCoTeacher(call, school.sectionId, school.stranger.id));
    await expect(stranger.read(NOW, (call) => sectionView(call, school.sectionId))).rejects.toThrow(
      NotFound,
    );
    await expect(
      owner.change(NOW, (call) => setCoTeacher(call, school.sectionId, school.owner.id, true)),
    ).rejects.toThrow(Refused);
    await expect(
      owner.change(NOW, (call) =>
        setCoTeacher(call, school.sectionId, school.students[0]!.id, true),
      ),
    ).rejects.toThrow(NotFound);
    await owner.change(NOW, (call) => removeCoTeacher(call, school.sectionId, school.owner.id));
    expect((await setUp()).teachers.map((t) => t.role)).toContain("owner");
  });
});

describe("students and groups", () => {
  test("people are found by a part of their name, in this school only, and never by a lone letter", async () => {
    const otherSchool = crypto.randomUUID();
    await database.sql`insert into school (id, name, time_zone) values (${otherSchool}, 'Other', 'Europe/Dublin')`;
    await database.sql`insert into person (id, school_id, kind, name, called, sort_name, email) values (gen_random_uuid(), ${otherSchool}, 'student', 'Student Elsewhere', 'S', 'S', 'else@where.example')`;
    const find = (text: string, kind: "student" | "teacher" = "student") =>
      owner
        .read(NOW, (call) => findPeople(call, { text, kind }))
        .then((found) => found.map((p) => p.name));
    expect(await find("student")).toEqual(["Student 1", "Student 2", "Student 3", "Student 4"]);
    expect([
      await find("s"),
      await find("%"),
      await find("Imke"),
      await find("Imke", "teacher"),
    ]).toEqual([[], [], [], ["Imke Solheim"]]);
    await expect(
      asPerson(database.sql, school.students[0]!).read(NOW, (call) =>
        findPeople(call, { text: "student", kind: "student" }),
      ),
    ).rejects.toThrow(NotFound);
    const [elsewhere] = await database.sql<
      { id: string }[]
    >`select id from person where email = 'else@where.example'`;
    await expect(
      owner.change(NOW, (call) =>
        setMember(call, school.sectionId, elsewhere!.id, { joinedOn: null, leftOn: null }),
      ),
    ).rejects.toThrow(NotFound);
  });
  test("nobody leaves before they have joined", async () => {
    await expect(
      owner.change(NOW, (call) =>
        setMember(call, school.sectionId, school.students[0]!.id, {
          joinedOn: "2026-10-01",
          leftOn: "2026-09-01",
        }),
      ),
    ).rejects.toThrow(Invalid);
  });
  test("a student can be in several groups; two of one name are refused; changes meet each other", async () => {
    const [a, b] = school.students.map((s) => s.id) as [string, string];
    const first = await owner.change(NOW, (call) =>
      makeGroup(call, school.sectionId, { name: "Readers", extra: null, students: [a, b] }),
    );
    await owner.change(NOW, (call) =>
      makeGroup(call, school.sectionId, {
        name: "Writers",
        extra: { amount: 1, unit: "days" },
        students: [a],
      }),
    );
    expect((await setUp()).students.find((s) => s.id === a)!.groups).toHaveLength(2);
    await expect(
      owner.change(NOW, (call) =>
        makeGroup(call, school.sectionId, { name: "readers", extra: null, students: [] }),
      ),
    ).rejects.toThrow(Invalid);
    await expect(
      owner.change(NOW, (call) =>
        makeGroup(call, school.sectionId, {
          name: "Strangers",
          extra: null,
          students: [school.outsider.id],
        }),
      ),
    ).rejects.toThrow(NotFound);
    await owner.change(NOW, (call) =>
      changeGroup(call, first.groupId, { name: "Night readers", extra: null, students: [b] }, 1),
    );
    await expect(
      owner.change(NOW, (call) =>
        changeGroup(call, first.groupId, { name: "x", extra: null, students: [] }, 1),
      ),
    ).rejects.toThrow(Conflict);
    await expect(co.change(NOW, (call) => deleteGroup(call, first.groupId))).rejects.toThrow(
      NotFound,
    );
    await owner.change(NOW, (call) => deleteGroup(call, first.groupId));
    expect((await setUp()).groups.map((g) => g.name)).toEqual(["Writers"]);
  });
});

describe("how work counts in a section", () => {
  test("categories keep their hand-outs through a change of names, also when two are swapped", async () => {
    const keep = (given: { id: string | null; name: string; weight: string }[]) => {
      const categories = given.map((one) => ({ drop: 0, shows: "by hand" as const, ...one }));
      return owner.change(NOW, (call) =>
        setCounting(call, school.sectionId, { late: { kind: "flag" }, categories }),
      );
    };
    await keep([
      { id: null, name: "Logs", weight: "40" },
      { id: null, name: "Letters", weight: "60,5" },
    ]);
    const plan = planFor(school.sectionId, base);
    plan.counting.category = "LOGS";
    const { handOuts } = await owner.change(NOW, (call) =>
      handOut(call, { plan, draftId: null, pastIsMeant: false }),
    );
    const [logs, letters] = (await setUp()).categories;
    expect([logs!.weight, letters!.weight]).toEqual(["40", "60.5"]);
    await keep([
      { id: logs!.id, name: "Letters", weight: "40" },
      { id: letters!.id, name: "Logs", weight: "60" },
    ]);
    expect((await owner.read(NOW, (call) => planOf(call, handOuts[0]!.id))).counting.category).toBe(
      "Letters",
    );
    await expect(
      keep([
        { id: null, name: "A", weight: "1" },
        { id: null, name: "a", weight: "1" },
      ]),
    ).rejects.toThrow(Invalid);
    await expect(keep([{ id: null, name: "A", weight: "much" }])).rejects.toThrow(Invalid);
    await keep([]);
    expect((await owner.read(NOW, (call) => planOf(call, handOuts[0]!.id))).counting.category).toBe(
      "",
    );
  });
});

describe("the page that hands out", () => {
  test("knows the load of each student by day alone, also of other teachers' work, and only one's own sections", async () => {
    await database.sql`insert into enrolment (section_id, student_id, joined_on) values (${school.otherSectionId}, ${school.students[0]!.id}, '2026-09-08')`;
    await asPerson(database.sql, school.stranger).change(NOW, (call) =>
      handOutSimply(call, school.otherSectionId, {
        ...base,
        title: "A secret of another teacher",
        due: "2026-10-22T10:00",
      }),
    );
    const form = await owner.read(NOW, (call) => handOutFormView(call));
    expect(form.sections.map((s) => s.name)).toEqual(["Gannet"]);
    expect(form.dueDays[school.students[0]!.id]).toContain("2026-10-22");
    expect(JSON.stringify(form)).not.toContain("secret");
    expect((await co.read(NOW, (call) => handOutFormView(call))).sections).toEqual([]);
  });
  test("a draft is its maker's alone, and asking twice makes one", async () => {
    const id = crypto.randomUUID();
    const plan = { ...planFor(school.sectionId, base), rows: [] };
    for (let n = 0; n < 2; n += 1)
      await owner.change(NOW, (call) => beginDraft(call, { id, plan, kept: false }));
    expect(
      (await owner.read(NOW, (call) => listDrafts(call))).filter((d) => d.id === id),
    ).toHaveLength(1);
    await expect(co.read(NOW, (call) => readDraft(call, id))).rejects.toThrow(NotFound);
    // Another person's id cannot be taken over.
    await expect(
      co.change(NOW, (call) => beginDraft(call, { id, plan, kept: false })),
    ).rejects.toThrow(NotFound);
    await expect(
      owner.change(NOW, (call) =>
        beginDraft(call, { id: crypto.randomUUID(), plan: { nonsense: true }, kept: false }),
      ),
    ).rejects.toThrow(Invalid);
  });
});

describe("the Shelf", () => {
  const rubric = (points: string) => ({
    criteria: [
      {
        id: crypto.randomUUID(),
        name: "Place",
        note: "",
        weight: "1",
        levels: [{ id: crypto.randomUUID(), name: "there", points, most: null, descriptor: "" }],
      },
    ],
  });
  test("a rubric not scored with is changed in its place; off the Shelf it stays with the work that has it", async () => {
    const made = await owner.change(NOW, (call) =>
      addRubric(call, { name: "R", rubric: rubric("4") }),
    );
    const changed = await owner.change(NOW, (call) =>
      changeRubric(call, made.id, { name: "R2", rubric: rubric("5"), scores: null }, made.revision),
    );
    expect([changed.id, changed.version, changed.possible]).toEqual([made.id, 1, "5"]);
    await expect(
      owner.change(NOW, (call) =>
        changeRubric(
          call,
          made.id,
          { name: "R3", rubric: rubric("6"), scores: null },
          made.revision,
        ),
      ),
    ).rejects.toThrow(Conflict);
    await expect(
      owner.change(NOW, (call) => addRubric(call, { name: "Broken", rubric: rubric("many") })),
    ).rejects.toThrow(Invalid);
    const plan = planFor(school.sectionId, { ...base, title: "With it" });
    plan.counting.rubricId = made.id;
    const { handOuts } = await owner.change(NOW, (call) =>
      handOut(call, { plan, draftId: null, pastIsMeant: false }),
    );
    await owner.change(NOW, (call) => deleteRubric(call, made.id));
    expect(await owner.read(NOW, (call) => listRubrics(call))).toEqual([]);
    const [piece] = await database.sql<
      { id: string }[]
    >`select id from piece where hand_out_id = ${handOuts[0]!.id} and student_id = ${school.students[0]!.id}`;
    expect(
      (
        await asPerson(database.sql, school.students[0]!).read(NOW, (call) =>
          pieceView(call, piece!.id),
        )
      ).rubric?.name,
    ).toBe("R2");
    await expect(
      asPerson(database.sql, school.stranger).change(NOW, (call) =>
        handOut(call, {
          plan: { ...planFor(school.otherSectionId, base), counting: { ...plan.counting } },
          draftId: null,
          pastIsMeant: false,
        }),
      ),
    ).rejects.toThrow(NotFound);
  });
  test("shows one's own drafts, work and files, each with where it is in use", async () => {
    const upload = await owner.change(NOW, (call) =>
      lookAtUpload(call, { name: "plan.pdf", bytes: Buffer.from("%PDF-1.4 nothing") }).then(
        (kept) => addUpload(call, kept),
      ),
    );
    const shelf = await owner.read(NOW, (call) => shelfView(call));
    expect(shelf.files).toMatchObject([{ id: upload.id, name: "plan.pdf", usedIn: 0 }]);
    expect(shelf.assignments.map((a) => a.title)).toContain("With it");
    expect(
      (
        await asPerson(database.sql, school.stranger).read(NOW, (call) => shelfView(call))
      ).assignments.map((a) => a.title),
    ).toEqual(["A secret of another teacher"]);
  });
});

describe("files as they go out", () => {
  test("a picture is made anew: upright, small enough, without its place; anything else is only a download", async () => {
    const token = await beginSession(database.sql, school.owner.id, new Date());
    const wide = await sharp({
      create: { width: 3000, height: 1500, channels: 3, background: "#0a5f6b" },
    })
      .withExif({ IFD0: { Copyright: "secret place" } })
      .jpeg()
      .toBuffer();
    const turned = await sharp(wide).withMetadata({ orientation: 6 }).toBuffer();
    const sent = await ask(contract.addUpload as Endpoint, {
      token,
      bytes: turned,
      fileName: "fjörd.jpg",
    });
    const { id, name, mediaType } = (await sent.json()) as {
      id: string;
      name: string;
      mediaType: string;
    };
    expect([name, mediaType]).toEqual(["fjörd.webp", "image/webp"]);
    const shown = await ask(contract.upload as Endpoint, { params: { uploadId: id }, token });
    const bytes = Buffer.from(await shown.arrayBuffer());
    const { width, height, exif } = await sharp(bytes).metadata();
    expect([width, height, exif]).toEqual([1200, 2400, undefined]);
    expect([
      shown.headers.get("content-type"),
      shown.headers.get("x-content-type-options"),
      shown.headers.get("content-security-policy"),
    ]).toEqual(["image/webp", "nosniff", "default-src 'none'; sandbox"]);
    expect(shown.headers.get("content-disposition")).toBe(
      "inline; filename*=UTF-8''fj%C3%B6rd.webp",
    );

    const page = await ask(contract.addUpload as Endpoint, {
      token,
      bytes: Buffer.from("<script>alert(1)</script>"),
      fileName: "evil.html",
    });
    const evil = (await page.json()) as { id: string };
    const given = await ask(contract.upload as Endpoint, { params: { uploadId: evil.id }, token });
    expect([given.headers.get("content-type"), given.headers.get("content-disposition")]).toEqual([
      "application/octet-stream",
      "attachment; filename*=UTF-8''evil.html",
    ]);
    expect(await given.text()).toBe("<script>alert(1)</script>");
  });
  test("an empty file and one that is too large are refused with a sentence", async () => {
    const token = await beginSession(database.sql, school.owner.id, new Date());
    const empty = await ask(contract.addUpload as Endpoint, { token, bytes: new Uint8Array(0) });
    expect([empty.status, await empty.json()]).toMatchObject([
      422,
      { title: "This file is empty." },
    ]);
    const large = await ask(contract.addUpload as Endpoint, {
      token,
      bytes: new Uint8Array(25_000_001),
    });
    expect([large.status, await large.json()]).toMatchObject([
      413,
      { detail: "Nothing was changed." },
    ]);
  });
  test.each(["2026-02-30", "2026-13-01", "yesterday"])(
    "a day that does not exist (%s) is a fault of its field",
    async (day) => {
      const token = await beginSession(database.sql, school.owner.id, new Date());
      const answer = await ask(contract.setMember as Endpoint, {
        params: { sectionId: school.sectionId, studentId: school.students[0]!.id },
        token,
        body: { joinedOn: day, leftOn: null },
      });
      expect([
        answer.status,
        Object.keys(((await answer.json()) as { fields: object }).fields),
      ]).toEqual([422, ["joinedOn"]]);
    },
  );
});
