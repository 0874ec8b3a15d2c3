import { uuidv7 } from "uuidv7";
import { aPart } from "../../src/core/handouts/parts";
import type { Question } from "../../src/core/questions/question";
import { post } from "../../src/server/mail/postRoom";
import { sendCheckpoint } from "../../src/server/pieces/checkpoints";
import { addSet } from "../../src/server/questions/sets";
import { beginTransfer } from "../../src/server/transfers/transfers";
import { putFile } from "../support/files";
import { afterAll, beforeAll, describe, expect, test } from "@jest/globals";
import { openApiDocument } from "../../src/core/api/openapi";
import { contract } from "../../src/core/api/contract";
import type { Endpoint } from "../../src/core/api/endpoint";
import { beginSession } from "../../src/server/auth/sessions";
import type { Person } from "../../src/server/call";
import { addComment } from "../../src/server/comments/bank";
import { addPrivateNote } from "../../src/server/marking/privateNotes";
import { saveFeedback } from "../../src/server/marking/draft";
import { addMark } from "../../src/server/marking/marks";
import { setFeed } from "../../src/server/calendar/feeds";
import { putClosure } from "../../src/server/office/schoolCalendar";
import { makeGroup } from "../../src/server/classes/members";
import { beginDraft } from "../../src/server/handouts/drafts";
import { handOut } from "../../src/server/handouts/handOut";
import { keepRun, lookAtRoster } from "../../src/server/roster/runs";
import { addRubric } from "../../src/server/rubrics/rubrics";
import { openDisplay } from "../../src/server/looks/displays";
import { sayOnDisplay } from "../../src/server/looks/shownWork";
import { sayToClass } from "../../src/server/sectionNotes/sectionNotes";
import { addUpload, lookAtUpload } from "../../src/server/uploads/uploads";
import { writeLetter } from "../../src/server/letters/write";
import { makeBatch } from "../../src/server/handingBack/batches";
import { handBack } from "../../src/server/handingBack/handBack";
import { handIn } from "../../src/server/pieces/moves";
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
import { planFor } from "../support/handOut";
import { putVoice } from "../support/voices";
import { REACH, SIGNED_IN } from "../support/reach";
import { ask, endpoints, ORIGIN, pathOf, routeFiles } from "../support/routes";

/**
 * Every route as everyone: taken from the OpenAPI document, so that a new route cannot be forgotten.
 * Those it does not belong to get 404 (401 signed out), and the answer says nothing of what is there.
 */
const SECRET = "only the teachers know this";
let database: TestDatabase;
let school: SmallSchool;
let pieceId: string;
let markId: string;
let commentId: string;
/** One of everything that a path can name. */
const things: Record<string, string> = {};
const tokens = new Map<string, string>();
const roles: Record<string, () => Person | null> = {
  "signed out": () => null,
  "student of the piece": () => school.students[0]!,
  "student of the section": () => school.students[1]!,
  "student of another section": () => school.outsider,
  guardian: () => school.guardian,
  owner: () => school.owner,
  "co-teacher": () => school.co,
  "teacher of another section": () => school.stranger,
  office: () => school.office,
};

