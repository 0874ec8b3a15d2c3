import { afterAll, beforeAll, beforeEach, describe, expect, test } from "@jest/globals";
import { NotFound, Refused } from "../../src/core/refusals";
import { spawn } from "node:child_process";
import path from "node:path";
import { connect } from "../../src/server/db/connection";
import { HANDLERS } from "../../src/server/background/handlers";
import { aPart } from "../../src/core/handouts/parts";
import type { Person } from "../../src/server/call";
import {
  callBatchBack,
  goOnWithBatch,
  makeBatch,
  readBatch,
  takeBatchBack,
  type GivenBatch,
} from "../../src/server/handingBack/batches";
import { setOutcome } from "../../src/server/handingBack/draftOutcome";
import { handBackPlan } from "../../src/server/handingBack/plan";
import { lookAsStudent } from "../../src/server/handingBack/preview";
import { sendBatch } from "../../src/server/handingBack/sendBatch";
import { addReturnedFile, removeReturnedFile } from "../../src/server/handingBack/files";
import { handBack, takeFeedbackBack } from "../../src/server/handingBack/handBack";
import { runAll } from "../../src/server/jobs/jobs";
import { deskPiece } from "../../src/server/marking/desk/deskPiece";
import { addMark } from "../../src/server/marking/marks";
import { saveFeedback } from "../../src/server/marking/draft";
import { addPrivateNote } from "../../src/server/marking/privateNotes";
import { studentPage } from "../../src/server/overview/student";
import { handOutSheet } from "../../src/server/overview/sheet";
import { todayView } from "../../src/server/overview/today";
import { sendMessage } from "../../src/server/pieces/answers";
import { roundView } from "../../src/server/pieces/roundView";
import { handIn, openPiece } from "../../src/server/pieces/moves";
import { pieceView } from "../../src/server/pieces/pieceView";
import { addUpload, lookAtUpload, readUpload } from "../../src/server/uploads/uploads";
import { sweepReminders } from "../../src/server/reminders/sweep";
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

/** Handing back one, many and all: now, at a time, with scores that come later; called back, taken back, interrupted. */
let database: TestDatabase;
let school: SmallSchool;
let handOutId: string;
let pieces: string[];
const NOW = new Date("2026-10-14T15:00:00Z");
const at = (minutes: number) => new Date(NOW.getTime() + minutes * 60_000);
const owner = () => asPerson(database.sql, school.owner);
const jobs = (now: Date) => runAll(database.sql, HANDLERS, now);
const studentOf = (n: number): Person => school.students[n]!;
const seen = (n: number, now: Date) =>
  asPerson(database.sql, studentOf(n)).read(now, (call) => pieceView(call, pieces[n]!));

beforeAll(async () => {
  database = await testDatabase();
  answerOn(database);
});
afterAll(() => endAnswers(database));

/** Four students whose letters are in; a draft on the first three, with a score on the first two. */
beforeEach(async () => {
  const { sql } = database;
  school = await smallSchool(sql, 4);
  const given = { title: "Letter", instructions: doc("Write."), points: "10" };
  const { handOuts } = await owner().change(at(-600), (call) =>
    handOutSimply(call, school.sectionId, { ...given, due: "2026-10-14T16:00" }),
  );
  handOutId = handOuts[0]!.id;
  const rows = await sql<{ id: string }[]>`
    select piece.id from piece join person on person.id = piece.student_id
    where hand_out_id = ${handOutId} order by person.sort_name`;
  pieces = rows.map((row) => row.id);
  for (const [n, id] of pieces.entries())
    await asPerson(sql, studentOf(n)).change(at(-60), (call) =>
      handIn(call, id, { doc: doc(`Letter ${n}. It rained on the pier.`) }, 0),
    );
  const says = [
    ["Well seen.", "8"],
    ["Say where.", "5"],
    ["A start.", ""],
  ];
  for (const [n, [overall, score]] of says.entries())
    await owner().change(at(-30), (call) =>
      saveFeedback(call, pieces[n]!, { overall: overall!, score: score!, picks: {} }, 0),
    );
});

