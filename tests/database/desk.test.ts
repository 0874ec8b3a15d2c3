import { uuidv7 } from "uuidv7";
import { afterAll, beforeAll, describe, expect, test } from "@jest/globals";
import { aPart } from "../../src/core/handouts/parts";
import type { Mark } from "@/core/marks/schema";
import type { Question } from "../../src/core/questions/question";
import {
  addComment,
  changeComment,
  countDrafts,
  readBank,
  readUses,
} from "../../src/server/comments/bank";
import { bringIn, readBankIn, saidBefore } from "../../src/server/comments/exchange";
import type { Person } from "../../src/server/call";
import { acrossCriterion, choosePick } from "../../src/server/marking/across";
import { annotationsIn, annotationsOut } from "../../src/server/marking/annotations";
import { setAnonymous, setExcused, setFlag } from "../../src/server/marking/flag";
import { here } from "../../src/server/marking/desk/here";
import { acrossQuestions } from "../../src/server/marking/judgements";
import { judgeAll, judgeOne } from "@/server/marking/judging";
import {
  addPrivateNote,
  deletePrivateNote,
  readPrivateNotes,
} from "../../src/server/marking/privateNotes";
import { readSettings, setSetting } from "../../src/server/marking/desk/setting";
import { versionShown } from "../../src/server/marking/desk/versions";
import { deskPiece } from "../../src/server/marking/desk/deskPiece";
import { saveFeedback } from "../../src/server/marking/draft";
import { addMark, changeMark } from "../../src/server/marking/marks";
import { handBack } from "../../src/server/handingBack/handBack";
import { handIn } from "../../src/server/pieces/moves";
import { pieceView } from "../../src/server/pieces/pieceView";
import { deskQueue } from "../../src/server/overview/queue";
import { addSet } from "../../src/server/questions/sets";
import { addRubric } from "../../src/server/rubrics/rubrics";
import { addUpload, lookAtUpload, readUpload } from "../../src/server/uploads/uploads";
import { photo, putFile, recording } from "../support/files";
import {
  asPerson,
  doc,
  smallSchool,
  testDatabase,
  type SmallSchool,
  type TestDatabase,
} from "../support/database";
import { handOutSimply } from "../support/handOut";

const PHOTOS = "00000000-0000-4000-8000-0000000000f1";
const SOUND = "00000000-0000-4000-8000-0000000000f2";
const ASKED = "00000000-0000-4000-8000-0000000000f3";
const WHO: Question = {
  id: "00000000-0000-4000-8000-0000000000a1",
  kind: "short text",
  text: "Who keeps the gauge?",
  points: "2",
  accepted: ["the harbour master"],
  exactCase: false,
  exactAccents: false,
  exactSpaces: false,
};
const RUBRIC = {
  name: "Log",
  rubric: {
    halves: true,
    criteria: ["Seen", "Meant"].map((name, n) => ({
      id: `00000000-0000-4000-8000-0000000000b${n}`,
      name,
      note: "",
      weight: "1",
      levels: [4, 2].map((points) => ({
        id: `00000000-0000-4000-8000-000000000${n}c${points}`,
        name: `level ${points}`,
        points: String(points),
        most: null,
        descriptor: "",
      })),
    })),
  },
};

let database: TestDatabase;
let school: SmallSchool;
let handOutId: string;
const pieces: string[] = [];
const items: Record<string, string> = {};
const now = new Date("2026-11-02T15:00:00Z");
const later = (minutes: number) => new Date(now.getTime() + minutes * 60_000);
const as = (who: Person) => asPerson(database.sql, who);
const owner = () => as(school.owner);
const note = (versionId: string, more: Partial<Mark> & { commentId?: string } = {}) => ({
  id: uuidv7(),
  kind: "note" as const,
  nature: "remark" as const,
  start: 0,
  end: 0,
  body: "Look.",
  replacement: "",
  commentId: null,
  versionId,
  ...more,
});
const versionOf = async (pieceId: string) =>
  (await owner().read(now, (call) => deskPiece(call, pieceId))).versionId!;