beforeAll(async () => {
  database = await testDatabase();
  answerOn(database);
  school = await smallSchool(database.sql);
  const now = new Date();
  const owner = asPerson(database.sql, school.owner);
  const due = new Date(now.getTime() + 7 * 86_400_000).toISOString().slice(0, 16);
  await makeThings(now, due);
  const pieces = await database.sql<
    { id: string }[]
  >`select id from piece where student_id = ${school.students[0]!.id}`;
  pieceId = pieces[0]!.id;
  await asPerson(database.sql, school.students[0]!)
    .change(now, (call) => handIn(call, pieceId, { doc: doc("The rain fell on the pier.") }, 1))
    .then((receipt) => (things.receipt = receipt.code));
  const [version] = await database.sql<
    { id: string }[]
  >`select id from version where piece_id = ${pieceId}`;
  markId = crypto.randomUUID();
  const note = (id: string, versionId: string, body: string) =>
    owner.change(now, (call) =>
      addMark(call, pieceId, {
        id,
        kind: "note",
        nature: "request",
        start: 4,
        end: 8,
        body,
        replacement: "",
        versionId,
        commentId: null,
      }),
    );
  // A first round that went back and came in again, and on the second a draft that nobody else may see.
  await note(markId, version!.id, "How much rain?");
  await owner.change(now, (call) => handBack(call, pieceId, { outcome: "revise", due }));
  await asPerson(database.sql, school.students[0]!).change(now, (call) =>
    handIn(call, pieceId, { doc: doc("The rain fell on the pier, 12 mm.") }, 2),
  );
  const [second] = await database.sql<
    { id: string }[]
  >`select id from version where piece_id = ${pieceId} and number = 2`;
  const spoken = crypto.randomUUID();
  await note(spoken, second!.id, SECRET);
  things.clipId = await putVoice(database.sql, {
    pieceId,
    madeBy: school.owner.id,
    words: SECRET,
    now,
  });
  await database.sql`update mark set clip_id = ${things.clipId} where id = ${spoken}`;
  await owner.change(now, (call) =>
    saveFeedback(call, pieceId, { overall: SECRET, score: "8", picks: {} }, 0),
  );
  await database.sql`update assignment set rubric_id = ${things.rubricId!}`;
  const batch = await owner.change(now, (call) =>
    makeBatch(call, {
      ...{ pieceIds: [pieceId], outcome: "final", due: null, at: due, hold: 0 },
      ...{ message: SECRET, scores: "now", scoresAt: null },
    }),
  );
  things.batchId = batch.id;
  const [kept] = await owner.change(now, (call) =>
    addPrivateNote(call, pieceId, { about: "student", body: SECRET, uploads: [] }),
  );
  Object.assign(things, { versionId: version!.id, noteId: kept!.id });
  commentId = (
    await owner.change(now, (call) =>
      addComment(call, { text: SECRET, shorthand: "s", nature: "remark", favourite: null }),
    )
  ).id;
  await showWork(now);
  await writeAbout(now);
  for (const [role, person] of Object.entries(roles)) {
    const who = person();
    if (who) tokens.set(role, await beginSession(database.sql, who.id, now));
  }
});
afterAll(() => endAnswers(database));

async function makeThings(now: Date, due: string): Promise<void> {
  const owner = asPerson(database.sql, school.owner);
  const office = asPerson(database.sql, school.office);
  const upload = await owner.change(now, (call) =>
    lookAtUpload(call, { name: "task.txt", bytes: Buffer.from(SECRET) }).then((kept) =>
      addUpload(call, kept),
    ),
  );
  const plan = planFor(school.sectionId, {
    title: "Letter",
    instructions: doc("Write."),
    expects: "work",
    points: "10",
    opens: null,
    due,
    closes: null,
    promised: null,
    graceMinutes: 0,
    mayTakeBack: true,
  });
  plan.work.materials = [
    { id: crypto.randomUUID(), kind: "file", use: "copy", title: "task", uploadId: upload.id },
  ];
  const { handOuts } = await owner.change(now, (call) =>
    handOut(call, { plan, draftId: null, pastIsMeant: false }),
  );
  const draft = await owner.change(now, (call) =>
    beginDraft(call, { id: crypto.randomUUID(), plan, kept: true }),
  );
  const group = await owner.change(now, (call) =>
    makeGroup(call, school.sectionId, { name: "Readers", extra: null, students: [] }),
  );
  const rubric = await owner.change(now, (call) => addRubric(call, RUBRIC));
  const [material] = await database.sql<{ id: string }[]>`select id from material`;
  const [term] = await database.sql<{ id: string }[]>`select id from term`;
  const closure = await office.change(now, (call) =>
    putClosure(call, null, { name: "Day off", startsOn: "2026-10-12", endsOn: "2026-10-12" }),
  );
  const run = await office.change(now, (call) =>
    lookAtRoster(call, {
      name: "table",
      bytes: Buffer.from("name,email,section"),
      sectionId: null,
      complete: false,
    }).then((looked) => keepRun(call, looked)),
  );
  const feed = await owner.change(now, (call) =>
    setFeed(call, { alarmMinutes: null, newAddress: false }),
  );
  const personId = crypto.randomUUID();
  await database.sql`insert into person (id, school_id, kind, name, called, sort_name, email) values (${personId}, ${school.owner.schoolId}, 'teacher', 'Extra', 'Extra', 'Extra', 'extra@school.example')`;
  await giveFiles(now, handOuts[0]!.id);
  const said = await owner.change(now, (call) =>
    sayToClass(call, handOuts[0]!.id, { body: "Many of you wrote no unit.", clipId: null }),
  );
  things.sectionNoteId = said.notes[0]!.id;
  Object.assign(things, {
    sectionId: school.sectionId,
    handOutId: handOuts[0]!.id,
    draftId: draft.id,
    groupId: group.groupId,
    rubricId: rubric.id,
    uploadId: upload.id,
    materialId: material!.id,
    termId: term!.id,
    closureId: closure.id,
    runId: run.id,
    secret: feed.path!.split("/").at(-1)!,
    personId,
    studentId: school.students[2]!.id,
    sessionId: await spareSession(now),
  });
}
const NEVER_ENDS = () => new Date(Date.now() + 20 * 86_400_000).toISOString().slice(0, 16);
const shownNote = () => ({
  ...{ id: crypto.randomUUID(), kind: "note" as const, start: 0, end: 3, body: "Well seen." },
  ...{ replacement: "", place: null, clipId: null },
});