const GIVEN: Omit<GivenBatch, "pieceIds"> = {
  ...{ outcome: "final", due: null, at: null, hold: 0, message: "" },
  ...{ scores: "now", scoresAt: null },
};
const make = (given: Partial<GivenBatch>, now = NOW) =>
  owner().change(now, (call) =>
    makeBatch(call, { ...GIVEN, pieceIds: pieces.slice(0, 3), ...given }),
  );
const states = async () => {
  const rows = await database.sql<{ id: string; state: string }[]>`
    select id, state from piece where hand_out_id = ${handOutId}`;
  return pieces.map((id) => rows.find((row) => row.id === id)!.state);
};
const handBackRows = () => database.sql<{ pieceId: string; n: number }[]>`
  select piece_id, count(*)::int as n from hand_back
  join piece on piece.id = hand_back.piece_id
  where hand_out_id = ${handOutId} group by piece_id`;

describe("many at once", () => {
  test("each as its draft says: for good, to revise by its own time, or kept; with a word to all", async () => {
    await owner().change(NOW, (call) =>
      setOutcome(call, pieces[1]!, { outcome: "revise", due: "2026-10-22T09:05" }),
    );
    await owner().change(NOW, (call) =>
      setOutcome(call, pieces[2]!, { outcome: "keep", due: null }),
    );
    const { id } = await make({ outcome: "draft", due: "2026-10-30T16:00", message: "Read it." });
    await jobs(NOW);
    expect(await states()).toEqual(["handed_back", "to_revise", "handed_in", "handed_in"]);
    const batch = await owner().read(NOW, (call) => readBatch(call, id));
    expect(batch).toMatchObject({ state: "done", gone: 2, total: 3 });
    expect(batch.left.map((line) => line.why)).toEqual([
      "Its draft says that it is only to be kept.",
    ]);
    const [first, second, third] = await Promise.all([0, 1, 2].map((n) => seen(n, at(1))));
    expect(first!.cameBack[0]).toMatchObject({ overall: "Well seen.", score: "8 / 10" });
    expect(second!.cameBack[0]!.nextDue).toContain("09:05");
    expect([first, second, third].map((v) => v!.thread.map((m) => m.body))).toEqual([
      ["Read it."],
      ["Read it."],
      [],
    ]);
  });

  test("an empty piece never goes with others; of one that is not in by then the reason is said", async () => {
    const { id } = await make({ pieceIds: pieces });
    await jobs(NOW);
    expect((await states())[3]).toBe("handed_in");
    const batch = await owner().read(NOW, (call) => readBatch(call, id));
    expect(batch.left).toEqual([
      { pieceId: pieces[3], student: "Student 4", why: "Nothing is written on it." },
    ]);
  });

  test("whoever may no longer hand back when its time comes, does not", async () => {
    await database.sql`
      update section_teacher set may_hand_back = true
      where section_id = ${school.sectionId} and person_id = ${school.co.id}`;
    const { id } = await asPerson(database.sql, school.co).change(NOW, (call) =>
      makeBatch(call, { ...GIVEN, pieceIds: [pieces[0]!], at: "2026-10-14T15:30" }),
    );
    await database.sql`
      update section_teacher set may_hand_back = false
      where section_id = ${school.sectionId} and person_id = ${school.co.id}`;
    await jobs(at(240));
    expect((await states())[0]).toBe("handed_in");
    const batch = await owner().read(at(241), (call) => readBatch(call, id));
    expect(batch.left[0]!.why).toBe("You may no longer hand this piece back.");
  });

  test.each([
    [{ at: "2026-10-14T11:00" }, "This time is past."],
    [{ outcome: "revise", due: null } as const, "Say when the revision is due."],
    [{ outcome: "revise", due: "2026-10-13T11:00" } as const, "due before it goes back"],
    [{ scores: "date", scoresAt: null } as const, "Say when the scores come."],
  ])("%j is refused with words, and nothing waits", async (given, words) => {
    await expect(make(given)).rejects.toThrow(words);
    expect(await jobs(at(600))).toBe(0);
    expect((await states()).every((state) => state === "handed_in")).toBe(true);
  });
});

