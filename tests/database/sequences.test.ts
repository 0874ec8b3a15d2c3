import { afterAll, beforeAll, expect, test } from "@jest/globals";
import fc from "fast-check";
import { uuidv7 } from "uuidv7";
import { HttpProblem } from "../../src/server/problem";
import { Conflict, Invalid, NotFound, Refused } from "../../src/core/refusals";
import { HANDLERS } from "../../src/server/background/handlers";
import type { Call, ReadCall } from "../../src/server/call";
import { makeBatch, takeBatchBack } from "../../src/server/handingBack/batches";
import { handBack, takeFeedbackBack } from "../../src/server/handingBack/handBack";
import { runAll } from "../../src/server/jobs/jobs";
import { saveFeedback } from "../../src/server/marking/draft";
import { addMark } from "../../src/server/marking/marks";
import { deskPiece } from "../../src/server/marking/desk/deskPiece";
import { answerMark } from "../../src/server/pieces/answers";
import { askForLook } from "../../src/server/pieces/askForLook";
import { closeThread } from "../../src/server/pieces/closeThread";
import { handIn, openPiece, saveWork, takeBack } from "../../src/server/pieces/moves";
import { pieceView } from "../../src/server/pieces/pieceView";
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

/**
 * Any order of moves, by both sides, allowed or refused: nothing that was handed in is lost or altered, no draft is
 * seen, nobody is told twice, and there is always someone who can move the piece on.
 */
let database: TestDatabase;
beforeAll(async () => {
  database = await testDatabase();
  answerOn(database);
});
afterAll(() => endAnswers(database));

const START = new Date("2026-10-14T15:00:00Z").getTime();
const DRAFT = "draft-only-";

/** One piece, its two sides, and what has to stay true of it. */
class World {
  private minute = 0;
  private drafts = 0;
  private readonly stored = new Map<string, string>();
  constructor(
    private readonly school: SmallSchool,
    readonly pieceId: string,
  ) {}
  get now(): Date {
    return new Date(START + this.minute * 60_000);
  }
  private get student() {
    return asPerson(database.sql, this.school.students[0]!);
  }
  private get teacher() {
    return asPerson(database.sql, this.school.owner);
  }

  /** Tries a move; a refusal in words is an answer, anything else is a fault. @returns whether it was done */
  async attempt(side: "student" | "teacher", move: (call: Call) => Promise<unknown>) {
    this.minute += 7;
    return this[side].change(this.now, move).then(
      () => true,
      (error: unknown) => {
        const known = [Refused, Invalid, NotFound, Conflict, HttpProblem];
        if (!known.some((kind) => error instanceof kind)) throw error;
        return false;
      },
    );
  }
  read = <T>(side: "student" | "teacher", work: (call: ReadCall) => Promise<T>) =>
    this[side].read(this.now, work);
  due = (days: number) =>
    new Date(this.now.getTime() + days * 86_400_000).toISOString().slice(0, 16);
  nextDraft = () => `${DRAFT}${(this.drafts += 1)}`;
  async sweep(): Promise<void> {
    await runAll(database.sql, HANDLERS, this.now);
    await sweepReminders(database.sql, this.now);
    await sweepReminders(database.sql, this.now);
  }

  async check(): Promise<void> {
    await this.nothingIsLost();
    await this.noDraftIsSeen();
    await this.nobodyIsToldTwice();
  }

  private async nothingIsLost(): Promise<void> {
    const versions = await database.sql<{ id: string; text: string }[]>`
      select id, text from version_content where piece_id = ${this.pieceId}`;
    const now = new Map(versions.map((v) => [v.id, v.text]));
    for (const [id, text] of this.stored) expect(now.get(id)).toBe(text);
    for (const [id, text] of now) this.stored.set(id, text);
  }

  /** What the student sees of drafts is what stands in hand-backs that are in force, and no more. */
  private async noDraftIsSeen(): Promise<void> {
    const view = await this.read("student", (call) => pieceView(call, this.pieceId));
    const seen = JSON.stringify(view).match(new RegExp(`${DRAFT}\\d+`, "g")) ?? [];
    const back = await database.sql<{ content: unknown }[]>`
      select content from hand_back
      where piece_id = ${this.pieceId} and not exists (select from hand_back_withdrawn where hand_back_id = hand_back.id)`;
    const told = JSON.stringify(back);
    for (const words of seen) expect(told).toContain(`${words}"`);
  }

  private async nobodyIsToldTwice(): Promise<void> {
    const twice = await database.sql`
      select kind, about from reminder where piece_id = ${this.pieceId} group by kind, about having count(*) > 1`;
    expect(twice).toEqual([]);
    const inForce = await database.sql<{ n: number }[]>`
      select count(*)::int as n from hand_back
      where piece_id = ${this.pieceId} and not exists (select from hand_back_withdrawn where hand_back_id = hand_back.id)
      group by round_number`;
    expect(inForce.length).toBeGreaterThanOrEqual(0);
  }

