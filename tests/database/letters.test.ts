import { afterAll, beforeAll, beforeEach, describe, expect, test } from "@jest/globals";
import type { Person } from "../../src/server/call";
import type { LetterTo } from "../../src/core/letters/letter";
import {
  answerLetter,
  answerMail,
  noteLetterRead,
  takeMailAnswer,
} from "../../src/server/letters/answer";
import { takeMessage } from "../../src/server/letters/incoming";
import { countUnread, readLetters } from "../../src/server/letters/read";
import { writeLetter, type GivenLetter } from "../../src/server/letters/write";
import { giveMail, listMail } from "../../src/server/mail/postRoom";
import { setQuietHours } from "../../src/server/office/quietHours";
import { openQuestions } from "../../src/server/overview/questions";
import { studentPage } from "../../src/server/overview/student";
import { todayView } from "../../src/server/overview/today";
import { closeThread } from "../../src/server/pieces/closeThread";
import { sendMessage } from "../../src/server/pieces/answers";
import { addMessageFile, lookAtMessageFile } from "../../src/server/pieces/messageFiles";
import { pieceView } from "../../src/server/pieces/pieceView";
import { readUpload } from "../../src/server/uploads/uploads";
import { dropLooseFiles } from "../../src/server/items/looseFiles";
import { handIn } from "../../src/server/pieces/moves";
import { addMark } from "../../src/server/marking/marks";
import { addPrivateNote } from "../../src/server/marking/privateNotes";
import { sweepReminders } from "../../src/server/reminders/sweep";
import { readCameUp } from "../../src/server/sectionNotes/cameUp";
import { sayToClass } from "../../src/server/sectionNotes/sectionNotes";
import { uuidv7 } from "uuidv7";
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
import { handOutSimply } from "../support/handOut";

/** The talk around the work: letters with the answers that come back, quiet hours, questions, threads that are closed. */
let database: TestDatabase;
let school: SmallSchool;
let handOutId: string;
let pieces: string[];
/** 11:00 in Halifax. */
const now = new Date("2026-11-02T15:00:00Z");
const later = (minutes: number) => new Date(now.getTime() + minutes * 60_000);
const as = (who: Person) => asPerson(database.sql, who);
const owner = () => as(school.owner);
const nothing = { message: expect.stringMatching(/nothing here/i) as unknown as string };

beforeAll(async () => {
  database = await testDatabase();
  answerOn(database);
});
afterAll(() => endAnswers(database));
beforeEach(async () => {
  school = await smallSchool(database.sql, 4);
  const { handOuts } = await owner().change(now, (call) =>
    handOutSimply(call, school.sectionId, { title: "Log", instructions: doc("Write.") }),
  );
  handOutId = handOuts[0]!.id;
  const rows = await database.sql<{ id: string; studentId: string }[]>`
    select id, student_id from piece where hand_out_id = ${handOutId}`;
  pieces = school.students.map((s) => rows.find((r) => r.studentId === s.id)!.id);
});

const write = (part: Partial<GivenLetter> & { to: LetterTo }, at = now, who = school.owner) =>
  as(who).change(at, (call) =>
    writeLetter(call, school.sectionId, {
      ...{ handOutId, studentIds: school.students.slice(0, 2).map((s) => s.id) },
      ...{ subject: "Your log", body: "Dear {name}, it is missing." },
      ...part,
    }),
  );
const lettersOf = (who: Person, at = later(1)) => as(who).read(at, (call) => readLetters(call));