describe("now, in a minute, at a time", () => {
  test("for its minute nothing has happened, and called back nothing does", async () => {
    const { id } = await make({ hold: 60 });
    await jobs(at(0.5));
    expect(await states()).toEqual(Array(4).fill("handed_in"));
    expect((await seen(0, at(0.5))).cameBack).toEqual([]);
    const after = await owner().change(at(0.6), (call) => callBatchBack(call, id));
    expect(after).toMatchObject({ state: "called back", gone: 0 });
    await jobs(at(30));
    await sweepReminders(database.sql, at(30));
    expect(await handBackRows()).toEqual([]);
    // The pieces are free again, and go when they are sent anew.
    await make({}, at(31));
    await jobs(at(31));
    expect((await states()).slice(0, 3)).toEqual(Array(3).fill("handed_back"));
  });

  test("a piece waits in one act at most", async () => {
    await make({ at: "2026-10-15T15:30" });
    await expect(make({ pieceIds: [pieces[0]!] })).rejects.toBeInstanceOf(Refused);
    // Two who press at the same moment: one act is made, and the other is told why not.
    const both = await Promise.allSettled([1, 2].map(() => make({ pieceIds: [pieces[3]!] })));
    expect(both.map((one) => one.status).sort()).toEqual(["fulfilled", "rejected"]);
    expect(both.find((one) => one.status === "rejected")).toMatchObject({
      reason: expect.any(Refused),
    });
  });

  test("it is said on the sheet and on the day's sheet, and what goes is what the draft says then", async () => {
    await make({ at: "2026-10-14T15:30" });
    const sheet = await owner().read(at(1), (call) => handOutSheet(call, handOutId));
    expect(sheet.lines.map((line) => line.feedback)).toEqual([
      ...Array(3).fill("goes back today 15:30"),
      "",
    ]);
    expect(sheet.going).toMatchObject([{ words: "goes back today 15:30", pieces: 3 }]);
    const today = await owner().read(at(1), (call) => todayView(call));
    expect(today.sheet).toContainEqual(
      expect.objectContaining({ time: "15:30", what: expect.stringContaining("3 pieces") }),
    );
    await owner().change(at(5), (call) =>
      saveFeedback(call, pieces[0]!, { overall: "Better words.", score: "9", picks: {} }, 1),
    );
    await jobs(at(240));
    expect((await seen(0, at(241))).cameBack[0]).toMatchObject({ overall: "Better words." });
  });

  test("with two applications it fires once, and each student is told once", async () => {
    const { id } = await make({ at: "2026-10-14T15:30" });
    const payload = { batchId: id };
    const later = at(240);
    await Promise.all([1, 2, 3].map(() => sendBatch(database.sql, payload, later)));
    await Promise.all([1, 2].map(() => sweepReminders(database.sql, at(241))));
    await sendBatch(database.sql, payload, at(242));
    await sweepReminders(database.sql, at(243));
    expect((await handBackRows()).map((row) => row.n)).toEqual([1, 1, 1]);
    const told = await database.sql<{ n: number }[]>`
      select count(*)::int as n from reminder join piece on piece.id = reminder.piece_id
      where hand_out_id = ${handOutId} and kind = 'handed back' group by piece.id`;
    expect(told.map((row) => row.n)).toEqual([1, 1, 1]);
  });

  test("interrupted in the middle, each piece is back once or not yet, and going on finishes", async () => {
    const { id } = await make({});
    await database.sql.unsafe(`
      create function fall_over() returns trigger language plpgsql as $$
      begin
        if new.piece_id = '${pieces[1]}' then raise exception 'the application was killed'; end if;
        return new;
      end $$;
      create trigger fall_over before insert on hand_back for each row execute function fall_over()`);
    await jobs(NOW);
    await database.sql.unsafe("drop trigger fall_over on hand_back; drop function fall_over()");
    expect((await states()).slice(0, 3)).toEqual(["handed_back", "handed_in", "handed_back"]);
    const going = await owner().read(at(1), (call) => readBatch(call, id));
    expect(going).toMatchObject({ state: "going", gone: 2 });
    await owner().change(at(1), (call) => goOnWithBatch(call, id));
    await jobs(at(1));
    expect((await states()).slice(0, 3)).toEqual(Array(3).fill("handed_back"));
    expect((await handBackRows()).map((row) => row.n)).toEqual([1, 1, 1]);
  });
});