beforeAll(async () => {
  database = await testDatabase();
  const { sql } = database;
  school = await smallSchool(sql, 4);
  const set = await owner().change(now, (call) =>
    addSet(call, { name: "Gauge", questions: [WHO] }),
  );
  const rubric = await owner().change(now, (call) => addRubric(call, RUBRIC));
  await owner().change(now, (call) =>
    handOutSimply(call, school.sectionId, {
      title: "Log",
      instructions: doc("Write."),
    }),
  );
  await sql`update assignment set parts = parts || ${sql.json([aPart(PHOTOS, "photos"), aPart(SOUND, "sound"), aPart(ASKED, "questions", { setId: set.id, show: "at hand-in" })] as never)}, rubric_id = ${rubric.id}`;
  await sql`insert into assignment_questions (assignment_id, part_id, set_id) select id, ${ASKED}, ${set.id} from assignment`;
  [{ id: handOutId }] = (await sql<{ id: string }[]>`select id from hand_out`) as unknown as [
    { id: string },
  ];
  const answers = ["the harbour master", "the harbour-master", "The Harbour-Master", "my uncle"];
  for (const [n, student] of school.students.entries()) {
    const [piece] = await sql<
      { id: string }[]
    >`select id from piece where student_id = ${student.id}`;
    pieces.push(piece!.id);
    if (n === 0) {
      items.photo = (
        await putFile(sql, student, piece!.id, PHOTOS, "Student 1 graph.jpg", await photo(), now)
      ).id;
      items.sound = (
        await putFile(
          sql,
          student,
          piece!.id,
          SOUND,
          "spoken.webm",
          await recording("sound", 2),
          now,
        )
      ).id;
    }
    await as(student).change(now, (call) =>
      handIn(
        call,
        piece!.id,
        {
          doc: doc(`It rained on day ${n}. The gauge stood by the wall.`),
          answers: { [ASKED]: { [WHO.id]: answers[n]! } },
        },
        n === 0 ? 0 : 0,
      ),
    );
  }
}, 60_000);
afterAll(() => database?.drop());

