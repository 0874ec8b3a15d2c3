import { afterAll, beforeAll, describe, expect, test } from "@jest/globals";
import type { ClassAnswers } from "../../src/core/sectionNotes/sectionNote";
import type { Person } from "../../src/server/call";
import { addComment } from "../../src/server/comments/bank";
import { setVoice } from "../../src/server/classes/changeSetUp";
import { deleteHandOut } from "../../src/server/handouts/withdraw";
import { workView } from "../../src/server/overview/work";
import { todayView } from "../../src/server/overview/today";
import { handIn, openPiece } from "../../src/server/pieces/moves";
import { pieceView } from "../../src/server/pieces/pieceView";
import {
  answerToClass,
  readSectionNotes,
  reportAnswer,
  sayToClass,
  showAnswer,
  takeAwaySaid,
} from "../../src/server/sectionNotes/sectionNotes";
import { dropLooseClips, readClip } from "../../src/server/speech/clips";
import {
  asPerson,
  doc,
  smallSchool,
  testDatabase,
  type SmallSchool,
  type TestDatabase,
} from "../support/database";
import { handOutSimply } from "../support/handOut";
import { putVoice } from "../support/voices";

/** What is said to a class, who sees it, and what waits until a teacher has read it. */
let database: TestDatabase;
let school: SmallSchool;
let handOutId: string;
const pieces: string[] = [];
const now = new Date("2026-11-02T15:00:00Z");
const later = (minutes: number) => new Date(now.getTime() + minutes * 60_000);
const as = (who: Person) => asPerson(database.sql, who);
const owner = () => as(school.owner);
const student = (n: number) => as(school.students[n]!);
const say = (body: string, clipId: string | null = null, at = now) =>
  owner().change(at, (call) => sayToClass(call, handOutId, { body, clipId }));
const seenBy = async (who: Person) =>
  (await as(who).read(later(60), (call) => readSectionNotes(call, handOutId))).notes.map((n) => [
    n.body,
    n.answers.map((a) => `${a.body} (${a.state})`),
  ]);
const set = (classAnswers: ClassAnswers) =>
  owner().change(now, (call) =>
    setVoice(call, school.sectionId, { voiceSeconds: 60, replySeconds: 30, classAnswers }),
  );
const plan = {
  title: "Log",
  instructions: doc("Write."),
  expects: "work" as const,
  points: "8",
  opens: null,
  due: "2026-11-10T16:00",
  closes: null,
  promised: null,
  graceMinutes: 0,
  mayTakeBack: true,
};

beforeAll(async () => {
  database = await testDatabase();
  school = await smallSchool(database.sql, 3);
  await owner().change(now, (call) => handOutSimply(call, school.sectionId, plan));
  [{ id: handOutId }] = (await database.sql<
    { id: string }[]
  >`select id from hand_out`) as unknown as [{ id: string }];
  for (const s of school.students)
    pieces.push(
      (await database.sql<{ id: string }[]>`select id from piece where student_id = ${s.id}`)[0]!
        .id,
    );
});
afterAll(() => database?.drop());

describe("a word to the class", () => {
  test("is on every student's piece and comes first in their work until they have looked; guardians, other classes and the office know nothing of it", async () => {
    await student(0).change(now, (call) => openPiece(call, pieces[0]!));
    await say("Many of you wrote no unit.", null, later(1));
    for (const who of [school.owner, school.co, ...school.students])
      expect(await seenBy(who)).toEqual([["Many of you wrote no unit.", []]]);
    for (const who of [school.stranger, school.guardian, school.office, school.outsider])
      await expect(seenBy(who)).rejects.toThrow();
    expect(
      (await student(0).read(later(2), (call) => pieceView(call, pieces[0]!))).toClass.notes,
    ).toHaveLength(1);
    const news = async () =>
      (await student(0).read(later(3), workView)).dueByDay.flatMap((d) =>
        d.items.map((i) => i.news),
      );
    expect(await news()).toEqual(["Odalys Brandt to the class: Many of you wrote no unit."]);
    await student(0).change(later(3), (call) => openPiece(call, pieces[0]!));
    expect(await news()).toEqual([null]);
  });
  test("a student cannot say something to all by themselves, and nothing is nothing", async () => {
    await expect(
      student(0).change(now, (call) =>
        sayToClass(call, handOutId, { body: "Hello all", clipId: null }),
      ),
    ).rejects.toThrow();
    await expect(say("")).rejects.toMatchObject({
      fields: { body: expect.stringContaining("say something") },
    });
  });
});

