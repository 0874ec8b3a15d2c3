import { afterAll, beforeAll, beforeEach, describe, expect, test } from "@jest/globals";
import { uuidv7 } from "uuidv7";
import { aPart } from "../../src/core/handouts/parts";
import type { Person } from "../../src/server/call";
import { makeGroup } from "../../src/server/classes/members";
import { deleteHandOut, withdraw } from "../../src/server/handouts/withdraw";
import { giveItem } from "../../src/server/items/give";
import { closeDisplay, openDisplay, readDisplay } from "../../src/server/looks/displays";
import { endLook } from "../../src/server/looks/endLook";
import { reportShownMark, showShownMark, takeAwayShownMark } from "../../src/server/looks/moderate";
import { readShownOfSheet } from "../../src/server/looks/ofSheet";
import { endLookRule, setLookRule } from "../../src/server/looks/rules";
import {
  readDisplayedPiece,
  readLook,
  sayInLook,
  sayOnDisplay,
} from "../../src/server/looks/shownWork";
import { todayView } from "../../src/server/overview/today";
import { workView } from "../../src/server/overview/work";
import { answerMark } from "../../src/server/pieces/answers";
import { askForLook, type GivenLook } from "../../src/server/pieces/askForLook";
import { handIn, openPiece, takeBack } from "../../src/server/pieces/moves";
import { pieceView } from "../../src/server/pieces/pieceView";
import { dropLooseClips, readClip } from "../../src/server/speech/clips";
import {
  asPerson,
  doc,
  smallSchool,
  testDatabase,
  type SmallSchool,
  type TestDatabase,
} from "../support/database";
import { putFile } from "../support/files";
import { handOutSimply } from "../support/handOut";
import { putVoice } from "../support/voices";

/** Work that is shown to classmates for a time: who sees what, until when, and what they say of it. */
let database: TestDatabase;
let school: SmallSchool;
let handOutId: string;
let pieces: string[];
const now = new Date("2026-11-02T15:00:00Z");
const later = (minutes: number) => new Date(now.getTime() + minutes * 60_000);
/** 12:00 in Halifax the same day is 16:00 UTC: an hour from now. */
const CLOSES = "2026-11-02T12:00";
const as = (who: Person) => asPerson(database.sql, who);
const owner = () => as(school.owner);
const student = (n: number) => as(school.students[n]!);
const refusal = { message: expect.stringMatching(/nothing here/i) as unknown as string };

const SHOWN = {
  ...{ shows: "all" as const, pieceIds: [] as string[], named: true, readFirst: false },
  ...{ onlyHandedIn: true, closes: CLOSES },
};
const open = (part: Partial<typeof SHOWN> | { shows: "chosen"; pieceIds: string[] } = {}) =>
  owner().change(now, (call) => openDisplay(call, handOutId, { ...SHOWN, ...part }));
const note = (body: string, more: object = {}) => ({
  ...{ id: uuidv7(), kind: "note" as const, start: 4, end: 8, body, replacement: "" },
  ...{ place: null, clipId: null },
  ...more,
});
const sees = (n: number, piece: number, at = later(1)) =>
  student(n)
    .read(at, (call) => readDisplayedPiece(call, pieces[piece]!))
    .then(
      () => true,
      () => false,
    );
const handsIn = (n: number, text: string, at = now) =>
  student(n).change(at, (call) => handIn(call, pieces[n]!, { doc: doc(text) }, 0));

beforeAll(async () => {
  database = await testDatabase();
  school = await smallSchool(database.sql, 5);
});
afterAll(() => database?.drop());
let made = 0;
beforeEach(async () => {
  const title = `Clouds ${(made += 1)}`;
  await owner().change(now, (call) =>
    handOutSimply(call, school.sectionId, { title, instructions: doc("Write.") }),
  );
  const rows = await database.sql<{ id: string; studentId: string; handOutId: string }[]>`
    select piece.id, piece.student_id, hand_out_id
    from piece
    join hand_out on hand_out.id = piece.hand_out_id
    join assignment on assignment.id = hand_out.assignment_id
    where assignment.title = ${title}`;
  handOutId = rows[0]!.handOutId;
  pieces = school.students.map((s) => rows.find((r) => r.studentId === s.id)!.id);
});

