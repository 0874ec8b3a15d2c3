import { uuidv7 } from "uuidv7";
import { afterAll, beforeAll, describe, expect, test } from "@jest/globals";
import { everyFieldComment } from "../../src/core/comments/everyField.testing";
import { COMMENT_TABLE, commentBodyOf } from "../../src/core/comments/schema";
import { everyFieldMark } from "../../src/core/marks/everyField.testing";
import { changeableOf, MARK_TABLE, type Mark, type MarkField } from "../../src/core/marks/schema";
import { addComment, changeComment, readBank } from "../../src/server/comments/bank";
import { annotationsIn, annotationsOut } from "../../src/server/marking/annotations";
import { deskPiece } from "../../src/server/marking/desk/deskPiece";
import { handBack } from "../../src/server/handingBack/handBack";
import { addMark, changeMark, deleteMark } from "../../src/server/marking/marks";
import { rule } from "../../src/server/marking/rulings";
import { handIn } from "../../src/server/pieces/moves";
import { pieceView } from "../../src/server/pieces/pieceView";
import { addRubric } from "../../src/server/rubrics/rubrics";
import { addOwnClip, addPieceClip, lookAtClip } from "../../src/server/speech/clips";
import {
  asPerson,
  doc,
  smallSchool,
  testDatabase,
  type SmallSchool,
  type TestDatabase,
} from "../support/database";
import { recording } from "../support/files";
import { handOutSimply } from "../support/handOut";

/** Every field of a mark, and of a comment, through everything the server does with it. */
let database: TestDatabase;
let school: SmallSchool;
let pieceId: string;
let clipId: string;
const now = new Date("2026-11-02T15:00:00Z");
const owner = () => asPerson(database.sql, school.owner);
const student = () => asPerson(database.sql, school.students[0]!);
const CRITERION = uuidv7();
const text = "It was the rain. We left.";
const desk = () => owner().read(now, (call) => deskPiece(call, pieceId));
const pick = (mark: object, left: readonly MarkField[] = []) =>
  Object.fromEntries(
    MARK_TABLE.filter(([name]) => !left.includes(name)).map(([name]) => [
      name,
      (mark as Partial<Mark>)[name],
    ]),
  );
/** On the text, or on the sheet as a whole with a quote of its own. */
const ON: [string, Partial<Mark>][] = [
  ["on the text", { place: { on: "text" }, start: 7, end: 15, strokes: [] }],
  ["on the whole", { place: { on: "whole", itemId: null }, start: 0, end: 0 }],
];
const wanted = (more: Partial<Mark>) =>
  everyFieldMark({ id: uuidv7(), clipId, criterionId: CRITERION, ...more });

beforeAll(async () => {
  database = await testDatabase();
  school = await smallSchool(database.sql, 1);
  await owner().change(now, (call) =>
    handOutSimply(call, school.sectionId, {
      title: "Log",
      instructions: doc("Write."),
    }),
  );
  const criterion = { id: CRITERION, name: "Seen", note: "", weight: "1" };
  const level = { id: uuidv7(), name: "well", points: "4", most: null, descriptor: "" };
  const rubric = { halves: false, criteria: [{ ...criterion, levels: [level] }] };
  const { id } = await owner().change(now, (call) => addRubric(call, { name: "Log", rubric }));
  await database.sql`update assignment set rubric_id = ${id}`;
  [{ id: pieceId }] = (await database.sql`select id from piece`) as unknown as [{ id: string }];
  await student().change(now, (call) => handIn(call, pieceId, { doc: doc(text) }, 0));
  const bytes = await recording("sound", 1);
  clipId = (
    await owner().change(now, (call) =>
      lookAtClip(call, pieceId, { bytes }).then((voice) => addPieceClip(call, pieceId, voice)),
    )
  ).id;
}, 60_000);
afterAll(() => database?.drop());