describe("an answer to the class", () => {
  let noteId: string;
  const answer = (n: number, body: string, clipId: string | null = null) =>
    student(n).change(later(5), (call) => answerToClass(call, noteId, { body, clipId }));
  /** Answers to the class that wait, as Today counts them. */
  const waiting = async (minutes: number) =>
    (await owner().read(later(minutes), todayView)).lines[0]?.counts.answers ?? 0;
  const idOf = async (body: string) =>
    (await database.sql<{ id: string }[]>`select id from section_note where body = ${body}`)[0]!.id;

  test("is read by a teacher before others see it, as long as nothing else is set", async () => {
    noteId = (await owner().read(now, (call) => readSectionNotes(call, handOutId))).notes[0]!.id;
    await answer(0, "Mine is in mm.");
    expect((await seenBy(school.students[0]!))[0]![1]).toEqual(["Mine is in mm. (waits)"]);
    expect((await seenBy(school.students[1]!))[0]![1]).toEqual([]);
    expect((await seenBy(school.co))[0]![1]).toEqual(["Mine is in mm. (waits)"]);
    expect((await owner().read(later(6), todayView)).lines).toMatchObject([
      { handOutId, title: "Log", section: "Gannet", counts: { answers: 1 } },
    ]);
    const id = await idOf("Mine is in mm.");
    await expect(
      student(1).change(now, (call) => showAnswer(call, id, { shown: true })),
    ).rejects.toThrow();
    await expect(student(1).change(now, (call) => takeAwaySaid(call, id))).rejects.toThrow();
    await as(school.co).change(later(7), (call) => showAnswer(call, id, { shown: true }));
    expect((await seenBy(school.students[1]!))[0]![1]).toEqual(["Mine is in mm. (shown)"]);
    expect(await waiting(8)).toBe(0);
    await owner().change(later(9), (call) => showAnswer(call, id, { shown: false }));
    expect((await seenBy(school.students[1]!))[0]![1]).toEqual([]);
  });
  test("is reported by a classmate who sees it: the teachers read why, nobody learns who, and letting it stand ends it", async () => {
    await answer(0, "Yours is silly.");
    const id = await idOf("Yours is silly.");
    const said = async (who: Person) =>
      (await as(who).read(later(9), (call) => readSectionNotes(call, handOutId))).notes
        .flatMap((n) => n.answers)
        .find((a) => a.id === id);
    const report = (n: number, what = id) =>
      student(n).change(later(9), (call) => reportAnswer(call, what, { why: "Unkind." }));
    // What one does not see cannot be reported, nor what one said, nor what a teacher said to all.
    await expect(report(1)).rejects.toThrow(/nothing here/i);
    await owner().change(later(9), (call) => showAnswer(call, id, { shown: true }));
    await expect(report(0)).rejects.toThrow(/with your teacher/);
    await expect(report(1, noteId)).rejects.toThrow(/with your teacher/);
    await expect(
      as(school.stranger).change(now, (call) => reportAnswer(call, id, { why: "" })),
    ).rejects.toThrow(/nothing here/i);
    await report(1);
    await expect(report(2)).rejects.toThrow(/with your teacher/);
    expect(await said(school.co)).toMatchObject({ reported: "Unkind.", mayShow: true });
    for (const n of [0, 1, 2])
      expect(await said(school.students[n]!)).toMatchObject({ reported: null, mayReport: false });
    const reported = await waiting(9);
    await owner().change(later(9), (call) => showAnswer(call, id, { shown: true }));
    expect(await said(school.owner)).toMatchObject({ state: "shown", reported: null });
    expect(await waiting(9)).toBe(reported - 1);
    await owner().change(later(9), (call) => takeAwaySaid(call, id));
  });
  test("is seen at once, or cannot be given, where the owner has set it so; a teacher's is always seen", async () => {
    await set("at once");
    await answer(1, "And mine in cm.");
    expect((await seenBy(school.students[2]!))[0]![1]).toEqual(["And mine in cm. (shown)"]);
    await set("none");
    await expect(answer(2, "Mine too.")).rejects.toThrow(/not open here.*own thread/);
    expect((await student(2).read(now, (call) => readSectionNotes(call, handOutId))).answers).toBe(
      "none",
    );
    await as(school.co).change(later(10), (call) =>
      answerToClass(call, noteId, { body: "Both are units.", clipId: null }),
    );
    expect((await seenBy(school.students[2]!))[0]![1]).toContain("Both are units. (shown)");
    await set("read first");
  });
  test("a voice is heard by the class once it is shown, by no one else, and is taken away with it", async () => {
    const clipId = await putVoice(database.sql, {
      pieceId: pieces[2]!,
      madeBy: school.students[2]!.id,
      words: "in millimetres",
      now,
    });
    const hears = async () =>
      Promise.all(
        [
          school.owner,
          school.co,
          ...school.students,
          school.stranger,
          school.guardian,
          school.office,
          school.outsider,
        ].map((who) =>
          as(who)
            .read(later(20), (call) => readClip(call, clipId))
            .then(
              () => true,
              () => false,
            ),
        ),
      );
    const [yes, no] = [true, false];
    // Not sent: the student's alone.
    expect(await hears()).toEqual([no, no, no, no, yes, no, no, no, no]);
    await expect(answer(1, "", clipId)).rejects.toThrow();
    await answer(2, "", clipId);
    expect(await hears()).toEqual([yes, yes, no, no, yes, no, no, no, no]);
    const [{ id }] = (await database.sql<
      { id: string }[]
    >`select id from section_note where clip_id = ${clipId}`) as unknown as [{ id: string }];
    // A student's voice stays where it was said: nobody puts it to another use.
    await expect(say("", clipId, later(20))).rejects.toThrow();
    await expect(
      owner().change(later(20), (call) =>
        addComment(call, {
          text: "Heard it.",
          shorthand: "",
          nature: "remark",
          favourite: null,
          clipId,
        }),
      ),
    ).rejects.toThrow();
    await owner().change(later(21), (call) => showAnswer(call, id, { shown: true }));
    expect(await hears()).toEqual([yes, yes, yes, yes, yes, no, no, no, no]);
    const view = await student(0).read(later(22), (call) => pieceView(call, pieces[0]!));
    expect(view.clips.map((c) => [c.id, c.mayChange])).toContainEqual([clipId, false]);
    await student(2).change(later(23), (call) => takeAwaySaid(call, id));
    expect((await hears()).slice(2, 5)).toEqual([no, no, yes]);
    expect((await seenBy(school.students[2]!))[0]![1]).toContain(" (taken away)");
    expect(JSON.stringify(await seenBy(school.students[1]!))).not.toContain("taken away");
    await expect(
      owner().change(later(24), (call) => showAnswer(call, id, { shown: true })),
    ).rejects.toThrow();
    // The row and its sound stay: nothing that was said is removed by the program.
    await dropLooseClips(database.sql, later(60 * 24 * 60));
    expect(await database.sql`select id from clip where id = ${clipId}`).toHaveLength(1);
  });
  test("a note that was taken away takes its answers out of sight, and cannot be answered", async () => {
    await owner().change(later(30), (call) => takeAwaySaid(call, noteId));
    expect(await seenBy(school.students[0]!)).toEqual([]);
    await expect(answer(0, "Too late.")).rejects.toThrow();
    expect(
      (await database.sql`select id from section_note where taken_at is null`).length,
    ).toBeGreaterThan(0);
  });
});