describe("marks on every kind of work", () => {
  test("a pin, ink, a stamp and a time note stand on the files of the version, and come back to the student as they were put", async () => {
    const versionId = await versionOf(pieces[0]!);
    const put = (more: Partial<Mark>) =>
      owner().change(now, (call) => addMark(call, pieces[0]!, note(versionId, more)));
    await put({
      place: { on: "picture", itemId: items.photo!, area: { x: 10, y: 20, w: 0, h: 0 } },
      nature: "request",
      body: "Which **unit**?",
      points: "-0.5",
      criterionId: RUBRIC.rubric.criteria[0]!.id,
    });
    await put({
      kind: "ink",
      body: "",
      place: { on: "picture", itemId: items.photo!, area: { x: 1, y: 1, w: 5, h: 5 } },
      strokes: [
        {
          ink: "plum",
          width: 0.5,
          points: [
            [1, 1, 0.5],
            [6, 6, 0.9],
          ],
        },
      ],
    });
    await put({
      kind: "stamp",
      body: "Units?",
      place: { on: "picture", itemId: items.photo!, area: { x: 50, y: 5, w: 0, h: 0 } },
    });
    await put({
      place: { on: "time", itemId: items.sound!, from: 0.5, to: 1.5 },
      nature: "praise",
      body: "Calm.",
    });
    await put({ place: { on: "whole", itemId: null }, body: "On the whole." });
    await owner().change(now, (call) =>
      addMark(call, pieces[0]!, {
        ...note(versionId, { kind: "transpose", replacement: "day on" }),
        start: 10,
        end: 16,
        body: "",
      }),
    );
    const draft = await owner().read(now, (call) => deskPiece(call, pieces[0]!));
    expect(draft.marks).toHaveLength(6);
    expect(
      (await as(school.students[0]!).read(now, (call) => pieceView(call, pieces[0]!))).marks,
    ).toEqual([]);
    await owner().change(later(1), (call) =>
      handBack(call, pieces[0]!, { outcome: "revise", due: "2026-11-20T16:00" }),
    );
    const seen = await as(school.students[0]!).read(later(2), (call) =>
      pieceView(call, pieces[0]!),
    );
    const byId = new Map(draft.marks.map((m) => [m.id, m]));
    for (const mark of seen.marks)
      expect({
        place: mark.place,
        strokes: mark.strokes,
        body: mark.body,
        points: mark.points,
        gone: mark.gone,
      }).toEqual({
        place: byId.get(mark.id)!.place,
        strokes: byId.get(mark.id)!.strokes,
        body: byId.get(mark.id)!.body,
        points: byId.get(mark.id)!.points,
        gone: false,
      });
    expect(seen.markedItems.map((i) => i.id).sort()).toEqual([items.photo, items.sound].sort());
    expect(seen.openRequests).toBe(1);
  });
  test.each<[string, () => Partial<Mark>, RegExp]>([
    [
      "a file of another piece",
      () => ({ place: { on: "picture", itemId: uuidv7(), area: { x: 1, y: 1, w: 0, h: 0 } } }),
      /not in what was handed in/,
    ],
    [
      "a moment of a photo",
      () => ({ place: { on: "time", itemId: items.photo!, from: 1, to: null } }),
      /cannot stand on this file/,
    ],
    [
      "ink on words",
      () => ({
        kind: "ink",
        start: 0,
        end: 2,
        strokes: [{ ink: "tide", width: 1, points: [[1, 1, 1]] }],
      }),
      /Ink goes on/,
    ],
    ["a place that is none", () => ({ place: { on: "nowhere" } as never }), /cannot be read/],
    [
      "a stamp that asks",
      () => ({ kind: "star", nature: "request", start: 0, end: 2, body: "" }),
      /asks for nothing/,
    ],
  ])("%s is refused in words", async (_name, more, why) => {
    const versionId = await versionOf(pieces[0]!);
    await expect(
      owner().change(later(3), (call) => addMark(call, pieces[0]!, note(versionId, more()))),
    ).rejects.toThrow(why);
  });
  test("a change moves a mark, and leaves alone what it does not name; a mark on words stays on words", async () => {
    const versionId = await versionOf(pieces[1]!);
    const made = await owner().change(now, (call) =>
      addMark(call, pieces[1]!, note(versionId, { start: 0, end: 2, points: "1" })),
    );
    const changed = await owner().change(now, (call) =>
      changeMark(
        call,
        { pieceId: pieces[1]!, markId: made.id },
        { nature: "praise", body: "Yes.", replacement: "" },
        made.revision,
      ),
    );
    expect(changed).toMatchObject({ nature: "praise", points: "1", start: 0, end: 2 });
    await expect(
      owner().change(now, (call) =>
        changeMark(
          call,
          { pieceId: pieces[1]!, markId: made.id },
          { nature: "remark", body: "x", replacement: "", place: { on: "whole", itemId: null } },
          changed.revision,
        ),
      ),
    ).rejects.toThrow(/stays on words/);
    await expect(
      owner().change(now, (call) =>
        changeMark(
          call,
          { pieceId: pieces[1]!, markId: made.id },
          { nature: "remark", body: "x", replacement: "" },
          made.revision,
        ),
      ),
    ).rejects.toThrow(/changed since/);
  });
  test("web annotations go out and come in; what is there already is not put there twice", async () => {
    const out = await (await owner().read(now, (call) => annotationsOut(call, pieces[1]!))).text();
    expect(JSON.parse(out)).toMatchObject({
      type: "AnnotationCollection",
      total: 1,
      first: { items: [{ type: "Annotation", motivation: "assessing" }] },
    });
    expect(
      await owner().change(now, (call) => annotationsIn(call, pieces[1]!, { text: out })),
    ).toEqual({ added: 0, faults: [] });
    const one = {
      type: "Annotation",
      bodyValue: "From elsewhere",
      target: {
        source: `urn:uuid:${await versionOf(pieces[1]!)}`,
        selector: { type: "TextQuoteSelector", exact: "gauge" },
      },
    };
    const { added, faults } = await owner().change(now, (call) =>
      annotationsIn(call, pieces[1]!, {
        text: JSON.stringify([one, { ...one, target: "urn:uuid:other" }]),
      }),
    );
    expect([added, faults.length]).toEqual([1, 1]);
    await expect(
      owner().change(now, (call) => annotationsIn(call, pieces[1]!, { text: "{" })),
    ).rejects.toThrow(/not JSON/);
  });
});