describe.each(ON)("a mark %s", (_where, on) => {
  let made: Mark;
  test("is stored and read with every field", async () => {
    const versionId = (await desk()).versionId!;
    made = wanted(on);
    const kept = await owner().change(now, (call) =>
      addMark(call, pieceId, { ...made, versionId, commentId: null }),
    );
    expect(pick(kept)).toEqual(made);
    expect(pick((await desk()).marks.find((m) => m.id === made.id)!)).toEqual(made);
  });
  test("is changed in every field that can be, and put back", async () => {
    const other = wanted({ ...on, id: made.id, nature: "remark", body: "Hm.", replacement: "x" });
    const bare = { ...other, sentence: "", criterionId: null, points: null, clipId: null };
    const change = async (to: Mark, revision: number) =>
      owner().change(now, (call) =>
        changeMark(call, { pieceId, markId: made.id }, changeableOf(to), revision),
      );
    const changed = await change(bare, 1);
    expect(pick(changed)).toEqual(bare);
    expect(pick(await change(made, changed.revision))).toEqual(made);
  });
  test("goes out as a web annotation and comes in again as it was", async () => {
    const out = await (await owner().read(now, (call) => annotationsOut(call, pieceId))).text();
    await owner().change(now, (call) => deleteMark(call, pieceId, made.id));
    const { added, faults } = await owner().change(now, (call) =>
      annotationsIn(call, pieceId, { text: out }),
    );
    expect([added, faults]).toEqual([1, []]);
    const back = (await desk()).marks.find((m) => m.place.on === made.place.on)!;
    expect(pick(back, ["id"])).toEqual(pick(made, ["id"]));
  });
});

test("marks come back to the student, and are asked again, with every field", async () => {
  const draft = (await desk()).marks;
  expect(draft.length).toBe(2);
  await owner().change(now, (call) =>
    handBack(call, pieceId, { outcome: "revise", due: "2026-11-20T16:00" }),
  );
  const seen = await student().read(now, (call) => pieceView(call, pieceId));
  for (const mark of draft)
    expect(
      pick(
        seen.marks.find((m) => m.id === mark.id)!,
        ["start", "end"],
      ),
    ).toEqual(pick(mark, ["start", "end"]));
  const again = { doc: doc(`${text} Then it snowed.`) };
  await student().change(now, (call) => handIn(call, pieceId, again, 1));
  for (const mark of draft) {
    const { marks } = await owner().change(now, (call) =>
      rule(call, pieceId, mark.id, { ruling: "again" }),
    );
    const asked = marks.find((m) => m.againOf === mark.id)!;
    // As a note nothing is put in; all else is as it was.
    expect(pick(asked, ["id", "replacement"])).toEqual(pick(mark, ["id", "replacement"]));
  }
});

describe("a comment", () => {
  test("is stored, read and changed with every field; a shorthand given to it changes nothing else", async () => {
    const [course] = (await database.sql`select id from course`) as unknown as [{ id: string }];
    const bytes = await recording("sound", 1);
    const clip = await owner().change(now, (call) =>
      lookAtClip(call, null, { bytes }).then((voice) => addOwnClip(call, voice)),
    );
    const share = { share: "course", courseId: course.id, clipId: clip.id } as const;
    const given = everyFieldComment(share);
    const fieldsOf = (comment: object) =>
      Object.fromEntries(COMMENT_TABLE.map(([f]) => [f, (comment as typeof given)[f]]));
    const kept = await owner().change(now, (call) => addComment(call, commentBodyOf(given)));
    expect(fieldsOf(kept)).toEqual(given);
    expect(fieldsOf((await owner().read(now, readBank))[0]!)).toEqual(given);
    const renamed = { ...commentBodyOf(kept), shorthand: "u2" };
    const changed = await owner().change(now, (call) =>
      changeComment(call, kept.id, renamed, kept.revision),
    );
    expect(fieldsOf(changed)).toEqual({ ...given, shorthand: "u2" });
  });
});