/** A display that a classmate sees, a look that they read, and what they said on the display. */
async function showWork(now: Date): Promise<void> {
  const { sql } = database;
  const other = school.students[1]!;
  const { handOutId } = things as { handOutId: string };
  const [theirs] = await sql<
    { id: string }[]
  >`select id from piece where hand_out_id = ${handOutId} and student_id = ${other.id}`;
  await asPerson(sql, other).change(now, (call) =>
    handIn(call, theirs!.id, { doc: doc("Mine.") }, 0),
  );
  await asPerson(sql, school.owner).change(now, (call) =>
    openDisplay(call, handOutId, {
      ...{ shows: "all", pieceIds: [], named: true, readFirst: false, onlyHandedIn: true },
      closes: NEVER_ENDS(),
    }),
  );
  const said = await asPerson(sql, other).change(now, (call) =>
    sayOnDisplay(call, pieceId, shownNote()),
  );
  const [checkpoint] = await sql<
    { id: string }[]
  >`select id from checkpoint where piece_id = ${pieceId}`;
  things.lookId = crypto.randomUUID();
  await sql`insert into look ${sql({ id: things.lookId, pieceId, checkpointId: checkpoint!.id, readerId: other.id, question: "Is it clear?", named: true, askedAt: now, endsAt: new Date(now.getTime() + 86_400_000) })}`;
  things.lookMarkId = said.marks[0]!.id;
}
/** A letter to the guardian of the student of the piece. */
async function writeAbout(now: Date): Promise<void> {
  await asPerson(database.sql, school.owner).change(now, (call) =>
    writeLetter(call, school.sectionId, {
      ...{ handOutId: null, studentIds: [school.students[0]!.id], to: "guardians" },
      ...{ subject: "Letter", body: SECRET },
    }),
  );
  const [copy] = await database.sql<{ id: string }[]>`select id from letter_to`;
  things.letterToId = copy!.id;
}
/** A session of the owner's besides the one that asks. */
async function spareSession(now: Date): Promise<string> {
  await beginSession(database.sql, school.owner.id, now);
  const [row] = await database.sql<
    { id: string }[]
  >`select id from session where person_id = ${school.owner.id} limit 1`;
  return row!.id;
}
const PART = "00000000-0000-4000-8000-0000000000f1";
const ASKED = "00000000-0000-4000-8000-0000000000f2";