describe("letters", () => {
  test("each gets their own, about themselves; guardians about their child; nobody else anything", async () => {
    expect(await write({ to: "both" })).toEqual({ to: 3, byMail: 3, goes: null });
    const [one, two, three] = school.students as [Person, Person, Person];
    expect((await lettersOf(one)).received).toMatchObject([
      { body: "Dear Student, it is missing.", about: null, unread: true, from: "Odalys Brandt" },
    ]);
    expect((await lettersOf(school.guardian)).received).toMatchObject([{ about: "Student 1" }]);
    for (const who of [three, school.outsider, school.stranger, school.office])
      expect(await lettersOf(who)).toEqual({ received: [], sent: [] });
    expect(JSON.stringify(await lettersOf(two))).not.toContain("Student 1");
    // The co-teacher sees what the section was written.
    expect((await lettersOf(school.co)).sent[0]!.to.map((copy) => copy.name)).toEqual([
      "Katri Kallas",
      "Student 1",
      "Student 2",
    ]);
  });

  test("refused: another's section, a student who is not in it, a hand-out of another, guardians that are none", async () => {
    await expect(write({ to: "students" }, now, school.stranger)).rejects.toMatchObject(nothing);
    await expect(write({ to: "students" }, now, school.students[0])).rejects.toMatchObject(nothing);
    await expect(write({ to: "students", studentIds: [school.outsider.id] })).rejects.toMatchObject(
      nothing,
    );
    await expect(write({ to: "students", handOutId: uuidv7() })).rejects.toMatchObject(nothing);
    await expect(
      write({ to: "guardians", studentIds: [school.students[3]!.id] }),
    ).rejects.toMatchObject({ fields: { to: expect.any(String) } });
    expect(
      await database.sql`select from letter`.then((rows) => rows.length),
    ).toBeGreaterThanOrEqual(0);
    expect((await lettersOf(school.owner)).sent).toEqual([]);
  });

  test("answers come back, from here and by mail, without what they quote; both sides know what is unread", async () => {
    await write({ to: "guardians" });
    const [letter] = (await lettersOf(school.guardian)).received;
    const unread = (who: Person) => as(who).read(later(9), (call) => countUnread(call));
    expect([await unread(school.guardian), await unread(school.owner)]).toEqual([1, 0]);
    await as(school.guardian).change(later(2), (call) => noteLetterRead(call, letter!.id));
    await as(school.guardian).change(later(3), (call) =>
      answerLetter(call, letter!.id, { body: "She was ill." }),
    );
    expect([await unread(school.guardian), await unread(school.owner)]).toEqual([0, 1]);
    expect((await owner().read(later(4), (call) => todayView(call))).letters).toBe(1);
    const [mail] = await as(school.guardian).read(later(4), (call) => listMail(call));
    expect(mail).toMatchObject({ mayAnswer: true, held: null });
    const raw = await as(school.guardian).read(later(4), (call) => giveMail(call, mail!.id));
    const source = await raw.text();
    // RFC 5322, section 3.6.2: where replies are to go.
    const replyTo = /^Reply-To: <?(answers\+[a-z0-9]+@\S+?)>?\s*$/im.exec(source)?.[1];
    expect(replyTo).toBeDefined();
    // An answer of a person's is not declined as a machine's (RFC 3834).
    expect(source).not.toMatch(/Auto-Submitted/i);
    const take = (to: string, text: string) =>
      database.sql.begin((tx) =>
        takeMailAnswer(tx, { to, text }, { now: later(5), newId: uuidv7 }),
      );
    expect(await take(replyTo!, "Tomorrow then.\n\nAlmanac wrote:\n> Dear")).toBe(true);
    expect(await take("answers+0000000000@x.example", "Hello")).toBe(false);
    // As a mail server hands it over, written in HTML by a telephone (MIME, RFC 2045 and 2046).
    const asMime = (to: string) =>
      Buffer.from(
        [
          "From: Katri Kallas <katri@home.example>",
          `To: <${to}>`,
          "Subject: Re: Your log",
          "MIME-Version: 1.0",
          'Content-Type: text/html; charset="utf-8"',
          "Content-Transfer-Encoding: quoted-printable",
          "",
          "<p>Sp=C3=A4ter, from my telephone.</p>",
        ].join("\r\n"),
      );
    const message = (to: string, recipient: string | null) =>
      takeMessage(database.sql, { mime: asMime(to), recipient }, { now: later(5), newId: uuidv7 });
    expect(await message("someone@x.example", null)).toBe(false);
    expect(await message("list@x.example", replyTo!)).toBe(true);
    expect(await take(replyTo!, "> only what was said")).toBe(false);
    await as(school.guardian).change(later(6), (call) =>
      answerMail(call, mail!.id, { text: "And thanks.\n> x" }),
    );
    await expect(
      as(school.students[0]!).change(later(6), (call) =>
        answerMail(call, mail!.id, { text: "Not mine." }),
      ),
    ).rejects.toMatchObject(nothing);
    const [sent] = (await lettersOf(school.co, later(7))).sent;
    expect(sent!.unread).toBe(4);
    expect(sent!.to[0]!.words.map((w) => [w.body, w.byMail])).toEqual([
      ["She was ill.", false],
      ["Tomorrow then.", true],
      ["Später, from my telephone.", true],
      ["And thanks.", true],
    ]);
    await as(school.co).change(later(8), (call) => noteLetterRead(call, sent!.to[0]!.id));
    expect(await unread(school.owner)).toBe(0);
    await owner().change(later(8), (call) =>
      answerLetter(call, sent!.to[0]!.id, { body: "Get well soon." }),
    );
    expect(await unread(school.guardian)).toBe(1);
    await expect(
      as(school.students[1]!).change(later(9), (call) =>
        answerLetter(call, letter!.id, { body: "Hello." }),
      ),
    ).rejects.toMatchObject(nothing);
  });

  test("kept in the student's history, apart from private notes, which are in none of it", async () => {
    await owner().change(now, (call) =>
      addPrivateNote(call, pieces[0]!, { about: "student", body: "Watch this one.", uploads: [] }),
    );
    await write({ to: "both" });
    const page = await owner().read(later(1), (call) => studentPage(call, school.students[0]!.id));
    expect(page.letters.map((l) => l.to.map((copy) => copy.name))).toEqual([
      ["Katri Kallas", "Student 1"],
    ]);
    const other = await owner().read(later(1), (call) => studentPage(call, school.students[2]!.id));
    expect(other.letters).toEqual([]);
    for (const who of [school.students[0]!, school.guardian])
      expect(JSON.stringify(await lettersOf(who))).not.toContain("Watch");
  });
});