describe("a display", () => {
  test("classmates who handed in see what is handed in, from its opening to its end, and nothing before or after", async () => {
    await handsIn(0, "The gulls sat on the shed.");
    await handsIn(1, "Grey, then greyer.");
    expect(await sees(1, 0)).toBe(false);
    await open();
    expect(await sees(1, 0)).toBe(true);
    // Not handed in: neither seen nor seeing.
    expect(await sees(2, 0)).toBe(false);
    expect(await sees(0, 2)).toBe(false);
    // One's own is there with what is said of it.
    expect(await sees(0, 0)).toBe(true);
    await expect(
      as(school.outsider).read(later(1), (call) => readDisplayedPiece(call, pieces[0]!)),
    ).rejects.toMatchObject(refusal);
    await expect(
      as(school.stranger).read(later(1), (call) => readDisplay(call, handOutId)),
    ).rejects.toThrow();
    await expect(
      as(school.guardian).read(later(1), (call) => readDisplayedPiece(call, pieces[0]!)),
    ).rejects.toMatchObject(refusal);
    expect(await sees(1, 0, later(59))).toBe(true);
    expect(await sees(1, 0, later(60))).toBe(false);
    await owner().change(later(2), (call) => closeDisplay(call, handOutId));
    expect(await sees(1, 0, later(3))).toBe(false);
    // Its teachers still read it, and its writer what was said.
    await as(school.co).read(later(90), (call) => readDisplayedPiece(call, pieces[0]!));
    expect(await sees(0, 0, later(90))).toBe(true);
  });

  test("those who have not handed in see it where the teacher says so; taking back hides it again", async () => {
    await handsIn(0, "The gulls sat on the shed.");
    await open({ onlyHandedIn: false });
    expect(await sees(2, 0)).toBe(true);
    await student(0).change(later(2), (call) => takeBack(call, pieces[0]!));
    expect(await sees(2, 0, later(3))).toBe(false);
  });

  test("chosen pieces only; a withdrawn hand-out shows nothing; who left or lost the work sees nothing", async () => {
    await handsIn(0, "The gulls sat on the shed.");
    await handsIn(1, "Grey, then greyer.");
    await handsIn(2, "White on the far side.");
    await open({ shows: "chosen", pieceIds: [pieces[1]!] });
    expect([await sees(2, 1), await sees(2, 0)]).toEqual([true, false]);
    const view = await student(2).read(later(1), (call) => readDisplay(call, handOutId));
    expect(view.pieces.map((p) => p.name)).toEqual(["Student 2"]);
    await database.sql`update piece set left_at = ${now} where id = ${pieces[2]!}`;
    expect(await sees(2, 1)).toBe(false);
    await database.sql`update piece set left_at = null, removed_at = ${now} where id = ${pieces[2]!}`;
    expect(await sees(2, 1)).toBe(false);
    await database.sql`update piece set removed_at = null where id = ${pieces[2]!}`;
    await owner().change(later(1), (call) => withdraw(call, handOutId, true));
    expect(await sees(2, 1)).toBe(false);
    await expect(
      student(2).read(later(2), (call) => readDisplay(call, handOutId)),
    ).rejects.toThrow();
    await expect(open({ shows: "chosen", pieceIds: [uuidv7()] })).rejects.toThrow();
    await expect(open({ shows: "chosen", pieceIds: [] })).rejects.toThrow();
  });

  test("without names nothing says whose it is, in the work, in lists, or beside what is said", async () => {
    await student(0).change(now, (call) =>
      handIn(call, pieces[0]!, { doc: doc("By Student 1. The gulls sat on the shed.") }, 0),
    );
    await handsIn(1, "Grey, then greyer.");
    await open({ named: false });
    const said = await student(1).change(later(1), (call) =>
      sayOnDisplay(call, pieces[0]!, note("Which shed?")),
    );
    expect(JSON.stringify(said)).not.toContain("Student 1");
    expect(said.writer).toBe("a classmate");
    const list = await student(1).read(later(2), (call) => readDisplay(call, handOutId));
    expect(JSON.stringify(list)).not.toContain("Student 1");
    const mine = await student(0).read(later(2), (call) => readDisplayedPiece(call, pieces[0]!));
    expect(mine.marks.map((m) => m.author)).toEqual(["a classmate"]);
    const beside = await student(0).read(later(2), (call) => pieceView(call, pieces[0]!));
    expect(beside.marks.map((m) => [m.body, m.from])).toEqual([
      ["Which shed?", "a classmate, on the display"],
    ]);
    // Teachers know.
    const theirs = await owner().read(later(2), (call) => readDisplayedPiece(call, pieces[0]!));
    expect(theirs.writer).toBe("Student 1");
    expect(theirs.marks.map((m) => m.author)).toEqual(["Student 2"]);
  });

  test("a file of shown work opens for classmates while it is shown, never as it came, and its name stays its writer's", async () => {
    const itemId = await withFile();
    await handsIn(1, "Grey, then greyer.");
    const fetches = (n: number, form: string, at: Date) =>
      student(n)
        .read(at, (call) => giveItem(call, itemId, form, new Request("http://x/")))
        .then(
          (answer) => answer.headers.get("content-disposition"),
          () => null,
        );
    expect(await fetches(1, "shown", later(1))).toBeNull();
    await open();
    // The display is of what is handed in; the file was.
    expect(await fetches(1, "original", later(1))).toContain("file%201.txt");
    expect(await fetches(1, "original", later(1))).not.toContain("gulls");
    expect(await fetches(2, "original", later(1))).toBeNull();
    expect(await fetches(0, "original", later(1))).toContain("gulls.txt");
    expect(await fetches(1, "original", later(61))).toBeNull();
  });

  test("what waits is seen by its author and the teachers until one lets it through; reported and taken away it goes", async () => {
    await handsIn(0, "The gulls sat on the shed.");
    for (const n of [1, 2]) await handsIn(n, "Grey.");
    await open({ readFirst: true });
    const spoken = note("Which shed?");
    const said = await student(1).change(later(1), (call) =>
      sayOnDisplay(call, pieces[0]!, spoken),
    );
    // The same sent twice is one.
    await student(1).change(later(1), (call) => sayOnDisplay(call, pieces[0]!, spoken));
    expect(said.marks.map((m) => m.state)).toEqual(["waits"]);
    const marksFor = async (n: number) =>
      (await student(n).read(later(5), (call) => readDisplayedPiece(call, pieces[0]!))).marks.map(
        (m) => `${m.body} ${m.state}`,
      );
    expect([await marksFor(0), await marksFor(1), await marksFor(2)]).toEqual([
      [],
      ["Which shed? waits"],
      [],
    ]);
    const beside = async () =>
      (await student(0).read(later(5), (call) => pieceView(call, pieces[0]!))).marks.length;
    expect(await beside()).toBe(0);
    const sheet = await as(school.co).read(later(2), (call) => readShownOfSheet(call, handOutId));
    expect([sheet.waits, sheet.display?.waits, sheet.reported]).toEqual([1, 1, 0]);
    await as(school.co).change(later(2), (call) => showShownMark(call, spoken.id, { shown: true }));
    expect([await marksFor(0), await marksFor(2), await beside()]).toEqual([
      ["Which shed? shown"],
      ["Which shed? shown"],
      1,
    ]);
    await student(2).change(later(3), (call) =>
      reportShownMark(call, spoken.id, { why: "That is unkind." }),
    );
    const teacher = await owner().read(later(4), (call) => readDisplayedPiece(call, pieces[0]!));
    expect(teacher.marks[0]).toMatchObject({ reported: "That is unkind.", mayShow: true });
    const student0 = await student(0).read(later(4), (call) =>
      readDisplayedPiece(call, pieces[0]!),
    );
    expect(student0.marks[0]!.reported).toBeNull();
    await expect(
      student(2).change(later(4), (call) => takeAwayShownMark(call, spoken.id)),
    ).rejects.toMatchObject(refusal);
    await owner().change(later(4), (call) => takeAwayShownMark(call, spoken.id));
    expect([await marksFor(0), await marksFor(1), await marksFor(2), await beside()]).toEqual([
      [],
      ["This was taken away. taken away"],
      [],
      0,
    ]);
    const [row] = await database.sql`select body from look_mark where id = ${spoken.id}`;
    expect(row!.body).toBe("Which shed?");
  });

  test("nothing can be said after it closed, of what is not shown, outside the words, or as a change of handed-in work", async () => {
    await handsIn(0, "The gulls sat on the shed.");
    await handsIn(1, "Grey.");
    await open();
    const say = (given: ReturnType<typeof note>, at = later(1), piece = 0) =>
      student(1).change(at, (call) => sayOnDisplay(call, pieces[piece]!, given));
    await expect(say(note("Late."), later(61))).rejects.toThrow();
    await expect(say(note("Nothing there."), later(1), 2)).rejects.toThrow();
    await expect(say(note("Outside.", { start: 0, end: 900 }))).rejects.toThrow();
    await expect(say(note("", { kind: "delete" }))).rejects.toThrow("comment instead");
    await expect(say(note("", { kind: "note" }))).rejects.toThrow();
    await expect(
      say(
        note("A pin.", {
          place: { on: "picture", itemId: uuidv7(), area: { x: 1, y: 1, w: 0, h: 0 } },
        }),
      ),
    ).rejects.toThrow();
    expect(await database.sql`select id from look_mark where piece_id = ${pieces[0]!}`).toEqual([]);
  });

  test("a voice is heard by those who may read it, and stays when nothing else holds it", async () => {
    await handsIn(0, "The gulls sat on the shed.");
    for (const n of [1, 2]) await handsIn(n, "Grey.");
    await open();
    const clipId = await putVoice(database.sql, {
      ...{ pieceId: pieces[1]!, madeBy: school.students[1]!.id, words: "which shed", now },
    });
    await student(1).change(later(1), (call) =>
      sayOnDisplay(call, pieces[0]!, note("", { clipId })),
    );
    const hears = (who: Person, at: Date) =>
      as(who)
        .read(at, (call) => readClip(call, clipId))
        .then(
          () => true,
          () => false,
        );
    const [a, , c, d] = school.students as [Person, Person, Person, Person];
    expect([await hears(a, later(2)), await hears(c, later(2)), await hears(d, later(2))]).toEqual([
      true,
      true,
      false,
    ]);
    expect([await hears(a, later(61)), await hears(c, later(61))]).toEqual([true, false]);
    await dropLooseClips(database.sql, later(60 * 24 * 60));
    expect(await database.sql`select id from clip where id = ${clipId}`).toHaveLength(1);
    await expect(
      student(2).change(later(3), (call) => sayOnDisplay(call, pieces[0]!, note("", { clipId }))),
    ).rejects.toThrow();
  });

  test("only who may hand out opens and closes it; a hand-out nobody began can be deleted with it", async () => {
    await expect(
      as(school.co).change(now, (call) => openDisplay(call, handOutId, SHOWN)),
    ).rejects.toMatchObject(refusal);
    await expect(open({ closes: "2026-11-01T12:00" })).rejects.toThrow();
    await open();
    await owner().change(now, (call) =>
      setLookRule(call, handOutId, {
        ...{ readers: "pairs", named: true, readFirst: false, ends: CLOSES },
      }),
    );
    await owner().change(now, (call) => deleteHandOut(call, handOutId));
    expect(await database.sql`select from display where hand_out_id = ${handOutId}`).toEqual([]);
  });
});

