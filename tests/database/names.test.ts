import { afterAll, beforeAll, describe, expect, test } from "@jest/globals";
import { contract } from "../../src/core/api/contract";
import type { Endpoint } from "../../src/core/api/endpoint";
import { aPart } from "../../src/core/handouts/parts";
import type { ReadCall } from "../../src/server/call";
import { beginSession } from "../../src/server/auth/sessions";
import { handBack } from "../../src/server/handingBack/handBack";
import { setAnonymous } from "../../src/server/marking/flag";
import { sendMessage } from "../../src/server/pieces/answers";
import { sendCheckpoint } from "../../src/server/pieces/checkpoints";
import { handIn } from "../../src/server/pieces/moves";
import { handOut } from "../../src/server/handouts/handOut";
import { setException } from "../../src/server/handouts/exceptions";
import { sayToClass, answerToClass } from "../../src/server/sectionNotes/sectionNotes";
import { deskQueue } from "../../src/server/overview/queue";
import { ledgerView } from "../../src/server/ledger/view";
import { sectionView } from "../../src/server/overview/sections";
import { handOutSheet } from "../../src/server/overview/sheet";
import { todayView } from "../../src/server/overview/today";
import { checkReceipt } from "../../src/server/pieces/receipts";
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
import { putFile } from "../support/files";
import { planFor } from "../support/handOut";
import { putVoice } from "../support/voices";
import { ask, endpoints } from "../support/routes";
import { REACH } from "../support/reach";

/**
 * A hand-out that is read without names. Whatever its teachers can get (every route, every page's view) is
 * walked: where anything says *which piece*, nothing there says *whose*, and no page that shows names leads to a
 * piece, by whatever id.
 */
const PART = "00000000-0000-4000-8000-0000000000f1";
let database: TestDatabase;
let school: SmallSchool;
let handOutId: string;
let token: string;
const now = new Date();
/** For each student what is theirs: ids of what they did, and what gives them away. */
type Own = {
  pieceId: string;
  ids: string[];
  code: string;
  telling: string[];
  itemId: string;
  clipId: string;
  versionId: string;
};
const own: Own[] = [];
const teacher = () => asPerson(database.sql, school.owner);

beforeAll(async () => {
  database = await testDatabase();
  answerOn(database);
  school = await smallSchool(database.sql, 3);
  const NAMES = ["Wilhelmina Aster", "Odd Bramble", "Ines Corrie"];
  for (const [n, student] of school.students.entries())
    await database.sql`update person set name = ${NAMES[n]!}, email = ${`${NAMES[n]!.split(" ")[0]}@school.example`} where id = ${student.id}`;
  const plan = planFor(school.sectionId, {
    title: "Letter",
    instructions: doc("Write."),
    expects: "work",
    points: "10",
    opens: null,
    due: new Date(now.getTime() + 7 * 86_400_000).toISOString().slice(0, 16),
    closes: null,
    promised: null,
    graceMinutes: 0,
    mayTakeBack: true,
  });
  plan.work.parts = [...plan.work.parts, aPart(PART, "files")];
  const made = await teacher().change(now, (call) =>
    handOut(call, { plan, draftId: null, pastIsMeant: false }),
  );
  handOutId = made.handOuts[0]!.id;
  await database.sql`update section set class_answers = 'at once'`;
  const said = await teacher().change(now, (call) =>
    sayToClass(call, handOutId, { body: "Any questions?", clipId: null }),
  );
  for (const [n, student] of school.students.entries())
    await work({ ...student, name: NAMES[n]! }, said.notes[0]!.id);
  await teacher().change(now, (call) => setAnonymous(call, handOutId, { anonymous: true }));
  token = await beginSession(database.sql, school.owner.id, now);
});
afterAll(() => endAnswers(database));

/** All that a student can leave their name on: a file's name, a message, a voice, a checkpoint, a word to the class. */
async function work(student: SmallSchool["owner"], noteId: string): Promise<void> {
  const { sql } = database;
  const as = asPerson(sql, student);
  const [piece] = await sql<
    { id: string }[]
  >`select id from piece where student_id = ${student.id} and hand_out_id = ${handOutId}`;
  const pieceId = piece!.id;
  const file = `${student.name} notes.txt`;
  const item = await putFile(sql, student, pieceId, PART, file, Buffer.from("It rained."), now);
  await as.change(now, (call) => sendCheckpoint(call, pieceId, { doc: doc("Begun.") }, 0));
  const receipt = await as.change(now, (call) =>
    handIn(call, pieceId, { doc: doc(`I am ${student.name}. The tide rose.`) }, 1),
  );
  const clipId = await putVoice(sql, { pieceId, madeBy: student.id, words: "a reply", now });
  await as.change(now, (call) =>
    sendMessage(call, pieceId, { body: "Is it long enough?", markId: null, clipId }),
  );
  await as.change(now, (call) =>
    answerToClass(call, noteId, { body: "How long is it?", clipId: null }),
  );
  const [version] = await sql<{ id: string }[]>`select id from version where piece_id = ${pieceId}`;
  own.push({
    pieceId,
    ids: [pieceId, version!.id, item.id, clipId],
    code: receipt.code,
    telling: [student.name, student.id, file, `${student.name.split(" ")[0]}@school.example`],
    ...{ itemId: item.id, clipId, versionId: version!.id },
  });
}