/** A file that was handed in, one on its way, a set of questions, a checkpoint and a letter. */
async function giveFiles(now: Date, handOutId: string): Promise<void> {
  const { sql } = database;
  const student = school.students[0]!;
  const set = await asPerson(sql, school.owner).change(now, (call) =>
    addSet(call, { name: "Set", questions: QUESTIONS }),
  );
  const [piece] = await sql<
    { id: string }[]
  >`select id from piece where hand_out_id = ${handOutId} and student_id = ${student.id}`;
  await sql`update assignment set parts = parts || ${sql.json([aPart(PART, "files"), aPart(ASKED, "questions", { setId: set.id, show: "at once" })] as never)}`;
  await sql`insert into assignment_questions (assignment_id, part_id, set_id) select id, ${ASKED}, ${set.id} from assignment`;
  const item = await putFile(
    sql,
    student,
    piece!.id,
    PART,
    "notes.txt",
    Buffer.from("my notes"),
    now,
  );
  await asPerson(sql, student).change(now, (call) =>
    sendCheckpoint(call, piece!.id, { doc: doc("Begun.") }, 0),
  );
  const transferId = crypto.randomUUID();
  await asPerson(sql, student).change(now, (call) =>
    beginTransfer(call, transferId, { pieceId: piece!.id, partId: PART, name: "b.txt", size: 9 }),
  );
  await sql.begin((tx) =>
    post(
      tx,
      {
        personId: school.owner.id,
        address: "o@school.example",
        name: "O",
        subject: "s",
        text: "t",
      },
      now,
      uuidv7,
    ),
  );
  const [mail] = await sql<{ id: string }[]>`select id from mail`;
  Object.assign(things, { itemId: item.id, transferId, setId: set.id, mailId: mail!.id });
}
const everything = () => ({
  ...things,
  pieceId,
  markId,
  commentId,
  versionId: things.versionId!,
  noteId: things.noteId!,
});
/** What a route is asked with beside its body. */
const QUERIES: Record<string, () => Record<string, string>> = {
  checkReceipt: () => ({ code: things.receipt! }),
  checkpoint: () => ({ number: "1" }),
  round: () => ({ number: "1" }),
  live: () => ({ seconds: "0" }),
};
const HEADERS: Record<string, () => Record<string, string>> = {
  beginTransfer: () => ({
    "tus-resumable": "1.0.0",
    "upload-length": "5",
    "upload-metadata": Object.entries({
      id: crypto.randomUUID(),
      pieceId,
      partId: PART,
      name: "a.txt",
    })
      .map(([k, v]) => `${k} ${Buffer.from(v).toString("base64")}`)
      .join(","),
  }),
  transferState: () => ({ "tus-resumable": "1.0.0" }),
  transferMore: () => ({
    "tus-resumable": "1.0.0",
    "upload-offset": "0",
    "content-type": "application/offset+octet-stream",
  }),
  stopTransfer: () => ({ "tus-resumable": "1.0.0" }),
};

const QUESTIONS: Question[] = [
  {
    id: "00000000-0000-4000-8000-0000000000a1",
    kind: "free text",
    text: "Why?",
    points: "1",
    lines: 2,
  },
];
/** Bodies that would pass validation, so that only the standing decides. */
const RUBRIC = {
  name: "Letter",
  rubric: {
    criteria: [
      {
        id: crypto.randomUUID(),
        name: "Place",
        note: "",
        weight: "1",
        levels: [
          { id: crypto.randomUUID(), name: "there", points: "4", most: null, descriptor: "" },
        ],
      },
    ],
  },
};
const pastPlan = () =>
  planFor(school.sectionId, {
    title: "x",
    instructions: doc("x"),
    expects: "work",
    points: "",
    opens: null,
    due: "2000-01-01T00:00",
    closes: null,
    promised: null,
    graceMinutes: 0,
    mayTakeBack: true,
  });