describe("comment banks", () => {
  test("shared with a course or the school they can be used by others, and changed by none of them", async () => {
    const mine = await owner().change(now, (call) =>
      addComment(call, { text: "Only mine.", shorthand: "", nature: "remark", favourite: null }),
    );
    const [course] = await database.sql<{ id: string }[]>`select id from course`;
    const forCourse = await owner().change(now, (call) =>
      addComment(call, {
        text: "For the course.",
        shorthand: "fc",
        nature: "request",
        favourite: 3,
        share: "course",
        courseId: course!.id,
        folder: " Sky // Wind ",
        tags: ["#first", "first"],
      }),
    );
    const forSchool = await owner().change(now, (call) =>
      addComment(call, {
        text: "For the school.",
        shorthand: "",
        nature: "praise",
        favourite: null,
        share: "school",
      }),
    );
    expect(forCourse).toMatchObject({ folder: "Sky/Wind", tags: ["first"] });
    const seen = await as(school.stranger).read(now, readBank);
    expect(seen.map((c) => c.text).sort()).toEqual(["For the course.", "For the school."]);
    // A key is its owner's own.
    expect(seen.every((c) => !c.mine && c.favourite === null)).toBe(true);
    await expect(
      as(school.stranger).change(now, (call) =>
        changeComment(
          call,
          forSchool.id,
          { text: "x", shorthand: "", nature: "remark", favourite: null },
          1,
        ),
      ),
    ).rejects.toThrow();
    const versionId = await versionOf(pieces[2]!);
    await expect(
      as(school.co).change(now, (call) =>
        addMark(call, pieces[2]!, note(versionId, { start: 0, end: 2, commentId: mine.id })),
      ),
    ).rejects.toThrow();
    await as(school.co).change(now, (call) =>
      addMark(
        call,
        pieces[2]!,
        note(versionId, { start: 0, end: 2, commentId: forSchool.id, body: "For the school." }),
      ),
    );
    expect(
      (await as(school.co).read(now, (call) => readUses(call, handOutId)))[forSchool.id],
    ).toMatchObject({ here: 1, on: ["It"], days: 0 });
  });
  test("a change follows into drafts that say it unchanged, and never into what was handed back", async () => {
    const comment = await owner().change(now, (call) =>
      addComment(call, {
        text: "{name}, say how much.",
        shorthand: "much",
        nature: "request",
        favourite: null,
      }),
    );
    for (const pieceId of [pieces[2]!, pieces[3]!]) {
      const versionId = await versionOf(pieceId);
      await owner().change(now, (call) =>
        addMark(
          call,
          pieceId,
          note(versionId, {
            start: 0,
            end: 2,
            commentId: comment.id,
            body: "Student, say how much.",
          }),
        ),
      );
      await owner().change(now, (call) =>
        addMark(
          call,
          pieceId,
          note(versionId, {
            start: 3,
            end: 9,
            commentId: comment.id,
            body: "Said in other words.",
          }),
        ),
      );
    }
    await owner().change(now, (call) =>
      handBack(call, pieces[3]!, { outcome: "final", due: null }),
    );
    expect(await owner().read(now, (call) => countDrafts(call, comment.id))).toEqual({ drafts: 1 });
    const changed = await owner().change(now, (call) =>
      changeComment(
        call,
        comment.id,
        {
          text: "{name}, say how much, in mm.",
          shorthand: "much",
          nature: "request",
          favourite: null,
          drafts: true,
        },
        comment.revision,
      ),
    );
    expect(changed.draftsChanged).toBe(1);
    const bodies = async (n: number) =>
      (await owner().read(now, (call) => deskPiece(call, pieces[n]!))).marks
        .filter((m) => m.commentId === comment.id)
        .map((m) => m.body);
    expect(await bodies(2)).toEqual(["Student, say how much, in mm.", "Said in other words."]);
    expect(await bodies(3)).toEqual(["Student, say how much.", "Said in other words."]);
    expect(
      (await as(school.students[3]!).read(now, (call) => pieceView(call, pieces[3]!))).marks.map(
        (m) => m.body,
      ),
    ).toEqual(["Student, say how much.", "Said in other words."]);
  });
  test("what is said a second time is noticed, unless the bank says it", async () => {
    const versionId = await versionOf(pieces[1]!);
    const said = (body: string) =>
      owner().change(now, (call) =>
        addMark(call, pieces[1]!, note(versionId, { start: 0, end: 2, body })),
      );
    await said("Where did you stand when you read the gauge?");
    expect(
      await owner().read(now, (call) =>
        saidBefore(call, { text: "Where did you stand when you read the gauge?" }),
      ),
    ).toMatchObject({ times: 1, inBank: null });
    await said("Where did you stand, when you read this gauge?");
    expect(
      (
        await owner().read(now, (call) =>
          saidBefore(call, { text: "Where did you stand when you read the gauge?" }),
        )
      ).times,
    ).toBe(2);
    // Another teacher's notes do not count for this one.
    expect(
      (
        await as(school.co).read(now, (call) =>
          saidBefore(call, { text: "Where did you stand when you read the gauge?" }),
        )
      ).times,
    ).toBe(0);
    expect(
      (
        await owner().read(now, (call) =>
          saidBefore(call, { text: "So please say how much, in mm" }),
        )
      ).inBank,
    ).not.toBeNull();
  });
  test("a list is looked over first, and brings only what is new", async () => {
    const text = "one more: Which of the two is it?\nfor the course.\nFor  the COURSE.";
    const { merged } = await owner().read(now, (call) => readBankIn(call, { text }));
    expect(merged.map((m) => m.state)).toEqual(["new", "the same", "the same"]);
    const bring = () =>
      owner().prepared(
        now,
        (call) => readBankIn(call, { text }),
        (call, read) => bringIn(call, { alsoNear: [], folder: "Brought" }, read),
      );
    expect(await bring()).toEqual({ added: 1 });
    expect(await bring()).toEqual({ added: 0 });
    expect((await owner().read(now, readBank)).find((c) => c.folder === "Brought")).toMatchObject({
      text: "one more: Which of the two is it?",
    });
  });
});