test("a teacher's own voice goes to the class; a hand-out that nobody began can still be deleted with what was said", async () => {
  const clipId = await putVoice(database.sql, {
    pieceId: null,
    madeBy: school.owner.id,
    words: "well done all",
    now,
  });
  const { notes } = await say("", clipId, later(40));
  expect(notes.at(-1)).toMatchObject({ body: "", clipId, mayTakeAway: true });
  await student(1).read(later(41), (call) => readClip(call, clipId));
  await expect(
    as(school.stranger).read(later(41), (call) => readClip(call, clipId)),
  ).rejects.toThrow();
  await owner().change(now, (call) =>
    handOutSimply(call, school.sectionId, { ...plan, title: "Not begun" }),
  );
  const [other] = await database.sql<
    { id: string }[]
  >`select hand_out.id from hand_out join assignment on assignment.id = assignment_id where title = 'Not begun'`;
  await owner().change(now, (call) =>
    sayToClass(call, other!.id, { body: "A word.", clipId: null }),
  );
  await owner().change(now, (call) => deleteHandOut(call, other!.id));
  expect(await database.sql`select id from section_note where hand_out_id = ${other!.id}`).toEqual(
    [],
  );
  await student(0).change(later(50), (call) =>
    handIn(call, pieces[0]!, { doc: doc("It rained.") }, 0),
  );
});