describe("the process that hands back is killed in the middle", () => {
  /** Whether some statement waits for a row that another holds. */
  const waitsForARow = async () =>
    (
      await database.sql<{ n: number }[]>`
        select count(*)::int as n from pg_stat_activity
        where datname = current_database() and wait_event_type = 'Lock'`
    )[0]!.n > 0;

  test("what had gone is back once and told once, the rest not yet; going on finishes", async () => {
    const { id } = await make({});
    const holder = connect(database.url, 1);
    let release = () => {};
    let begun = () => {};
    const held = new Promise<void>((resolve) => (begun = resolve));
    // The second piece is held, so that the other process stands in the middle of its work when it is killed.
    const holding = holder.begin(async (tx) => {
      await tx`select 1 from piece where id = ${pieces[1]!} for update`;
      begun();
      await new Promise<void>((resolve) => (release = resolve));
    });
    await held;
    const child = spawn(
      path.join(process.cwd(), "node_modules/.bin/tsx"),
      ["tests/support/runJobs.ts", NOW.toISOString()],
      { env: process.env, detached: true, stdio: "ignore" },
    );
    const ended = new Promise((resolve) => child.once("exit", resolve));
    while (!(await waitsForARow())) await new Promise((resolve) => setTimeout(resolve, 50));
    process.kill(-child.pid!, "SIGKILL");
    await ended;
    release();
    await holding;
    await holder.end();
    const gone = await states();
    expect(gone.filter((state) => state === "handed_back").length).toBeLessThan(3);
    expect(gone[1]).toBe("handed_in");
    await owner().change(at(1), (call) => goOnWithBatch(call, id));
    await jobs(at(90));
    expect((await states()).slice(0, 3)).toEqual(Array(3).fill("handed_back"));
    expect((await handBackRows()).map((row) => row.n)).toEqual([1, 1, 1]);
    await sweepReminders(database.sql, at(91));
    await sweepReminders(database.sql, at(92));
    const told = await database.sql<{ n: number }[]>`
      select count(*)::int as n from reminder join piece on piece.id = reminder.piece_id
      where hand_out_id = ${handOutId} and kind = 'handed back' group by piece.id`;
    expect(told.map((row) => row.n)).toEqual([1, 1, 1]);
  });
});

describe("taken back", () => {
  test("all of it is hidden again, and it is said who had read it", async () => {
    const { id } = await make({});
    await jobs(NOW);
    await asPerson(database.sql, studentOf(0)).change(at(2), (call) => openPiece(call, pieces[0]!));
    const taken = await owner().change(at(3), (call) => takeBatchBack(call, id));
    expect(taken).toEqual({ taken: 3, readBy: ["Student 1"], left: [] });
    expect((await states()).slice(0, 3)).toEqual(Array(3).fill("handed_in"));
    expect((await seen(0, at(4))).cameBack).toEqual([]);
  });
});

describe("scores that come later", () => {
  test("when all that is in has gone back; until then no figure is anywhere in what a student has", async () => {
    await make({ pieceIds: [pieces[0]!, pieces[1]!], scores: "all" });
    await jobs(NOW);
    const before = await seen(0, at(1));
    expect(before.cameBack[0]).toMatchObject({ overall: "Well seen.", score: null });
    expect(JSON.stringify(before.cameBack)).not.toContain("8");
    const sheet = await owner().read(at(1), (call) => handOutSheet(call, handOutId));
    expect(sheet.lines[0]!.feedback).toContain("its score comes when all are done");
    // One goes, another is excused: nothing waits any more.
    await make({ pieceIds: [pieces[2]!] }, at(2));
    await jobs(at(2));
    expect((await seen(0, at(3))).cameBack[0]!.score).toBeNull();
    await owner().change(at(4), (call) =>
      handBack(call, pieces[3]!, { outcome: "final", due: null }),
    );
    await jobs(at(4));
    expect((await seen(0, at(5))).cameBack[0]!.score).toBe("8 / 10");
    expect((await seen(1, at(5))).cameBack[0]!.score).toBe("5 / 10");
  });

  test("on a date; one that was taken back by then brings nothing", async () => {
    await make({ scores: "date", scoresAt: "2026-10-16T15:30" });
    await jobs(NOW);
    const [row] = await database.sql<{ id: string }[]>`
      select batch_id as id from hand_back_batch_piece where piece_id = ${pieces[0]!}`;
    expect((await seen(0, at(1))).cameBack[0]!.score).toBeNull();
    await jobs(at(2 * 1440 + 600));
    expect((await seen(0, at(2 * 1440 + 601))).cameBack[0]!.score).toBe("8 / 10");
    await owner().change(at(2 * 1440 + 700), (call) => takeBatchBack(call, row!.id));
    await jobs(at(9 * 1440));
    expect((await seen(0, at(9 * 1440))).cameBack).toEqual([]);
  });
});