describe("judging answers", () => {
  const sums = async () =>
    Promise.all(
      pieces.map(
        async (id) => (await owner().read(now, (call) => deskPiece(call, id))).sheets[0]!.points,
      ),
    );
  test("alike answers stand together, and one judgement serves them all", async () => {
    const { questions } = await owner().read(now, (call) => acrossQuestions(call, handOutId));
    expect(questions[0]!.groups.map((g) => [g.shown, g.given.length, g.state])).toEqual([
      ["the harbour-master", 2, "wrong"],
      ["my uncle", 1, "wrong"],
      ["the harbour master", 1, "right"],
    ]);
    expect(await sums()).toEqual(["2", "0", "0", "0"]);
    await owner().change(now, (call) =>
      saveFeedback(call, pieces[1]!, { overall: "", score: "0/2", picks: {} }, 0),
    );
    const { touched } = await owner().change(now, (call) =>
      judgeAll(call, handOutId, {
        partId: ASKED,
        questionId: WHO.id,
        key: questions[0]!.groups[0]!.key,
        points: "2",
      }),
    );
    expect(touched).toEqual([
      { pieceId: pieces[1], student: "Student 2", before: "0", after: "2", score: "followed" },
      { pieceId: pieces[2], student: "Student 3", before: "0", after: "2", score: "none" },
    ]);
    expect(await sums()).toEqual(["2", "2", "2", "0"]);
    // Two of two questions' points, brought to the work's eight.
    expect(await owner().read(now, (call) => deskPiece(call, pieces[1]!))).toMatchObject({
      scoreTyped: "2/2",
      scoreWords: "8 / 8",
    });
  });
  test("it can be taken back for one, and for all", async () => {
    const { touched } = await owner().change(now, (call) =>
      judgeOne(call, pieces[2]!, { partId: ASKED, questionId: WHO.id, alone: true, points: null }),
    );
    expect(touched.map((t) => [t.student, t.after])).toEqual([["Student 3", "0"]]);
    await owner().change(now, (call) =>
      judgeOne(call, pieces[2]!, { partId: ASKED, questionId: WHO.id, alone: true, points: "1" }),
    );
    expect(await sums()).toEqual(["2", "2", "1", "0"]);
    await owner().change(now, (call) =>
      judgeOne(call, pieces[2]!, { partId: ASKED, questionId: WHO.id, alone: false, points: null }),
    );
    expect(await sums()).toEqual(["2", "2", "2", "0"]);
    await expect(
      owner().change(now, (call) =>
        judgeAll(call, handOutId, { partId: ASKED, questionId: WHO.id, key: "x", points: "40" }),
      ),
    ).rejects.toThrow(/twice/);
  });
  test("a student hears of a judgement when it is handed back, not before", async () => {
    const told = async () =>
      (await as(school.students[2]!).read(now, (call) => pieceView(call, pieces[2]!))).parts.find(
        (p) => p.id === ASKED,
      )!.questions!.verdicts[WHO.id]!.state;
    expect(await told()).toBe("wrong");
    await owner().change(later(5), (call) =>
      handBack(call, pieces[2]!, { outcome: "final", due: null }),
    );
    expect(await told()).toBe("right");
    const { touched } = await owner().change(later(6), (call) =>
      judgeAll(call, handOutId, {
        partId: ASKED,
        questionId: WHO.id,
        key: "the harbour-master",
        points: "0",
      }),
    );
    expect(touched.map((t) => t.student)).toEqual(["Student 2", "Student 3"]);
    // What was handed back stays as it was said.
    expect(await told()).toBe("right");
  });
});