const CELL = { score: "", flag: null, excused: false };
const DAYS = { name: "x", startsOn: "2027-01-04", endsOn: "2027-01-05" };
const BODIES: Record<string, unknown> = {
  handOut: () => ({ plan: pastPlan(), draftId: null, pastIsMeant: false }),
  beginDraft: () => ({ id: crypto.randomUUID(), plan: pastPlan(), kept: false }),
  saveDraft: () => ({ plan: pastPlan(), kept: false }),
  changeHandOut: () => ({ plan: pastPlan(), tell: false }),
  moveDue: { day: "2000-01-01", tell: false },
  withdraw: { withdrawn: false },
  extendMany: () => ({ pieceIds: [pieceId], due: null, tell: false }),
  markLookedAt: () => ({ pieceIds: [pieceId], words: SECRET }),
  flagMany: () => ({ pieceIds: [pieceId], sign: null }),
  putAway: { away: false },
  copyHandOut: { sectionIds: [] },
  giveTo: { given: true },
  setException: { due: null, excused: false, versionId: null, tell: false },
  addRubric: () => RUBRIC,
  changeRubric: () => ({ ...RUBRIC, scores: null }),
  makeSection: () => ({ course: "Knots 1", name: crypto.randomUUID(), termId: things.termId }),
  setMeetings: { meetings: [{ weekday: 1, starts: "09:00", ends: "10:00" }] },
  setVoice: { voiceSeconds: 60, replySeconds: 60, classAnswers: "read first" },
  setCounting: { late: { kind: "flag" }, categories: [] },
  setGradeRules: {
    ...{ way: "points", missing: "zero", emptyWeights: "spread", decimals: 1 },
    ...{ round: "half up", scale: [], shown: false },
  },
  saveCells: () => ({ cells: [{ pieceId, was: CELL, now: CELL }] }),
  freezeTerm: { term: "Fall" },
  openTerm: { term: "Fall", reason: "A test." },
  correctGrade: { term: "Fall", reason: "A test." },
  setReadingTimes: { times: [{ weekday: 1, starts: "10:00", ends: "10:40" }] },
  movePromise: { promised: "2026-12-20T16:00" },
  setWeekMail: { on: true },
  setLanguage: { language: "fr" },
  setShows: { shows: "never", on: null },
  saveCellNote: { was: "", note: SECRET },
  setLayout: { group: "month" },
  addColumn: { title: "x", points: "5", on: "2026-10-02", category: "" },
  setCoTeacher: { mayHandBack: false },
  setMember: { joinedOn: null, leftOn: null },
  makeGroup: () => ({
    name: crypto.randomUUID(),
    extra: { amount: 2, unit: "school days" },
    students: [],
  }),
  changeGroup: { name: "x", extra: null, students: [] },
  setSchoolDays: { meetsOn: [1, 2, 3, 4, 5], dayEnds: "15:30" },
  addTerm: DAYS,
  changeTerm: { name: "autumn", startsOn: "2026-09-08", endsOn: "2026-12-18" },
  addClosure: DAYS,
  changeClosure: DAYS,
  importClosures: { source: "x.ics", text: "nothing", chosen: null },
  addPerson: () => ({
    name: "Add Ed",
    email: `${crypto.randomUUID()}@x.example`,
    kind: "student",
  }),
  setFeed: { alarmMinutes: 60, newAddress: false },
  sendCheckpoint: { doc: doc("x") },
  tryAnswer: () => ({ partId: ASKED, questionId: QUESTIONS[0]!.id, answer: "x" }),
  askToReopen: { why: "" },
  addItem: () => ({
    itemId: things.setId,
    transferId: things.transferId,
    partId: PART,
    replaces: null,
  }),
  orderItems: { ids: [] },
  changeItem: { removed: false },
  acceptClaim: { accepted: true },
  addQuestionSet: () => ({ name: "x", questions: QUESTIONS }),
  changeQuestionSet: () => ({ name: "x", questions: QUESTIONS }),
  setReminders: { kind: "due soon", inApp: true, byMail: true },
  setLimits: {
    fileMegabytes: 250,
    pieceMegabytes: 500,
    studentMegabytes: 4000,
    recordingMinutes: 10,
  },
  saveWork: { doc: doc("x") },
  handIn: { doc: doc("x"), self: null },
  answerMark: { request: "done", decision: null },
  sendMessage: { body: "x", markId: null },
  saveFeedback: { overall: "", score: "nonsense", picks: {} },
  addMark: {
    id: "00000000-0000-4000-8000-000000000001",
    kind: "note",
    nature: "remark",
    start: 0,
    end: 1,
    body: "",
    replacement: "",
    versionId: "00000000-0000-4000-8000-000000000002",
    commentId: null,
  },
  changeMark: { nature: "remark", body: "", replacement: "" },
  copyMark: () => ({ to: pieceId, id: "00000000-0000-4000-8000-000000000003" }),
  rule: { ruling: null },
  handBack: { outcome: "revise", due: "2000-01-01T00:00" },
  makeHandBack: () => ({
    ...{ pieceIds: [pieceId], outcome: "final", due: null, at: "2000-01-01T00:00", hold: 0 },
    ...{ message: "", scores: "now", scoresAt: null },
  }),
  setOutcome: { outcome: null, due: null },
  addReturnedFile: () => ({ uploadId: things.uploadId, pieceIds: [pieceId] }),
  here: { active: true },
  setFlag: { flag: null },
  excuse: { excused: false },
  addPrivateNote: { about: "piece", body: SECRET, uploads: [] },
  bringAnnotations: { text: "{}" },
  choosePick: () => ({ criterionId: RUBRIC.rubric.criteria[0]!.id, pick: null }),
  judgeOne: () => ({ partId: ASKED, questionId: QUESTIONS[0]!.id, alone: false, points: null }),
  judgeAll: () => ({ partId: ASKED, questionId: QUESTIONS[0]!.id, key: "x", points: "1" }),
  setAnonymous: { anonymous: false },
  setSetting: { name: "desk.order", value: "name" },
  saidBefore: { text: "x" },
  readBankIn: { text: "one" },
  bringIn: { text: "two words more", alsoNear: [], folder: "" },
  addComment: { text: "x", shorthand: "two words", nature: "remark", favourite: null },
  changeComment: { text: "x", shorthand: "two words", nature: "remark", favourite: null },
  changeClipWords: { shows: "words", title: "", text: null },
  bringClipWords: { vtt: "WEBVTT" },
  bringMoments: { vtt: "WEBVTT" },
  sayToClass: { body: "", clipId: null },
  answerToClass: { body: "", clipId: null },
  showAnswer: { shown: true },
  writeLetter: () => ({
    ...{ handOutId: null, studentIds: [things.studentId], to: "students", subject: "x", body: "x" },
  }),
  answerLetter: { body: "Thank you." },
  answerMail: { text: "Thank you." },
  closeThread: { closed: false },
  setGradeScales: { scales: [] },
  setQuietHours: { from: null, until: null },
  openDisplay: () => ({
    ...{ shows: "all", pieceIds: [], named: true, readFirst: false, onlyHandedIn: true },
    closes: NEVER_ENDS(),
  }),
  sayOnDisplay: shownNote,
  setLookRule: () => ({ readers: "all", named: true, readFirst: false, ends: NEVER_ENDS() }),
  askForLook: () => ({
    ...{ doc: doc("x"), of: "teacher", readerId: null, question: "Why?", start: null, end: null },
  }),
  sayInLook: shownNote,
  endLook: { as: "read" },
  showShownMark: { shown: true },
  reportShownMark: { why: "" },
  reportAnswer: { why: "" },
  readAloud: { text: "Hello." },
  changePassword: { current: "x", password: "y" },
  giveFirstPasswords: () => ({ studentIds: [things.studentId] }),
  signOut: { everywhere: false },
};
const bodyOf = (name: string) =>
  typeof BODIES[name] === "function" ? (BODIES[name] as () => unknown)() : BODIES[name];