  /** Someone can move it on: the student writes or hands in, or the teacher hands back or opens a round. */
  async isNotStuck(): Promise<void> {
    const student = await this.attempt("student", (call) =>
      handIn(call, this.pieceId, { doc: doc("One more.") }, 99).catch((error: unknown) => {
        if (error instanceof Conflict) return null;
        throw error;
      }),
    );
    const teacher = await this.attempt("teacher", async (call) => {
      const desk = await deskPiece(call, this.pieceId);
      await saveFeedback(
        call,
        this.pieceId,
        { overall: this.nextDraft(), score: "", picks: {} },
        desk.revision,
      );
      await handBack(call, this.pieceId, { outcome: "revise", due: this.due(5) });
    });
    expect({ student, teacher, someone: student || teacher }).toMatchObject({ someone: true });
  }
}

type Move = (world: World) => Promise<unknown>;
const revisionOf = async (pieceId: string) => {
  const [copy] = await database.sql<{ revision: string }[]>`
    select revision from working_copy where piece_id = ${pieceId}`;
  return Number(copy?.revision ?? 0);
};

const MOVES: Record<string, Move> = {
  opens: (w) => w.attempt("student", (call) => openPiece(call, w.pieceId)),
  writes: async (w) => {
    const revision = await revisionOf(w.pieceId);
    return w.attempt("student", (call) =>
      saveWork(call, w.pieceId, { doc: doc(`Words ${revision}.`) }, revision),
    );
  },
  "hands in": async (w) => {
    const revision = await revisionOf(w.pieceId);
    return w.attempt("student", (call) =>
      handIn(call, w.pieceId, { doc: doc(`It rained ${revision} mm.`) }, revision),
    );
  },
  "takes back": (w) => w.attempt("student", (call) => takeBack(call, w.pieceId)),
  "asks for a look": async (w) => {
    const revision = await revisionOf(w.pieceId);
    return w.attempt("student", (call) =>
      askForLook(
        call,
        w.pieceId,
        {
          ...{ doc: doc(`So far ${revision}.`), of: "teacher", readerId: null },
          ...{ question: "Is it clear?", start: 0, end: 2 },
        },
        revision,
      ),
    );
  },
  answers: (w) =>
    w.attempt("student", async (call) => {
      const { marks } = await pieceView(call, w.pieceId);
      const open = marks.find((mark) => mark.request === "open");
      if (open) await answerMark(call, w.pieceId, open.id, { request: "done", decision: null });
    }),
  drafts: (w) =>
    w.attempt("teacher", async (call) => {
      const desk = await deskPiece(call, w.pieceId);
      const overall = w.nextDraft();
      await saveFeedback(call, w.pieceId, { overall, score: "7", picks: {} }, desk.revision);
    }),
  marks: (w) =>
    w.attempt("teacher", async (call) => {
      const { versionId } = await deskPiece(call, w.pieceId);
      if (versionId)
        await addMark(call, w.pieceId, {
          ...{ id: uuidv7(), kind: "note", nature: "request", start: 0, end: 2 },
          ...{ body: w.nextDraft(), replacement: "", versionId, commentId: null },
        });
    }),
  "hands back": (w) =>
    w.attempt("teacher", (call) => handBack(call, w.pieceId, { outcome: "final", due: null })),
  "hands back to revise": (w) =>
    w.attempt("teacher", (call) => handBack(call, w.pieceId, { outcome: "revise", due: w.due(7) })),
  "hands back with others": async (w) => {
    await w.attempt("teacher", (call) =>
      makeBatch(call, {
        ...{ pieceIds: [w.pieceId], outcome: "final", due: null, at: null, hold: 0 },
        ...{ message: "", scores: "now", scoresAt: null },
      }),
    );
    await w.sweep();
  },
  "takes the act back": (w) =>
    w.attempt("teacher", async (call) => {
      const [last] = await call.tx<{ id: string }[]>`
        select batch_id as id from hand_back_batch_piece where piece_id = ${w.pieceId} order by batch_id desc limit 1`;
      if (last) await takeBatchBack(call, last.id);
    }),
  "takes feedback back": (w) => w.attempt("teacher", (call) => takeFeedbackBack(call, w.pieceId)),
  "closes the thread": (w) =>
    w.attempt("teacher", (call) => closeThread(call, w.pieceId, { closed: true })),
  sweeps: (w) => w.sweep(),
};

async function newWorld(): Promise<World> {
  const school = await smallSchool(database.sql, 1);
  const { handOuts } = await asPerson(database.sql, school.owner).change(
    new Date(START - 3_600_000),
    (call) =>
      handOutSimply(call, school.sectionId, {
        ...{ title: "Log", instructions: doc("Write."), points: "10", due: "2026-10-20T16:00" },
      }),
  );
  const [piece] = await database.sql<{ id: string }[]>`
    select id from piece where hand_out_id = ${handOuts[0]!.id}`;
  return new World(school, piece!.id);
}

test("no order of moves loses a hand-in, shows a draft, tells twice, or leaves a piece that nobody can move", async () => {
  const names = Object.keys(MOVES);
  await fc.assert(
    fc.asyncProperty(
      fc.array(fc.constantFrom(...names), { minLength: 3, maxLength: 14 }),
      async (sequence) => {
        const world = await newWorld();
        for (const name of sequence) {
          await MOVES[name]!(world);
          await world.check();
        }
        await world.isNotStuck();
        await world.check();
      },
    ),
    { numRuns: 40 },
  );
});