describe("by criterion", () => {
  const [seen, meant] = RUBRIC.rubric.criteria as [
    (typeof RUBRIC.rubric.criteria)[number],
    (typeof RUBRIC.rubric.criteria)[number],
  ];
  test("a level is chosen in one piece after the other, and the sum follows when all are", async () => {
    const { lines } = await owner().read(now, (call) => acrossCriterion(call, handOutId, seen.id));
    expect(lines.map((l) => l.student)).toEqual([
      "Student 1",
      "Student 2",
      "Student 3",
      "Student 4",
    ]);
    const line = lines.find((l) => l.pieceId === pieces[3])!;
    const first = await owner().change(now, (call) =>
      choosePick(
        call,
        pieces[3]!,
        { criterionId: seen.id, pick: { levelId: seen.levels[0]!.id, points: "4" } },
        line.revision,
      ),
    );
    expect(first.score).toBe("");
    // Halfway between 2 and 4: 4 + 3 of 8.
    const second = await owner().change(now, (call) =>
      choosePick(
        call,
        pieces[3]!,
        { criterionId: meant.id, pick: { levelId: meant.levels[1]!.id, points: "3" } },
        first.revision,
      ),
    );
    expect(second.score).toBe("7");
    const third = await owner().change(now, (call) =>
      choosePick(call, pieces[3]!, { criterionId: meant.id, pick: null }, second.revision),
    );
    expect(third.score).toBe("");
  });
  test("a co-teacher's choice in between is not lost", async () => {
    const { lines } = await owner().read(now, (call) => acrossCriterion(call, handOutId, seen.id));
    const { revision } = lines.find((l) => l.pieceId === pieces[1])!;
    await as(school.co).change(now, (call) =>
      choosePick(
        call,
        pieces[1]!,
        { criterionId: seen.id, pick: { levelId: seen.levels[1]!.id, points: "2" } },
        revision,
      ),
    );
    await expect(
      owner().change(now, (call) =>
        choosePick(
          call,
          pieces[1]!,
          { criterionId: seen.id, pick: { levelId: seen.levels[0]!.id, points: "4" } },
          revision,
        ),
      ),
    ).rejects.toMatchObject({ theirs: { picks: { [seen.id]: { points: "2" } } } });
  });
});