describe("the API, its contract and its document are one", () => {
  test("every route file stands in the contract, and every entry of the contract has its file and method", async () => {
    const onDisk = (
      await Promise.all(
        routeFiles().map(async (file) =>
          Object.keys((await import(file)) as object).map((method) => `${method} ${pathOf(file)}`),
        ),
      )
    )
      .flat()
      .sort();
    const inContract = endpoints.map(([, entry]) => `${entry.method} ${entry.path}`).sort();
    expect(onDisk).toEqual(inContract);
  });
  test("the OpenAPI document covers every route", async () => {
    const document = (await (await ask(contract.openapi as Endpoint)).json()) as {
      openapi: string;
      paths: Record<string, Record<string, { operationId: string }>>;
    };
    expect(document.openapi).toMatch(/^3\.1\./);
    const operations = Object.values(document.paths).flatMap((methods) =>
      Object.values(methods).map((o) => o.operationId),
    );
    expect(operations.sort()).toEqual(endpoints.map(([name]) => name).sort());
    expect(document).toEqual(
      JSON.parse(
        JSON.stringify(
          openApiDocument((document as unknown as { info: { version: string } }).info.version),
        ),
      ),
    );
  });
  test("every route for signed-in people says who reaches it, and the walk knows every role", () => {
    expect(Object.keys(roles).filter((role) => role !== "signed out")).toEqual(SIGNED_IN);
    expect(Object.keys(REACH).sort()).toEqual(
      endpoints
        .filter(([, entry]) => entry.for === "signed-in")
        .map(([name]) => name)
        .sort(),
    );
  });
});