describe("quiet hours", () => {
  const quiet = () =>
    as(school.office).change(now, (call) => setQuietHours(call, { from: "20:00", until: "07:00" }));
  /** 21:30 in Halifax; 07:00 there is 11:00 UTC. */
  const night = new Date("2026-11-03T01:30:00Z");
  const morning = new Date("2026-11-03T11:00:00Z");

  test("a letter waits until they end, here and by mail; its writer is told when", async () => {
    await quiet();
    expect((await write({ to: "guardians" }, night)).goes).toBe("tomorrow 07:00");
    const early = new Date(morning.getTime() - 1);
    expect((await lettersOf(school.guardian, early)).received).toEqual([]);
    expect((await lettersOf(school.owner, early)).sent[0]!.held).not.toBeNull();
    const [mail] = await as(school.guardian).read(night, (call) => listMail(call));
    expect(mail!.held).not.toBeNull();
    expect((await lettersOf(school.guardian, morning)).received).toHaveLength(1);
    expect((await write({ to: "guardians" }, morning)).goes).toBeNull();
  });

  test("so do reminders by mail", async () => {
    await quiet();
    const dueTomorrow = new Date("2026-11-09T23:30:00Z");
    await sweepReminders(database.sql, new Date(dueTomorrow.getTime() + 60 * 60_000));
    const held = await database.sql<{ madeAt: Date; goesAt: Date }[]>`
      select made_at, goes_at from mail join person on person.id = person_id where school_id = ${school.owner.schoolId}`;
    expect(held.length).toBeGreaterThan(0);
    for (const { goesAt } of held) expect(goesAt.toISOString()).toBe("2026-11-10T11:00:00.000Z");
  });

  test("only the office sets them, both times or none", async () => {
    await expect(
      owner().change(now, (call) => setQuietHours(call, { from: null, until: null })),
    ).rejects.toMatchObject(nothing);
    for (const [from, until] of [
      ["20:00", null],
      ["20:00", "20:00"],
    ] as const)
      await expect(
        as(school.office).change(now, (call) => setQuietHours(call, { from, until })),
      ).rejects.toMatchObject({ fields: { until: expect.any(String) } });
  });
});

describe("files in a thread", () => {
  const send = (who: Person, name: string, text = "a,b") =>
    as(who).change(later(1), async (call) =>
      addMessageFile(
        call,
        pieces[0]!,
        await lookAtMessageFile(call, pieces[0]!, { name, bytes: Buffer.from(text) }),
      ),
    );
  const say = (who: Person, files: string[], body = "") =>
    as(who).change(later(2), (call) =>
      sendMessage(call, pieces[0]!, { body, markId: null, files }),
    );
  const has = (who: Person, id: string) =>
    as(who)
      .read(later(3), (call) => readUpload(call, id))
      .then(
        () => true,
        () => false,
      );

  test("go with a message or are one; its student and their teachers have them, and nobody else", async () => {
    const student = school.students[0]!;
    const file = await send(student, "rain.csv");
    expect(await has(school.owner, file.id)).toBe(false);
    expect(await say(student, [file.id])).toMatchObject({ files: [{ name: "rain.csv", size: 3 }] });
    const page = await as(student).read(later(3), (call) => pieceView(call, pieces[0]!));
    expect(page.thread.at(-1)).toMatchObject({ body: "", files: [{ id: file.id }] });
    const people = [student, school.owner, school.co, school.students[1]!, school.stranger];
    expect(await Promise.all(people.map((who) => has(who, file.id)))).toEqual([
      true,
      true,
      true,
      false,
      false,
    ]);
    expect(
      (await as(school.owner).read(later(3), (call) => openQuestions(call))).questions[0]!.words[0],
    ).toMatchObject({ files: [{ name: "rain.csv" }] });
    expect(
      (await as(school.owner).read(later(3), (call) => studentPage(call, student.id))).talk[0]!
        .body,
    ).toBe("a file");
  });

  test("another's file, too many files and nothing at all are refused, and what was never sent goes", async () => {
    const student = school.students[0]!;
    const own = await send(student, "own.csv");
    const teachers = await send(school.owner, "key.csv", "1,2");
    await expect(say(student, [teachers.id])).rejects.toMatchObject(nothing);
    await expect(send(school.students[1]!, "x.csv")).rejects.toMatchObject(nothing);
    await expect(say(student, [])).rejects.toMatchObject({ fields: { body: expect.any(String) } });
    const six = await Promise.all([1, 2, 3, 4, 5, 6].map((n) => send(student, `${n}.csv`)));
    await expect(
      say(
        student,
        six.map((f) => f.id),
      ),
    ).rejects.toMatchObject({ fields: { body: /5 files/ } });
    await say(school.owner, [teachers.id], "The key.");
    await dropLooseFiles(database.sql, new Date(now.getTime() + 30 * 86_400_000));
    expect([await has(student, own.id), await has(student, teachers.id)]).toEqual([false, true]);
  });
});

