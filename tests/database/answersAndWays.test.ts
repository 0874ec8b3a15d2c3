import { afterAll, beforeAll, describe, expect, test } from "@jest/globals";
import { simpleParser } from "mailparser";
import { aPart, WRITING, type Part } from "../../src/core/handouts/parts";
import type { Question } from "../../src/core/questions/question";
import { handOut } from "../../src/server/handouts/handOut";
import { deskPiece } from "../../src/server/marking/desk/deskPiece";
import { openDraft, saveFeedback } from "../../src/server/marking/draft";
import { handBack } from "../../src/server/handingBack/handBack";
import { setException } from "../../src/server/handouts/exceptions";
import {
  listCheckpoints,
  readCheckpoint,
  sendCheckpoint,
} from "../../src/server/pieces/checkpoints";
import { askToReopen, handIn, saveWork, takeBack } from "../../src/server/pieces/moves";
import { pieceView } from "../../src/server/pieces/pieceView";
import { acceptClaim, checkReceipt, cleanCode } from "../../src/server/pieces/receipts";
import { sendMessage } from "../../src/server/pieces/answers";
import { tryAnswer } from "../../src/server/questions/answers";
import { giveQti, readQti } from "../../src/server/questions/package";
import { addSet, changeSet, listSets } from "../../src/server/questions/sets";
import { listReminders, noteVisit, setReminders } from "../../src/server/reminders/reminders";
import { sweepReminders } from "../../src/server/reminders/sweep";
import { handOutSheet } from "../../src/server/overview/sheet";
import { todayView } from "../../src/server/overview/today";
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

/** Questions, checkpoints, receipts with two times, closing, reminders: what the server makes of them. */
let database: TestDatabase;
let school: SmallSchool;
const NOW = new Date("2026-10-12T14:00:00Z");
// 16:00 on 16 October in Halifax is 19:00 UTC.
const DUE = new Date("2026-10-16T19:00:00Z");
const CLOSES = new Date("2026-10-18T23:00:00Z");
const at = (ms: number) => new Date(DUE.getTime() + ms);
const c = (id: string, text: string) => ({ id: `00000000-0000-4000-8000-00000000000${id}`, text });
const SET: Question[] = [
  {
    id: c("1", "").id,
    kind: "number",
    text: "Mass?",
    points: "2",
    value: "1.2",
    unit: "kg",
    tolerance: "",
  },
  {
    id: c("2", "").id,
    kind: "one choice",
    text: "Which?",
    points: "1",
    choices: [c("a", "stratus"), c("b", "cirrus")],
    right: c("b", "").id,
  },
  { id: c("3", "").id, kind: "free text", text: "Why?", points: "3", lines: 3 },
];
const [Q1, Q2, Q3] = SET.map((q) => q.id) as [string, string, string];
const PART = "00000000-0000-4000-8000-0000000000f1";

beforeAll(async () => {
  database = await testDatabase();
  answerOn(database);
  school = await smallSchool(database.sql, 4);
});
afterAll(() => endAnswers(database));

const owner = () => asPerson(database.sql, school.owner);
const as = (n: number) => asPerson(database.sql, school.students[n]!);
async function give(
  parts: Part[],
  more: { closes?: string | null; openBefore?: boolean; grace?: number } = {},
): Promise<{ handOutId: string; pieces: string[] }> {
  const plan = planFor(school.sectionId, {
    title: "Work",
    instructions: doc("Do."),
    expects: "work",
    points: "10",
    opens: null,
    due: "2026-10-16T16:00",
    closes: more.closes ?? null,
    promised: null,
    graceMinutes: more.grace ?? 0,
    mayTakeBack: true,
  });
  plan.work.parts = parts;
  plan.work.openBefore = more.openBefore ?? false;
  const { handOuts } = await owner().change(NOW, (call) =>
    handOut(call, { plan, draftId: null, pastIsMeant: false }),
  );
  const rows = await database.sql<
    { id: string; studentId: string }[]
  >`select id, student_id from piece where hand_out_id = ${handOuts[0]!.id}`;
  return {
    handOutId: handOuts[0]!.id,
    pieces: school.students.map((s) => rows.find((r) => r.studentId === s.id)!.id),
  };
}
const newSet = (name = "Clouds") =>
  owner().change(NOW, (call) => addSet(call, { name, questions: SET }));