describe("before it goes", () => {
  const plan = () => owner().read(NOW, (call) => handBackPlan(call, [handOutId]));
  test("what is not ready is said by name, and what nobody wrote on is counted", async () => {
    await database.sql`update feedback set overall = '' where piece_id = ${pieces[2]!}`;
    const { lines, unread, mayRevise } = await plan();
    expect([unread, mayRevise]).toEqual([1, true]);
    expect(lines.map((line) => [line.student, ...line.gaps.map((gap) => gap.kind)])).toEqual([
      ["Student 1"],
      ["Student 2"],
      ["Student 3", "nothing written", "no score"],
    ]);
    await database.sql`update feedback set score_typed = '99' where piece_id = ${pieces[1]!}`;
    const [, wrong] = (await plan()).lines;
    expect(wrong!.gaps).toMatchObject([{ kind: "score", stops: true }]);
  });

  test("changed after handing back it is there again; unchanged it is not", async () => {
    await make({});
    await jobs(NOW);
    expect((await plan()).lines).toEqual([]);
    await owner().change(at(5), (call) =>
      saveFeedback(call, pieces[0]!, { overall: "Well seen!", score: "8", picks: {} }, 1),
    );
    const { lines } = await owner().read(at(6), (call) => handBackPlan(call, [handOutId]));
    expect(lines.map((line) => [line.student, line.again])).toEqual([["Student 1", true]]);
    const sheet = await owner().read(at(6), (call) => handOutSheet(call, handOutId));
    expect(sheet.lines[0]!.feedback).toMatch(/^changed after handing back/);
    expect(sheet.readBy).toContain("read by 0 of 3");
  });

  test("what is shown before is what the student sees after, to the letter", async () => {
    const due = new Date("2026-10-22T12:05:00Z");
    const looked = { outcome: "revise", due, tellScore: true } as const;
    const before = await owner().read(NOW, (call) =>
      lookAsStudent(call, pieces[1]!, { ...looked, scoresWait: false }),
    );
    await make({ outcome: "revise", due: "2026-10-22T09:05", tellScore: true });
    await jobs(NOW);
    const after = await seen(1, NOW);
    for (const part of ["cameBack", "marks", "moon", "openRequests", "rubric"] as const)
      expect({ [part]: before[part] }).toEqual({ [part]: after[part] });
    expect((await states())[1]).toBe("to_revise");
  });
});

test("how many rounds there will be and what is to be revised is said with it, alone and in an act", async () => {
  const part = "00000000-0000-4000-8000-0000000000f8";
  await database.sql`
    update assignment
    set parts = parts || ${database.sql.json([aPart(part, "photos", { label: "a picture of the graph" })] as never)}
    where id = (select assignment_id from hand_out where id = ${handOutId})`;
  const revise = { outcome: "revise", due: "2026-10-22T09:05" } as const;
  const { parts } = await owner().read(NOW, (call) => handBackPlan(call, [handOutId]));
  expect(parts.at(-1)).toEqual({ id: part, label: "a picture of the graph" });
  await owner().change(NOW, (call) =>
    handBack(call, pieces[0]!, { ...revise, more: 1, parts: [part] }),
  );
  await make({ ...revise, pieceIds: [pieces[1]!], more: 2, parts: [part] });
  await jobs(NOW);
  await owner().change(NOW, (call) => handBack(call, pieces[2]!, revise));
  const asked = await Promise.all([0, 1, 2].map((n) => seen(n, at(1))));
  expect(asked.map((view) => view.cameBack.at(-1)!.asked)).toEqual([
    {
      words: [
        "To revise: a picture of the graph. The rest can stay as it is.",
        "Round 2 is the last.",
      ],
      parts: [part],
    },
    {
      words: [
        "To revise: a picture of the graph. The rest can stay as it is.",
        "There are 2 more rounds, this one counted.",
      ],
      parts: [part],
    },
    { words: [], parts: [] },
  ]);
});