const walk = endpoints
  .filter(([name, entry]) => entry.for === "signed-in" && name !== "signOut")
  .flatMap(([name, entry]) => Object.keys(roles).map((role) => ({ name, entry, role })));

describe("everyone at every route", () => {
  test.each(walk)("$name as $role", async ({ name, entry, role }) => {
    const answer = await ask(entry, {
      params: everything(),
      token: tokens.get(role) ?? null,
      body: bodyOf(name),
      revision: 99,
      query: QUERIES[name]?.(),
      headers: HEADERS[name]?.(),
    });
    const text = await answer.text();
    if (role === "signed out") expect(answer.status).toBe(401);
    else if (REACH[name]!.includes(role))
      expect([200, 201, 204, 400, 409, 410, 412, 422]).toContain(answer.status);
    else {
      expect(answer.status).toBe(404);
      if (entry.method !== "HEAD")
        expect(JSON.parse(text)).toEqual({
          type: "/problems/not-found",
          title: "There is nothing here for you.",
          status: 404,
        });
    }
    if (name !== "upload" && (!REACH[name]!.includes(role) || role.includes("student")))
      expect(text).not.toContain(SECRET);
  });

  test("a thing that is not there looks the same as a thing that is not yours", async () => {
    const token = tokens.get("student of another section");
    const yours = await ask(contract.piece as Endpoint, { params: { pieceId }, token });
    const none = await ask(contract.piece as Endpoint, {
      params: { pieceId: crypto.randomUUID() },
      token,
    });
    const nonsense = await ask(contract.piece as Endpoint, {
      params: { pieceId: "1 or 1=1" },
      token,
    });
    expect([yours.status, none.status, nonsense.status]).toEqual([404, 404, 404]);
    expect(await yours.text()).toBe(await none.text());
  });
});

describe("the way in", () => {
  test("a change from another site is refused, and one without an origin too", async () => {
    for (const origin of ["https://evil.example", null, `${ORIGIN}.evil.example`]) {
      const answer = await ask(contract.openPiece as Endpoint, {
        params: { pieceId },
        token: tokens.get("student of the piece"),
        origin,
      });
      expect(answer.status).toBe(403);
    }
  });
  test("changes that must not happen twice need their key, and edits of two their revision", async () => {
    const token = tokens.get("student of the piece");
    expect(
      (
        await ask(contract.handIn as Endpoint, {
          params: { pieceId },
          token,
          body: bodyOf("handIn"),
          key: null,
        })
      ).status,
    ).toBe(400);
    expect(
      (
        await ask(contract.saveWork as Endpoint, {
          params: { pieceId },
          token,
          body: bodyOf("saveWork"),
          revision: null,
        })
      ).status,
    ).toBe(428);
  });
  test("the demo's way in does not exist outside the demo", async () => {
    expect(
      (await ask(contract.enterDemo as Endpoint, { body: { personId: school.owner.id } })).status,
    ).toBe(404);
  });
  test("fields that are wrong, missing or unknown are named", async () => {
    const answer = await ask(contract.handOut as Endpoint, {
      token: tokens.get("owner"),
      body: { plan: { work: { title: "", extra: 1 }, rows: [{}] } },
    });
    expect(answer.status).toBe(422);
    const { fields } = (await answer.json()) as { fields: Record<string, string> };
    expect(fields["plan.work.title"]).toBe("Give the work a title.");
    expect(Object.keys(fields)).toEqual(
      expect.arrayContaining(["plan.rows[0].due", "plan.work.parts"]),
    );
  });
});

describe("a draft is the teachers' until it is handed back", () => {
  const everythingTheStudentCanFetch = async () => {
    const token = tokens.get("student of the piece");
    const texts = [];
    for (const [, entry] of endpoints.filter(
      ([name, e]) => e.method === "GET" && name !== "upload",
    ))
      texts.push(await (await ask(entry, { params: everything(), token })).text());
    return texts.join("\n");
  };
  test("no route shows it to the student before, and the piece shows it after", async () => {
    expect(await everythingTheStudentCanFetch()).not.toContain(SECRET);
    const due = new Date(Date.now() + 9 * 86_400_000).toISOString().slice(0, 16);
    await asPerson(database.sql, school.owner).change(new Date(), (call) =>
      handBack(call, pieceId, { outcome: "revise", due }),
    );
    expect(await everythingTheStudentCanFetch()).toContain(SECRET);
  });
});