const answers = (mass: string, choice = c("b", "").id, why = "Because it is high.\nAnd thin.") => ({
  [PART]: { [Q1]: mass, [Q2]: choice, [Q3]: why },
});

describe("questions", () => {
  test("the key never reaches the student; right and wrong only when it is meant to", async () => {
    const set = await newSet();
    for (const show of ["at hand-in", "handed back"] as const) {
      const { pieces } = await give([aPart(PART, "questions", { setId: set.id, show })]);
      const [id] = pieces as [string];
      await as(0).change(NOW, (call) =>
        saveWork(call, id, { doc: doc(" "), answers: answers("1200 g") }, 0),
      );
      const before = await as(0).read(NOW, (call) => pieceView(call, id));
      expect(before.parts[0]!.questions!.verdicts).toEqual({});
      expect(JSON.stringify(before)).not.toMatch(/"value"|"right":"|tolerance/);
      await as(0).change(NOW, (call) =>
        handIn(call, id, { doc: doc(" "), answers: answers("1200 g", c("a", "").id) }, 1),
      );
      const after = await as(0).read(NOW, (call) => pieceView(call, id));
      expect(Object.values(after.parts[0]!.questions!.verdicts).map((v) => v.state)).toEqual(
        show === "at hand-in" ? ["right", "wrong", "for the teacher"] : [],
      );
      await owner().change(NOW, async (call) => {
        await openDraft(call, id);
        await saveFeedback(call, id, { overall: "Read.", score: "4", picks: {} }, 0);
      });
      await owner().change(NOW, (call) => handBack(call, id, { outcome: "final", due: null }));
      const back = await as(0).read(NOW, (call) => pieceView(call, id));
      expect(back.parts[0]!.questions!.verdicts[Q1]).toEqual({
        state: "right",
        points: "2",
        note: "",
      });
      expect(JSON.stringify(back)).not.toMatch(/tolerance/);
    }
  });
  test("at once: so many tries, none after it was right, and the teacher sees how many", async () => {
    const set = await newSet();
    const { pieces } = await give([
      aPart(PART, "questions", { setId: set.id, show: "at once", tries: 2 }),
    ]);
    const id = pieces[1]!;
    const tries = (questionId: string, answer: unknown) =>
      as(1).change(NOW, (call) => tryAnswer(call, id, { partId: PART, questionId, answer }));
    expect(await tries(Q1, "1.2 g")).toEqual({
      state: "wrong",
      points: "0",
      note: "the number is right, the unit is not",
      triesUsed: 1,
      triesLeft: 1,
    });
    expect(await tries(Q1, "1.2 kg")).toMatchObject({ state: "right", triesLeft: 0 });
    await expect(tries(Q1, "1.2 kg")).rejects.toThrow("right already");
    await tries(Q2, c("a", "").id);
    await tries(Q2, c("a", "").id);
    await expect(tries(Q2, c("b", "").id)).rejects.toThrow("All 2 tries");
    await expect(tries(Q2, "nonsense")).rejects.toThrow("could not be read");
    await as(1).change(NOW, (call) =>
      handIn(call, id, { doc: doc(" "), answers: answers("1.2 kg", c("a", "").id) }, 0),
    );
    const desk = await owner().read(NOW, (call) => deskPiece(call, id));
    expect(desk.sheets[0]).toMatchObject({ points: "2", possible: "6", waiting: 1 });
    expect(desk.sheets[0]!.lines.map((l) => [l.state, l.tries])).toEqual([
      ["right", 2],
      ["wrong", 2],
      ["for the teacher", 0],
    ]);
    expect(desk.sheets[0]!.lines[1]!.rows).toEqual([
      { label: "", given: "stratus", key: "cirrus", same: false },
    ]);
    // Free text is read like any writing: marks can stand on it.
    expect(JSON.stringify(desk.doc)).toContain("Because it is high.");
    expect(desk.marks).toEqual([]);
  });
  test("a set that was handed out is not changed: the change is its next version", async () => {
    const set = await newSet("Versions");
    const { pieces } = await give([aPart(PART, "questions", { setId: set.id })]);
    const changed = await owner().change(NOW, (call) =>
      changeSet(call, set.id, { name: "Versions", questions: SET.slice(0, 1) }, set.revision),
    );
    expect(changed).toMatchObject({ version: 2, usedIn: 0 });
    expect(
      (await as(0).read(NOW, (call) => pieceView(call, pieces[0]!))).parts[0]!.questions!.asked,
    ).toHaveLength(3);
    await expect(
      owner().change(NOW, (call) => changeSet(call, set.id, { name: "x", questions: SET }, 1)),
    ).rejects.toThrow("another window");
    await expect(
      asPerson(database.sql, school.stranger).change(NOW, (call) =>
        changeSet(call, changed.id, { name: "x", questions: SET }, 1),
      ),
    ).rejects.toThrow("nothing here");
  });
  test("a set goes out as a QTI package and comes back", async () => {
    const set = (await owner().read(NOW, listSets)).find((s) => s.name === "Clouds")!;
    const zip = Buffer.from(
      await (await owner().read(NOW, (call) => giveQti(call, set.id))).arrayBuffer(),
    );
    const read = await owner().change(NOW, async (call) =>
      readQti(call, { name: "set.zip", bytes: zip }),
    );
    expect(read.problems).toEqual([]);
    expect(read.questions.map((q) => [q.kind, q.text, q.points])).toEqual(
      SET.map((q) => [q.kind, q.text, q.points]),
    );
    await expect(
      owner().change(NOW, async (call) =>
        readQti(call, { name: "x.zip", bytes: zip.subarray(0, 90) }),
      ),
    ).rejects.toThrow("damaged or cut off");
  });
});

describe("checkpoints", () => {
  test("are a row the teacher compares; nothing closes, a word can be said to one, and the student goes on", async () => {
    const { pieces, handOutId } = await give([WRITING]);
    const id = pieces[0]!;
    const waiting = async () =>
      (await owner().read(NOW, (call) => todayView(call))).lines
        .filter((line) => line.handOutId === handOutId && line.counts.checkpoints > 0)
        .map((line) => ({ count: line.counts.checkpoints, pieceId: line.checkpointPieceId }));
    await expect(
      as(0).change(NOW, (call) => sendCheckpoint(call, id, { doc: doc(" ") }, 0)),
    ).rejects.toThrow("nothing in this piece yet");
    const first = await as(0).change(NOW, (call) =>
      sendCheckpoint(call, id, { doc: doc("The sky is grey.") }, 0),
    );
    const second = await as(0).change(NOW, (call) =>
      sendCheckpoint(call, id, { doc: doc("The sky is very grey.") }, first.revision),
    );
    await as(0).change(NOW, (call) =>
      sendCheckpoint(call, id, { doc: doc("The sea is very grey.") }, second.revision),
    );
    expect(
      (await owner().read(NOW, (call) => listCheckpoints(call, id))).map((p) => p.number),
    ).toEqual([1, 2, 3]);
    // On Today once, however many were sent, until a teacher has said a word; on the sheet by number.
    expect(await waiting()).toMatchObject([{ count: 1, pieceId: id }]);
    const sheet = await owner().read(NOW, (call) => handOutSheet(call, handOutId));
    expect(sheet.lines.find((line) => line.pieceId === id)!.checkpoints).toBe(3);
    const third = await owner().read(NOW, (call) => readCheckpoint(call, id, 3, 1));
    expect(third).toMatchObject({ since: 1, text: "The sea is very grey." });
    expect(JSON.stringify(third.comparison)).toContain("very");
    await expect(as(1).read(NOW, (call) => readCheckpoint(call, id, 1, null))).rejects.toThrow(
      "nothing here",
    );
    const message = await owner().change(NOW, (call) =>
      sendMessage(call, id, { body: "Say more of the sea.", markId: null, checkpoint: 2 }),
    );
    expect(message.checkpoint).toBe(2);
    expect(await waiting()).toEqual([]);
    const view = await as(0).read(NOW, (call) => pieceView(call, id));
    expect(view).toMatchObject({ locked: null, moon: { state: "started" } });
    expect(view.thread[0]).toMatchObject({ body: "Say more of the sea.", checkpoint: 2 });
    await expect(
      as(0).change(NOW, (call) => sendCheckpoint(call, id, { doc: doc("old copy") }, 0)),
    ).rejects.toThrow("another window");
    await expect(
      database.sql`update checkpoint set text = 'other' where piece_id = ${id}`,
    ).rejects.toThrow("append-only");
  });
});

describe("the due moment and the device's word", () => {
  test("the server's clock decides, to the millisecond", async () => {
    const { pieces, handOutId } = await give([WRITING], { grace: 1 });
    const last = at(60_000);
    const receipts = await Promise.all(
      [last, new Date(last.getTime() + 1)].map((moment, n) =>
        as(n).change(moment, (call) => handIn(call, pieces[n]!, { doc: doc("words") }, 0)),
      ),
    );
    expect(receipts.map((r) => r.late)).toEqual([false, true]);
    const sheet = await owner().read(at(120_000), (call) => handOutSheet(call, handOutId));
    expect(sheet.lines.filter((l) => l.moon.late)).toHaveLength(1);
  });
  test("pressed without a connection: both times on the receipt, late by the server's, until a teacher accepts the device's", async () => {
    const { pieces, handOutId } = await give([WRITING]);
    const id = pieces[2]!;
    const receipt = await as(2).change(at(3_600_000), (call) =>
      handIn(call, id, { doc: doc("words"), pressedAt: at(-600_000).toISOString() }, 0),
    );
    expect(receipt).toMatchObject({
      late: true,
      lateness: "1 h late",
      pressed: { counts: false, exactly: expect.stringContaining("15:50:00") },
    });
    const desk = await owner().read(at(4e6), (call) => deskPiece(call, id));
    expect(desk.handedIn).toMatchObject({ late: true, pressed: { counts: false } });
    await expect(
      asPerson(database.sql, school.co).change(at(4e6), (call) =>
        acceptClaim(call, id, { accepted: true }),
      ),
    ).rejects.toThrow("nothing here");
    expect(
      await owner().change(at(4e6), (call) => acceptClaim(call, id, { accepted: true })),
    ).toEqual({ accepted: true, lateness: "on time" });
    const sheet = () => owner().read(at(4e6), (call) => handOutSheet(call, handOutId));
    expect((await sheet()).lines.find((l) => l.pieceId === id)!.moon.late).toBe(false);
    expect(
      (await owner().change(at(4e6), (call) => acceptClaim(call, id, { accepted: false })))
        .lateness,
    ).toBe("1 h late");
    expect((await sheet()).lines.find((l) => l.pieceId === id)!.moon.late).toBe(true);
  });
  test.each([
    ["ahead of the server", 7_200_000],
    ["from before the work opened", -30 * 86_400_000],
  ])("a device's clock %s is no claim", async (_, ms) => {
    const { pieces } = await give([WRITING]);
    const receipt = await as(3).change(at(0), (call) =>
      handIn(call, pieces[3]!, { doc: doc("words"), pressedAt: at(ms).toISOString() }, 0),
    );
    expect(receipt.pressed).toBeNull();
  });
  test("nothing is said of two times where the pressing and the storing were one", async () => {
    const { pieces } = await give([WRITING]);
    const receipt = await as(3).change(at(0), (call) =>
      handIn(call, pieces[3]!, { doc: doc("words"), pressedAt: at(-900).toISOString() }, 0),
    );
    expect(receipt.pressed).toBeNull();
  });
});

describe("receipts", () => {
  test("a teacher of the section checks a code however it is typed; to others there is none", async () => {
    const { pieces } = await give([WRITING]);
    const receipt = await as(0).change(NOW, (call) =>
      handIn(call, pieces[0]!, { doc: doc("words") }, 0),
    );
    const typed = ` ${receipt.code.toLowerCase().replace("-", " ").replace(/0/g, "o").replace(/1/g, "l")}`;
    expect(cleanCode(typed)).toBe(receipt.code);
    expect(await owner().read(NOW, (call) => checkReceipt(call, typed))).toMatchObject({
      student: "Student 1",
      receipt: { code: receipt.code, sha256: receipt.sha256 },
    });
    await expect(
      asPerson(database.sql, school.stranger).read(NOW, (call) => checkReceipt(call, typed)),
    ).rejects.toThrow("nothing here");
    await expect(as(0).read(NOW, (call) => checkReceipt(call, typed))).rejects.toThrow(
      "nothing here",
    );
    await expect(owner().read(NOW, (call) => checkReceipt(call, "0000-0000"))).rejects.toThrow(
      "nothing here",
    );
    await as(0).change(NOW, (call) => takeBack(call, pieces[0]!));
    // Taken back, it stays a receipt of what was handed in then.
    expect(
      (await owner().read(NOW, (call) => checkReceipt(call, receipt.code))).receipt.version,
    ).toBe(1);
  });
});

describe("closing while writing", () => {
  test("what was saved is there, it can be asked for, and the teacher's later time opens it", async () => {
    const { pieces } = await give([WRITING], { closes: "2026-10-18T20:00" });
    const id = pieces[0]!;
    await as(0).change(NOW, (call) => saveWork(call, id, { doc: doc("half a letter") }, 0));
    await expect(as(0).change(NOW, (call) => askToReopen(call, id, { why: "" }))).rejects.toThrow(
      "not closed",
    );
    const later = new Date(CLOSES.getTime() + 3_600_000);
    await expect(
      as(0).change(later, (call) => saveWork(call, id, { doc: doc("more") }, 1)),
    ).rejects.toThrow("What was saved before is kept");
    const view = await as(0).read(later, (call) => pieceView(call, id));
    expect(view).toMatchObject({ mayAskToReopen: true, work: { revision: 1 } });
    expect(JSON.stringify(view.work.doc)).toContain("half a letter");
    await as(0).change(later, (call) => askToReopen(call, id, { why: "I was ill." }));
    const desk = await owner().read(later, (call) => deskPiece(call, id));
    expect(desk.thread[0]!.body).toBe("Please open this again for me. I was ill.");
    await owner().change(later, (call) =>
      setException(call, id, {
        due: "2026-10-25T16:00",
        excused: false,
        versionId: null,
        tell: true,
      }),
    );
    await as(0).change(later, (call) => handIn(call, id, { doc: doc("the whole letter") }, 1));
  });
});

describe("reminders and the post room", () => {
  test("each thing is said once, in the app and by mail as chosen, and no word of feedback is in the mail", async () => {
    const { pieces } = await give([WRITING]);
    const id = pieces[0]!;
    await database.sql`delete from reminder`;
    await as(1).change(NOW, (call) =>
      setReminders(call, { kind: "due soon", inApp: true, byMail: false }),
    );
    const day = at(-20 * 3_600_000);
    await sweepReminders(database.sql, day);
    const mailed = async () =>
      (
        await database.sql<
          { personId: string; mime: Buffer; address: string }[]
        >`select person_id, mime, address from mail order by made_at, id`
      ).map((m) => m);
    const first = await mailed();
    expect(first.some((m) => m.personId === school.students[0]!.id)).toBe(true);
    expect(first.some((m) => m.personId === school.students[1]!.id)).toBe(false);
    expect(await sweepReminders(database.sql, at(-19 * 3_600_000))).toBe(0);
    await as(0).change(day, (call) => handIn(call, id, { doc: doc("words") }, 0));
    await owner().change(day, async (call) => {
      await openDraft(call, id);
      await saveFeedback(
        call,
        id,
        { overall: "A secret word of praise.", score: "9", picks: {} },
        0,
      );
    });
    await owner().change(day, (call) =>
      handBack(call, id, { outcome: "revise", due: "2026-10-30T16:00" }),
    );
    await sweepReminders(database.sql, at(-18 * 3_600_000));
    const letters = (await mailed()).slice(first.length);
    expect(letters).toHaveLength(1);
    // A MIME reader that is not the program's own (mailparser) reads it.
    const mail = await simpleParser(letters[0]!.mime);
    expect(mail.subject).toBe("Handed back: Work");
    expect(mail.text).toContain("came back to revise. It is due again");
    expect(mail.headers.get("auto-submitted")).toBe("auto-generated");
    expect(mail.text).not.toContain("secret");
    const view = await as(0).read(at(-17 * 3_600_000), listReminders);
    expect(view.list.map((r) => r.kind)).toEqual(
      expect.arrayContaining(["handed back", "due soon"]),
    );
  });
  test("new is what came since the visit before; looking again soon is the same visit", async () => {
    await as(0).read(at(-30 * 3_600_000), noteVisit);
    await as(0).read(at(-17 * 3_600_000), noteVisit);
    await as(0).read(at(-17 * 3_600_000 + 60_000), noteVisit);
    const view = await as(0).read(at(-16 * 3_600_000), listReminders);
    expect(view.fresh).toBeGreaterThan(0);
    await as(0).read(at(-15 * 3_600_000), noteVisit);
    expect((await as(0).read(at(-15 * 3_600_000), listReminders)).fresh).toBe(0);
  });
});