describe("private notes", () => {
  test("are for the section's teachers, with their files; a note on the student shows on all their pieces", async () => {
    const upload = await owner().change(now, (call) =>
      lookAtUpload(call, { name: "talk.txt", bytes: Buffer.from("what was said") }).then((kept) =>
        addUpload(call, kept),
      ),
    );
    await owner().change(now, (call) =>
      addPrivateNote(call, pieces[1]!, {
        about: "student",
        body: "Ask about glasses.",
        uploads: [upload.id],
      }),
    );
    const notes = await as(school.co).read(now, (call) => readPrivateNotes(call, pieces[1]!));
    expect(notes).toMatchObject([
      {
        about: "student",
        by: "Odalys Brandt",
        mine: false,
        body: "Ask about glasses.",
        files: [{ name: "talk.txt" }],
      },
    ]);
    await as(school.co).read(now, (call) => readUpload(call, upload.id));
    for (const who of [school.students[1]!, school.stranger, school.guardian, school.office])
      await expect(as(who).read(now, (call) => readUpload(call, upload.id))).rejects.toThrow();
    expect(
      JSON.stringify(
        await as(school.students[1]!).read(now, (call) => pieceView(call, pieces[1]!)),
      ),
    ).not.toContain("glasses");
    await expect(
      as(school.co).change(now, (call) => deletePrivateNote(call, pieces[1]!, notes[0]!.id)),
    ).rejects.toThrow();
    await owner().change(now, (call) => deletePrivateNote(call, pieces[1]!, notes[0]!.id));
    expect(await owner().read(now, (call) => readPrivateNotes(call, pieces[1]!))).toEqual([]);
    await expect(as(school.co).read(now, (call) => readUpload(call, upload.id))).rejects.toThrow();
  });
  test("a file that is not one's own cannot be put into a note", async () => {
    const upload = await as(school.co).change(now, (call) =>
      lookAtUpload(call, { name: "x.txt", bytes: Buffer.from("x") }).then((kept) =>
        addUpload(call, kept),
      ),
    );
    await expect(
      owner().change(now, (call) =>
        addPrivateNote(call, pieces[1]!, { about: "piece", body: "x", uploads: [upload.id] }),
      ),
    ).rejects.toThrow(/not there any more/);
  });
});