/**
 * What a program, or a person with one, can put into any field: it is read, or refused with words; it never is a
 * bug, and never takes long.
 */
describe("whatever stands in a field", () => {
  const STRINGS = [
    "\u0000",
    "a\ud800b\udc00",
    ">".repeat(4000),
    "[a](".repeat(900),
    "9".repeat(400),
    "5 min min min min min min min min min min",
    "__proto__",
    "2026-99-99T99:99",
  ];
  const OTHERS: unknown[] = [null, -1, 1e308, {}, [], { __proto__: 1 }, [[[[]]]], true, ""];
  type Path = (string | number)[];
  const leaves = (value: unknown, path: Path = []): Path[] => {
    if (typeof value !== "object" || value === null) return [path];
    const inside = Object.entries(value).flatMap(([name, item]) =>
      leaves(item, [...path, Array.isArray(value) ? Number(name) : name]),
    );
    return path.length > 0 ? [path, ...inside] : inside;
  };
  const withValue = (body: unknown, [name, ...rest]: Path, value: unknown): unknown => {
    if (name === undefined) return value;
    const copy: Record<string | number, unknown> = Array.isArray(body)
      ? ([...(body as unknown[])] as never)
      : { ...(body as object) };
    copy[name] = withValue(copy[name], rest, value);
    return copy;
  };
  // Signing out, and a new password, would end the walk itself.
  const NOT = new Set(["signOut", "givePassword", "giveFirstPasswords"]);
  const asked = endpoints.filter(
    ([name, entry]) => entry.body && entry.for === "signed-in" && !NOT.has(name),
  );
  test.each(asked)("%s", async (name, entry) => {
    const token = tokens.get(REACH[name]![0]!);
    const sample = bodyOf(name);
    const send = async (body: unknown) => {
      const answer = await ask(entry, {
        params: everything(),
        token,
        body,
        revision: 1,
        query: QUERIES[name]?.(),
      });
      if (answer.status >= 500)
        throw new Error(`${answer.status} for ${JSON.stringify(body).slice(0, 300)}`);
      return answer.status;
    };
    const paths = leaves(sample);
    // A text of many parts is written to in some of them: each is read by the same reader.
    for (const path of paths.slice(0, 40))
      for (const value of [...STRINGS, ...OTHERS]) await send(withValue(sample, path, value));
    await send(JSON.parse(`${"[".repeat(3000)}${"]".repeat(3000)}`));
    await send("a text");
  });
  test("what was kept of it opens: every page's view is there for those it belongs to", async () => {
    for (const [name, entry] of endpoints.filter(([n, e]) => e.method === "GET" && REACH[n]))
      for (const role of REACH[name]!) {
        const answer = await ask(entry, {
          params: everything(),
          token: tokens.get(role),
          query: QUERIES[name]?.(),
        });
        await answer.text();
        expect({ name, role, bug: answer.status >= 500 }).toEqual({ name, role, bug: false });
      }
  });
  test("names of files and words to be looked for are cleaned too", async () => {
    const odd = encodeURIComponent("a\u0000b/../c\ud7ff.csv");
    const answer = await ask(contract.addUpload as Endpoint, {
      token: tokens.get("owner"),
      bytes: Buffer.from("x"),
      headers: { "x-file-name": odd },
    });
    expect(answer.status).toBe(200);
    const found = await ask(contract.officePeople as Endpoint, {
      token: tokens.get("office"),
      query: { text: "a\u0000%_\\" },
    });
    expect(found.status).toBe(200);
  });
  test("a body that was cut on its way is refused, and so is one with another digest", async () => {
    const token = tokens.get("owner");
    const bytes = Buffer.from("whole");
    for (const headers of [
      { "content-length": "9" },
      { "content-digest": `sha-256=:${Buffer.alloc(32).toString("base64")}:` },
    ] as Record<string, string>[]) {
      const answer = await ask(contract.addUpload as Endpoint, { token, bytes, headers });
      expect(answer.status).toBe(400);
      expect(await answer.text()).toContain("did not arrive whole");
    }
  });
});