type Views = Record<string, (call: ReadCall) => Promise<unknown>>;

const QUERIES: Record<string, Record<string, string>> = {
  checkpoint: { number: "1" },
  live: { seconds: "0" },
  find: { text: "letter" },
};

/** Every answer a teacher of the section can get about a piece, and every page's view, as texts. */
async function everyAnswer(): Promise<{ from: string; text: string; ok: boolean }[]> {
  const answers: { from: string; text: string; ok: boolean }[] = [];
  const reading = endpoints.filter(
    ([name, entry]) => entry.method === "GET" && REACH[name]?.includes("owner"),
  );
  for (const { pieceId, itemId, clipId, versionId } of own)
    for (const [name, entry] of reading) {
      const answer = await ask(entry, {
        params: { handOutId, pieceId, itemId, clipId, versionId, sectionId: school.sectionId },
        token,
        query: QUERIES[name],
      });
      const said = `${await answer.text()} ${JSON.stringify([...answer.headers])}`;
      // An answer about one thing says which by being asked for it.
      const about = entry.path
        .match(/\{(\w+)\}/g)
        ?.map((p) => ({ pieceId, itemId, clipId, versionId })[p.slice(1, -1)] ?? "");
      answers.push({ from: name, text: `${said} ${about?.join(" ") ?? ""}`, ok: answer.ok });
    }
  const views: Views = {
    queue: (call) => deskQueue(call, { handOutId, pile: "all" }),
    sheet: (call) => handOutSheet(call, handOutId),
    ledger: (call) => ledgerView(call, school.sectionId),
    section: (call) => sectionView(call, school.sectionId),
    today: (call) => todayView(call),
  };
  for (const [from, read] of Object.entries(views))
    answers.push({ from, text: JSON.stringify(await teacher().read(now, read)), ok: true });
  return answers;
}

describe("while names are hidden", () => {
  test("no answer that says which piece says whose", async () => {
    const answers = await everyAnswer();
    // The walk is worth something: the Desk, its files, voices and lists are among what was read.
    const read = answers.filter(({ ok }) => ok).map(({ from }) => from);
    expect(read).toEqual(
      expect.arrayContaining([
        ...["deskPiece", "deskVersion", "checkpoint", "item", "clip", "clipSound", "annotations"],
        ...["sectionNotes", "queue", "sheet", "ledger", "section", "today"],
      ]),
    );
    for (const { from, text } of answers)
      for (const { ids, code, telling } of own) {
        const which = [...ids, code].filter((id) => text.includes(id));
        const whose = telling.filter(
          (word) => text.includes(word) || text.includes(encodeURIComponent(word)),
        );
        expect({ from, both: which.length > 0 && whose.length > 0, which, whose }).toMatchObject({
          both: false,
        });
      }
  });
  test("a page of names says of each only whether it is in, and no id on it opens anything", async () => {
    const sheet = await teacher().read(now, (call) => handOutSheet(call, handOutId));
    for (const line of sheet.lines) {
      expect(line).toMatchObject({ onDesk: false, handedIn: null, lateness: null, score: null });
      const answer = await ask(contract.deskPiece as Endpoint, {
        params: { pieceId: line.pieceId },
        token,
      });
      expect(answer.status).toBe(404);
    }
    expect(sheet.lines.map((line) => line.student)).toContain("Odd Bramble");
  });
  test("an exception can still be given by name", async () => {
    const sheet = await teacher().read(now, (call) => handOutSheet(call, handOutId));
    const line = sheet.lines.find((l) => l.student === "Odd Bramble")!;
    await teacher().change(now, (call) =>
      setException(call, line.pieceId, { due: null, excused: true, versionId: null, tell: false }),
    );
    const [piece] = await database.sql`select excused from piece where id = ${own[1]!.pieceId}`;
    expect(piece!.excused).toBe(true);
  });
  test("a receipt says whose it is, and does not lead to the piece", async () => {
    const found = await teacher().read(now, (call) => checkReceipt(call, own[0]!.code));
    expect(found).toMatchObject({ student: "Wilhelmina Aster", pieceId: null });
  });
  test("the writing keeps its length, so that marks stand where they stood", async () => {
    const answer = await ask(contract.deskPiece as Endpoint, {
      params: { pieceId: own[0]!.pieceId },
      token,
    });
    const text = JSON.stringify(((await answer.json()) as { doc: unknown }).doc);
    expect(text).toContain(`I am ${"·".repeat("Wilhelmina Aster".length)}. The tide rose.`);
  });
});

test("once a piece is handed back its name is there, and those of the others are not", async () => {
  await teacher().change(now, (call) =>
    handBack(call, own[0]!.pieceId, { outcome: "final", due: null }),
  );
  const [first, second] = await Promise.all(
    own
      .slice(0, 2)
      .map(async ({ pieceId }) =>
        (await ask(contract.deskPiece as Endpoint, { params: { pieceId }, token })).text(),
      ),
  );
  expect(first).toContain("Wilhelmina Aster");
  expect(second).not.toContain("Odd Bramble");
});