/** The first student hands in a file beside the words. @returns its id */
async function withFile(): Promise<string> {
  const part = "00000000-0000-4000-8000-0000000000f7";
  await database.sql`
    update assignment
    set parts = parts || ${database.sql.json([aPart(part, "files")] as never)}
    where id = (select assignment_id from hand_out where id = ${handOutId})`;
  const item = await putFile(
    database.sql,
    school.students[0]!,
    pieces[0]!,
    part,
    "gulls.txt",
    Buffer.from("gulls"),
    now,
  );
  await handsIn(0, "See my file.");
  return item.id;
}

describe("a look before handing in", () => {
  const rule = (readers: "all" | "group" | "pairs", part: object = {}) =>
    owner().change(now, (call) =>
      setLookRule(call, handOutId, {
        ...{ readers, named: true, readFirst: false, ends: CLOSES },
        ...part,
      }),
    );
  const asking = (part: Partial<GivenLook> = {}): GivenLook => ({
    ...{ doc: doc("The gulls sat on the shed."), of: "classmate", readerId: null },
    ...{ question: "Is this clear?", start: 4, end: 9 },
    ...part,
  });
  const ask = (n: number, part: Partial<GivenLook> = {}, at = later(1)) =>
    student(n).change(at, (call) => askForLook(call, pieces[n]!, asking(part), 0));
  const theLook = async (n: number) =>
    (
      await database.sql<{ id: string; readerId: string | null }[]>`
      select id, reader_id from look where piece_id = ${pieces[n]!} order by asked_at desc limit 1`
    )[0]!;
  const reads = (who: Person, lookId: string, at = later(2)) =>
    as(who)
      .read(at, (call) => readLook(call, lookId))
      .then(
        () => true,
        () => false,
      );

  test("of the teacher: it waits among the questions, with its words; nothing is handed in by it", async () => {
    const { looks, number } = await ask(0, { of: "teacher" });
    expect(number).toBe(1);
    expect(looks.asked).toMatchObject([{ reader: "your teacher", state: "open", said: 0 }]);
    const { id } = await theLook(0);
    const view = await as(school.co).read(later(2), (call) => readLook(call, id));
    expect(view).toMatchObject({
      ...{ question: { words: "Is this clear?", quote: "gulls" }, maySay: true, reader: null },
    });
    const today = await owner().read(later(2), (call) => todayView(call));
    expect(JSON.stringify(today)).toContain(pieces[0]!);
    expect(await reads(school.students[1]!, id)).toBe(false);
    const piece = await student(0).read(later(3), (call) => pieceView(call, pieces[0]!));
    expect([piece.moon.state, piece.receipts.length]).toEqual(["started", 0]);
    expect(piece.thread.map((m) => m.body)).toEqual(["Is this clear?"]);
  });

  test("of a classmate: only where the teacher allows it, and then that work only, until it ends", async () => {
    const [, b, c] = school.students as [Person, Person, Person];
    await expect(ask(0, { readerId: b.id })).rejects.toThrow("cannot be asked here");
    await rule("all");
    await expect(ask(0)).rejects.toThrow();
    await expect(ask(0, { readerId: school.outsider.id })).rejects.toMatchObject(refusal);
    await expect(ask(0, { readerId: school.students[0]!.id })).rejects.toMatchObject(refusal);
    await ask(0, { readerId: b.id });
    const { id } = await theLook(0);
    expect([await reads(b, id), await reads(c, id)]).toEqual([true, false]);
    // The piece itself, its thread, its later state stay closed to the reader.
    await expect(
      student(1).read(later(2), (call) => pieceView(call, pieces[0]!)),
    ).rejects.toMatchObject(refusal);
    await student(0).change(later(3), (call) =>
      handIn(call, pieces[0]!, { doc: doc("Something else entirely.") }, 1),
    );
    const view = await student(1).read(later(4), (call) => readLook(call, id));
    expect(JSON.stringify(view)).not.toContain("entirely");
    const work = await student(1).read(later(4), (call) => workView(call));
    expect(work.forReaders.looks.map((l) => l.id)).toContain(id);
    expect(await reads(b, id, later(61))).toBe(false);
    expect(await reads(school.students[0]!, id, later(61))).toBe(true);
  });

  test("its edits stand beside the writer's words as they are now, and are accepted or declined", async () => {
    await rule("all");
    await ask(0, { readerId: school.students[1]!.id });
    const { id } = await theLook(0);
    const edit = note("", { kind: "replace", start: 17, end: 20, replacement: "the roof of the" });
    await student(1).change(later(2), (call) => sayInLook(call, id, edit));
    const remark = note("Nice gulls.");
    await student(1).change(later(2), (call) => sayInLook(call, id, remark));
    const beside = await student(0).read(later(3), (call) => pieceView(call, pieces[0]!));
    expect(beside.marks.map((m) => [m.kind, m.quote, m.at, m.decision, m.from, m.request])).toEqual(
      [
        ["replace", "the", { start: 17, end: 20 }, null, "Student 2, in a look", null],
        ["note", "gull", { start: 4, end: 8 }, null, "Student 2, in a look", null],
      ],
    );
    const decide = (markId: string, decision: "accepted" | null, who = 0) =>
      student(who).change(later(4), (call) =>
        answerMark(call, pieces[0]!, markId, { request: null, decision }),
      );
    await decide(edit.id, "accepted");
    await expect(decide(remark.id, "accepted")).rejects.toThrow("Only an edit");
    await expect(decide(edit.id, "accepted", 1)).rejects.toMatchObject(refusal);
    const after = await owner().read(later(5), (call) => readLook(call, id));
    expect(after.marks.map((m) => m.decision)).toEqual(["accepted", null]);
    await student(1).change(later(6), (call) => endLook(call, id, { as: "read" }));
    const work = await student(1).read(later(7), (call) => workView(call));
    expect(work.forReaders.looks.map((l) => l.id)).not.toContain(id);
    expect(await reads(school.students[1]!, id, later(7))).toBe(true);
    await student(0).change(later(8), (call) => endLook(call, id, { as: "ended" }));
    expect(await reads(school.students[1]!, id, later(9))).toBe(false);
    await expect(
      student(1).change(later(9), (call) => sayInLook(call, id, note("More."))),
    ).rejects.toMatchObject(refusal);
  });

  test("of whom the program drew: everyone gives and gets one; who leaves is passed over; named or not", async () => {
    const sheet = await rule("pairs", { named: false });
    expect(sheet.looks!.pairs).toHaveLength(5);
    expect(new Set(sheet.looks!.pairs.map((p) => p.reader)).size).toBe(5);
    for (const pair of sheet.looks!.pairs) expect(pair.reader).not.toBe(pair.writer);
    await ask(0);
    const first = await theLook(0);
    const reader = school.students.find((s) => s.id === first.readerId)!;
    const view = await as(reader).read(later(2), (call) => readLook(call, first.id));
    expect([view.writer, view.named]).toEqual(["a classmate", false]);
    const mine = await student(0).read(later(2), (call) => pieceView(call, pieces[0]!));
    expect(mine.looks.asked[0]!.reader).toBe("a classmate");
    expect(mine.looks.classmates).toMatchObject({ drawn: "a classmate", people: [] });
    await database.sql`update piece set left_at = ${now} where hand_out_id = ${handOutId} and student_id = ${reader.id}`;
    expect(await reads(reader, first.id)).toBe(false);
    await ask(0, { question: "And this?" }, later(5));
    expect((await theLook(0)).readerId).not.toBe(reader.id);
    await database.sql`update piece set left_at = null where student_id = ${reader.id}`;
  });

  test("of a common group only; where names are not shown the program asks who has least to read", async () => {
    await rule("group");
    const [a, b, c] = school.students as [Person, Person, Person];
    await owner().change(now, (call) =>
      makeGroup(call, school.sectionId, {
        ...{ name: `Readers ${made}`, extra: null, students: [a.id, b.id] },
      }),
    );
    await expect(ask(0, { readerId: c.id })).rejects.toMatchObject(refusal);
    await ask(0, { readerId: b.id });
    await rule("all", { named: false });
    await ask(2);
    await ask(3);
    const readers = [await theLook(2), await theLook(3)].map((l) => l.readerId);
    expect(readers[0]).not.toBe(b.id);
    expect(readers[1]).not.toBe(b.id);
  });

  test("ended by the teacher it is over for all readers at once; too many open ones are refused", async () => {
    await rule("all");
    const b = school.students[1]!;
    await ask(0, { readerId: b.id });
    const { id } = await theLook(0);
    await owner().change(later(2), (call) => endLookRule(call, handOutId));
    expect(await reads(b, id, later(3))).toBe(false);
    await expect(ask(2, { readerId: b.id }, later(3))).rejects.toThrow("cannot be asked here");
    for (let n = 0; n < 10; n += 1)
      await student(3).change(later(4), (call) =>
        askForLook(call, pieces[3]!, asking({ of: "teacher", start: null, end: null }), n),
      );
    await expect(
      student(3).change(later(4), (call) =>
        askForLook(call, pieces[3]!, asking({ of: "teacher" }), 10),
      ),
    ).rejects.toThrow("still open");
  });

  test("no sequence of asking, ending and time lets a reader see more than is shown just then", async () => {
    await rule("all");
    await student(1).change(now, (call) => openPiece(call, pieces[1]!));
    await ask(0, { readerId: school.students[1]!.id });
    const { id } = await theLook(0);
    const everyone = [...school.students.slice(2), school.outsider, school.stranger, school.office];
    for (const who of [...everyone, school.guardian]) expect(await reads(who, id)).toBe(false);
    for (const who of [school.owner, school.co]) expect(await reads(who, id)).toBe(true);
  });
});