describe("round by round", () => {
  const again = (n: number, changes: string) =>
    asPerson(database.sql, studentOf(n)).change(at(100), (call) =>
      handIn(call, pieces[n]!, { doc: doc("Letter. It rained on the old pier."), changes }, 1),
    );
  const desk = () => owner().read(at(110), (call) => deskPiece(call, pieces[1]!));

  test("the score of a round to revise is the teachers' unless they tell it, and counts all the same", async () => {
    const revise = { outcome: "revise", due: "2026-10-22T09:05" } as const;
    await owner().change(NOW, (call) => handBack(call, pieces[0]!, { ...revise, tellScore: true }));
    await owner().change(NOW, (call) => handBack(call, pieces[1]!, revise));
    expect((await seen(0, at(1))).cameBack[0]!.score).toBe("8 / 10");
    expect(JSON.stringify((await seen(1, at(1))).cameBack)).not.toMatch(/"5"|5 \//);
    await again(1, "I said which pier.");
    const shown = await desk();
    expect(shown.changes).toBe("I said which pier.");
    expect(shown.rounds).toMatchObject([{ round: 1, outcome: "revise", score: "5 / 10" }]);
    await owner().change(at(120), (call) =>
      saveFeedback(call, pieces[1]!, { overall: "Yes.", score: "9", picks: {} }, 0),
    );
    await owner().change(at(121), (call) =>
      handBack(call, pieces[1]!, { outcome: "final", due: null }),
    );
    expect((await desk()).finalWords).toBe("the latest counts: 9");
    expect((await desk()).handedBack!.changedSince).toBe(false);
  });

  test("each round is there again for both sides, on the version it was made on, and for nobody else", async () => {
    const markId = crypto.randomUUID();
    const [version] = await database.sql<{ id: string }[]>`
      select id from version where piece_id = ${pieces[1]!}`;
    await owner().change(at(-20), (call) =>
      addMark(call, pieces[1]!, {
        ...{ id: markId, kind: "note", nature: "request", start: 10, end: 12, quote: "It" },
        ...{ body: "Which pier?", replacement: "", versionId: version!.id, commentId: null },
      }),
    );
    await owner().change(NOW, (call) =>
      handBack(call, pieces[1]!, { outcome: "revise", due: "2026-10-22T09:05" }),
    );
    await asPerson(database.sql, studentOf(1)).change(at(50), (call) =>
      sendMessage(call, pieces[1]!, { body: "The old one?", markId }),
    );
    // The question waits at the Desk with its words, though nothing is in again yet.
    const asked = await owner().read(at(51), (call) => deskPiece(call, pieces[1]!));
    expect(asked.markTalk).toMatchObject([
      { markId, quote: "It", said: "Which pier?", messages: [{ body: "The old one?" }] },
    ]);
    await again(1, "");
    for (const who of [studentOf(1), school.owner]) {
      const round = await asPerson(database.sql, who).read(at(111), (call) =>
        roundView(call, pieces[1]!, 1),
      );
      expect(round.back.overall).toBe("Say where.");
      expect(JSON.stringify(round.doc)).toContain("Letter 1.");
      expect(round.marks).toMatchObject([{ id: markId, at: { start: 10, end: 12 } }]);
    }
    for (const who of [studentOf(0), school.stranger, school.guardian, school.outsider])
      await expect(
        asPerson(database.sql, who).read(at(111), (call) => roundView(call, pieces[1]!, 1)),
      ).rejects.toBeInstanceOf(NotFound);
    // A round of which only a draft exists came back to nobody.
    await expect(
      owner().read(at(111), (call) => roundView(call, pieces[2]!, 1)),
    ).rejects.toBeInstanceOf(NotFound);
  });
});

describe("files back", () => {
  const give = async (name: string) => {
    const owner_ = owner();
    const kept = await owner_.read(NOW, (call) =>
      lookAtUpload(call, { name, bytes: Buffer.from(`marked: ${name}`) }),
    );
    return owner_.change(NOW, (call) => addUpload(call, kept));
  };
  const mayRead = (who: Person, id: string) =>
    asPerson(database.sql, who)
      .read(at(2), (call) => readUpload(call, id))
      .then(
        () => true,
        () => false,
      );

  test("one for a student, one for all: theirs when it is handed back, kept with its round, and nobody else's", async () => {
    const [own, all] = [await give("marked copy.pdf"), await give("article.pdf")];
    await owner().change(NOW, (call) =>
      addReturnedFile(call, { uploadId: own.id, pieceIds: [pieces[0]!] }),
    );
    const laid = await owner().change(NOW, (call) =>
      addReturnedFile(call, { uploadId: all.id, pieceIds: [...pieces, pieces[0]!] }),
    );
    expect(laid.added).toBe(4);
    expect(await mayRead(studentOf(0), own.id)).toBe(false);
    expect(await mayRead(school.co, own.id)).toBe(true);
    await make({ pieceIds: [pieces[0]!] });
    await jobs(NOW);
    expect((await seen(0, at(1))).cameBack[0]!.files.map((file) => file.name)).toEqual([
      "marked copy.pdf",
      "article.pdf",
    ]);
    const reads = await Promise.all([
      mayRead(studentOf(0), own.id),
      mayRead(studentOf(1), own.id),
      mayRead(studentOf(1), all.id),
      mayRead(school.stranger, all.id),
      mayRead(school.guardian, own.id),
    ]);
    expect(reads).toEqual([true, false, false, false, false]);
    // A file alone is something that goes back, and taken back it is hidden again.
    await make({ pieceIds: [pieces[3]!] }, at(3));
    await jobs(at(3));
    expect(await mayRead(studentOf(3), all.id)).toBe(true);
    await owner().change(at(4), (call) => takeFeedbackBack(call, pieces[3]!));
    expect(await mayRead(studentOf(3), all.id)).toBe(false);
    const { files } = await owner().change(at(5), (call) =>
      removeReturnedFile(call, pieces[1]!, all.id),
    );
    expect(files).toEqual([]);
  });
});

describe("a student's page for teachers", () => {
  const page = (who: Person, now = at(200)) =>
    asPerson(database.sql, who).read(now, (call) => studentPage(call, studentOf(1).id));
  test("pieces, requests, what was said and private notes of one's own sections; nobody else's", async () => {
    await owner().change(at(-5), (call) =>
      addPrivateNote(call, pieces[1]!, { about: "student", body: "moved house", uploads: [] }),
    );
    await make({ pieceIds: [pieces[1]!], message: "Well done." });
    await jobs(NOW);
    const { lines, talk, notes, overTime, sections } = await page(school.co);
    expect(sections.map((section) => section.name)).toEqual(["Gannet"]);
    expect(lines).toMatchObject([{ title: "Letter", score: "5 / 10", state: "handed back" }]);
    expect(talk).toMatchObject([{ body: "Well done.", title: "Letter" }]);
    expect(notes).toMatchObject([{ body: "moved house" }]);
    expect(overTime).toMatchObject({ back: 1, rounds: "1.0", asked: 0 });
    for (const who of [school.stranger, studentOf(1), school.guardian, school.office])
      await expect(page(who)).rejects.toBeInstanceOf(NotFound);
  });
  test("of work that is read without names it says only whether it is in", async () => {
    await database.sql`update hand_out set anonymous = true where id = ${handOutId}`;
    await asPerson(database.sql, studentOf(1)).change(at(1), (call) =>
      sendMessage(call, pieces[1]!, { body: "It is me.", markId: null }),
    );
    const { lines, talk } = await page(school.owner);
    expect(lines).toMatchObject([{ onDesk: false, feedback: "", score: null }]);
    expect(JSON.stringify([lines, talk])).not.toContain(pieces[1]);
    expect(talk).toEqual([]);
  });
});