describe("questions", () => {
  const ask = (n: number, body: string, at: Date) =>
    as(school.students[n]!).change(at, (call) =>
      sendMessage(call, pieces[n]!, { body, markId: null }),
    );
  const open = async (who = school.owner) =>
    (await as(who).read(later(30), (call) => openQuestions(call))).questions;

  test("wait with all their words until they are answered or the thread is closed; others' teachers see none", async () => {
    await ask(0, "Which unit?", later(1));
    await ask(0, "mm or cm?", later(2));
    await ask(1, "May I draw it?", later(3));
    expect((await open()).map((q) => [q.student, q.words.map((w) => w.body)])).toEqual([
      ["Student 1", ["Which unit?", "mm or cm?"]],
      ["Student 2", ["May I draw it?"]],
    ]);
    expect(await open(school.stranger)).toEqual([]);
    await as(school.co).change(later(4), (call) =>
      sendMessage(call, pieces[0]!, { body: "mm.", markId: null }),
    );
    expect((await open()).map((q) => q.student)).toEqual(["Student 2"]);
    await owner().change(later(5), (call) => closeThread(call, pieces[1]!, { closed: true }));
    expect(await open()).toEqual([]);
    const today = await owner().read(later(6), (call) => todayView(call));
    expect(today.piles.find((p) => p.kind === "questions")!.count).toBe(0);
    await expect(ask(1, "Hello?", later(6))).rejects.toThrow("closed this conversation");
    await owner().change(later(7), (call) => closeThread(call, pieces[1]!, { closed: false }));
    await ask(1, "Hello?", later(8));
    // Opened again, what was asked before it was closed waits too.
    expect((await open()).map((q) => q.words.length)).toEqual([2]);
    await expect(
      as(school.students[1]!).change(later(9), (call) =>
        closeThread(call, pieces[1]!, { closed: true }),
      ),
    ).rejects.toMatchObject(nothing);
  });
});

test("what came up on many pieces is offered with examples and without names, until the class was told", async () => {
  for (const [n, id] of pieces.entries())
    await as(school.students[n]!).change(now, (call) =>
      handIn(call, id, { doc: doc(`Student ${n + 1} read ${n} of it.`) }, 0),
    );
  const note = async (n: number, start: number, end: number) => {
    const [version] = await database.sql<{ id: string }[]>`
      select id from version where piece_id = ${pieces[n]!}`;
    await owner().change(now, (call) =>
      addMark(call, pieces[n]!, {
        ...{ id: uuidv7(), kind: "note", nature: "request", start, end, body: "Write the unit." },
        ...{ replacement: "", versionId: version!.id, commentId: null },
      }),
    );
  };
  await note(0, 15, 16);
  await note(1, 15, 16);
  const cameUp = () => owner().read(later(1), (call) => readCameUp(call, handOutId));
  expect(await cameUp()).toEqual([]);
  // This one stands on words with a name in them.
  await note(2, 0, 16);
  expect(await cameUp()).toEqual([
    { text: "Write the unit.", pieces: 3, of: 4, examples: ["0", "1"] },
  ]);
  await expect(
    as(school.students[0]!).read(later(1), (call) => readCameUp(call, handOutId)),
  ).rejects.toMatchObject(nothing);
  await owner().change(later(2), (call) =>
    sayToClass(call, handOutId, { body: "Write the unit. All of you.", clipId: null }),
  );
  expect(await cameUp()).toEqual([]);
});