describe("two teachers, interruptions, and names", () => {
  test("who is at a piece, whose change came last, and that there was one", async () => {
    const first = await owner().change(later(10), (call) =>
      here(call, pieces[1]!, { active: true }),
    );
    expect(first.others).toEqual([]);
    expect(
      (await as(school.co).change(later(10.1), (call) => here(call, pieces[1]!, { active: true })))
        .others,
    ).toEqual(["Odalys Brandt"]);
    const versionId = await versionOf(pieces[1]!);
    await as(school.co).change(later(10.15), (call) =>
      addMark(call, pieces[1]!, note(versionId, { start: 0, end: 2, body: "From Ruben." })),
    );
    const second = await owner().change(later(10.2), (call) =>
      here(call, pieces[1]!, { active: true }),
    );
    expect(second).toMatchObject({ others: ["Ruben Achterberg"], lastBy: "Ruben Achterberg" });
    expect(second.stamp).not.toBe(first.stamp);
    expect((await owner().read(later(10.2), (call) => deskPiece(call, pieces[1]!))).stamp).toBe(
      second.stamp,
    );
    // Gone home.
    expect(
      (await owner().change(later(12), (call) => here(call, pieces[1]!, { active: true }))).others,
    ).toEqual([]);
  });
  test("time counts while one is there and at work, and not the coffee between", async () => {
    const seconds = async () =>
      (
        await database.sql<
          { seconds: number }[]
        >`select seconds from at_desk where piece_id = ${pieces[0]!} and person_id = ${school.owner.id}`
      )[0]!.seconds;
    const at = (second: number, active = true) =>
      owner().change(new Date(now.getTime() + 3_600_000 + second * 1000), (call) =>
        here(call, pieces[0]!, { active }),
      );
    await at(0);
    await at(9);
    await at(18);
    expect(await seconds()).toBe(18);
    await at(27, false);
    await at(900);
    expect(await seconds()).toBe(18);
    await at(909);
    expect(await seconds()).toBe(27);
    expect(
      (await owner().read(now, (call) => deskQueue(call, { handOutId, pile: "all" }))).seconds,
    ).toContain(27);
  });
  test("where one was is known on another machine", async () => {
    await owner().change(now, (call) =>
      setSetting(call, {
        name: "desk.place",
        value: { pile: "all", handOut: handOutId, piece: pieces[2], scroll: 120 },
      }),
    );
    await owner().change(now, (call) =>
      setSetting(call, { name: "desk.keys", value: { next: "j" } }),
    );
    expect(await owner().read(now, readSettings)).toEqual({
      "desk.place": { pile: "all", handOut: handOutId, piece: pieces[2], scroll: 120 },
      "desk.keys": { next: "j" },
    });
    expect(await as(school.co).read(now, readSettings)).toEqual({});
    await expect(
      owner().change(now, (call) =>
        setSetting(call, { name: "desk.stamps", value: ["x".repeat(9000)] }),
      ),
    ).rejects.toThrow(/cannot be kept/);
  });
  test("flags are a teacher's word; an excuse is told to the student", async () => {
    await as(school.co).change(now, (call) => setFlag(call, pieces[3]!, { flag: "on paper" }));
    expect((await owner().read(now, (call) => deskPiece(call, pieces[3]!))).flag).toBe("on paper");
    expect(
      JSON.stringify(
        await as(school.students[3]!).read(now, (call) => pieceView(call, pieces[3]!)),
      ),
    ).not.toContain("on paper");
    await expect(
      as(school.co).change(now, (call) => setExcused(call, pieces[3]!, { excused: true })),
    ).rejects.toThrow();
    await owner().change(now, (call) => setExcused(call, pieces[3]!, { excused: true }));
    expect(
      (await as(school.students[3]!).read(now, (call) => pieceView(call, pieces[3]!))).notices[0]!
        .words,
    ).toContain("you are excused");
  });
  test("with names hidden nothing on the Desk says whose a piece is, until it is handed back", async () => {
    await owner().change(now, (call) => setAnonymous(call, handOutId, { anonymous: true }));
    const queue = (await owner().read(now, (call) => deskQueue(call, { handOutId, pile: "all" })))
      .items;
    const names = queue.map((q) => q.student);
    expect(names.filter((n) => n.startsWith("Student")).sort()).toEqual([
      "Student 1",
      "Student 3",
      "Student 4",
    ]);
    const hidden = await owner().read(now, (call) => deskPiece(call, pieces[1]!));
    expect(hidden.student).toMatch(/^Piece \d$/);
    expect(names).toContain(hidden.student);
    for (const secret of ["Student 2", school.students[1]!.id])
      expect(JSON.stringify([hidden, queue.find((q) => q.pieceId === pieces[1])])).not.toContain(
        secret,
      );
    expect(
      (
        await owner().read(now, (call) => acrossQuestions(call, handOutId))
      ).questions[0]!.groups.flatMap((g) => g.given).find((g) => g.pieceId === pieces[1])!.student,
    ).toBe(hidden.student);
    // A comment that names says {name} until the name is known.
    const versionId = await versionOf(pieces[1]!);
    await owner().change(now, (call) =>
      addMark(call, pieces[1]!, note(versionId, { start: 0, end: 2, body: "Well seen, {name}." })),
    );
    await owner().change(later(20), (call) =>
      handBack(call, pieces[1]!, { outcome: "final", due: null }),
    );
    expect(
      (await as(school.students[1]!).read(now, (call) => pieceView(call, pieces[1]!))).marks.map(
        (m) => m.body,
      ),
    ).toContain("Well seen, Student.");
    expect(await owner().read(now, (call) => deskPiece(call, pieces[1]!))).toMatchObject({
      student: "Student 2",
      handedBack: { changedSince: false },
    });
  });
  test("an earlier version is shown as it was, with what changed since", async () => {
    const first = (await owner().read(now, (call) => deskPiece(call, pieces[0]!))).versionId!;
    await as(school.students[0]!).change(later(30), (call) =>
      handIn(
        call,
        pieces[0]!,
        { doc: doc("It rained 12 mm on day 0. The gauge stood by the wall.") },
        1,
      ),
    );
    const shown = await owner().read(later(31), (call) => versionShown(call, pieces[0]!, first));
    expect(shown).toMatchObject({ id: first, round: 1, comparison: { wordsInserted: 2 } });
    expect(shown.items.map((i) => i.id)).toContain(items.photo);
    const desk = await owner().read(later(31), (call) => deskPiece(call, pieces[0]!));
    // The photo is still in the work, so its marks stand on it; the request waits for a word.
    expect(desk.earlier.filter((m) => m.place.on === "picture").every((m) => !m.gone)).toBe(true);
    expect(desk.versions).toHaveLength(2);
  });
});
