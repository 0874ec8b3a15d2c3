import { afterAll, beforeAll, expect, test } from "@jest/globals";
import fc from "fast-check";
import { Conflict, Invalid, NotFound, Refused } from "../../src/core/refusals";
import { WORK_PILES } from "../../src/core/pieces/standing";
import type { Call } from "../../src/server/call";
import { handBack } from "../../src/server/handingBack/handBack";
import { setExcused, setFlag } from "../../src/server/marking/flag";
import { saveFeedback } from "../../src/server/marking/draft";
import { deskPiece } from "../../src/server/marking/desk/deskPiece";
import { queueView } from "../../src/server/overview/queue";
import { todayView } from "../../src/server/overview/today";
import { sendMessage } from "../../src/server/pieces/answers";
import { sendCheckpoint } from "../../src/server/pieces/checkpoints";
import { handIn, openPiece, takeBack } from "../../src/server/pieces/moves";
import { asPerson, doc, smallSchool, testDatabase, type TestDatabase } from "../support/database";
import { handOutSimply } from "../support/handOut";

/**
 * The numbers of Today, after any acts of two classes of pieces: each is the number of pieces that its link leads to, each
 * pile is the sum of its lines, and every piece is in one place of "how things stand".
 */
let database: TestDatabase;
beforeAll(async () => {
  database = await testDatabase();
});
afterAll(() => database?.drop());

const START = new Date("2026-10-14T15:00:00Z").getTime();
const HOUR = 3_600_000;
const STUDENTS = 3;

const ACTS = [
  ...["opens", "hands in", "takes back", "asks", "checkpoint"],
  ...["drafts", "hands back", "to revise", "excuses", "late", "missing", "a day goes by"],
] as const;
type Step = { act: (typeof ACTS)[number]; student: number; work: number };

async function newClass() {
  const school = await smallSchool(database.sql, STUDENTS);
  const owner = asPerson(database.sql, school.owner);
  const handOuts: string[] = [];
  for (const [n, due] of ["2026-10-15T16:00", "2026-10-20T16:00"].entries()) {
    const made = await owner.change(new Date(START - HOUR), (call) =>
      handOutSimply(call, school.sectionId, {
        ...{ title: `Work ${n}`, instructions: doc("Write."), points: "10", due },
      }),
    );
    handOuts.push(made.handOuts[0]!.id);
  }
  const pieces = await database.sql<{ id: string; studentId: string; handOutId: string }[]>`
    select id, student_id, hand_out_id from piece where hand_out_id = any(${handOuts})`;
  return { school, owner, handOuts, pieces };
}
type Class = Awaited<ReturnType<typeof newClass>>;

/** What a refusal in words leaves as it was is no fault. */
const refused = (error: unknown): void => {
  if (![Refused, Invalid, NotFound, Conflict].some((kind) => error instanceof kind)) throw error;
};

async function take({ school, owner, handOuts, pieces }: Class, step: Step, now: Date) {
  const student = school.students[step.student % STUDENTS]!;
  const handOutId = handOuts[step.work % handOuts.length];
  const { id } = pieces.find((p) => p.studentId === student.id && p.handOutId === handOutId)!;
  const own = (work: (call: Call) => Promise<unknown>) =>
    asPerson(database.sql, student).change(now, work).catch(refused);
  const teacher = (work: (call: Call) => Promise<unknown>) =>
    owner.change(now, work).catch(refused);
  const [copy] = await database.sql<{ revision: string }[]>`
    select revision from working_copy where piece_id = ${id}`;
  const revision = Number(copy?.revision ?? 0);
  const written = { doc: doc("It rained."), answers: {} };
  const due = new Date(now.getTime() + 120 * HOUR).toISOString().slice(0, 16);
  const doing: Record<Step["act"], () => Promise<unknown>> = {
    opens: () => own((call) => openPiece(call, id)),
    "hands in": () => own((call) => handIn(call, id, written, revision)),
    "takes back": () => own((call) => takeBack(call, id)),
    asks: () => own((call) => sendMessage(call, id, { body: "How long?", markId: null })),
    checkpoint: () => own((call) => sendCheckpoint(call, id, written, revision)),
    drafts: () =>
      teacher(async (call) => {
        const desk = await deskPiece(call, id);
        await saveFeedback(call, id, { overall: "Good.", score: "7", picks: {} }, desk.revision);
      }),
    "hands back": () => teacher((call) => handBack(call, id, { outcome: "final", due: null })),
    "to revise": () => teacher((call) => handBack(call, id, { outcome: "revise", due })),
    excuses: () => teacher((call) => setExcused(call, id, { excused: true })),
    late: () => teacher((call) => setFlag(call, id, { flag: "late" })),
    missing: () => teacher((call) => setFlag(call, id, { flag: "missing" })),
    "a day goes by": async () => {},
  };
  await doing[step.act]();
}

async function check({ owner, pieces, handOuts }: Class, now: Date): Promise<void> {
  const today = await owner.read(now, todayView);
  for (const kind of [...WORK_PILES, "questions"] as const) {
    const lying = await owner.read(now, (call) => queueView(call, { handOutId: null, pile: kind }));
    expect({ kind, n: today.piles.find((p) => p.kind === kind)!.count }).toEqual({
      kind,
      n: lying.length,
    });
    if (kind === "awaited") continue;
    for (const handOutId of handOuts) {
      const line = today.lines.find((one) => one.handOutId === handOutId);
      const behind = await owner.read(now, (call) => queueView(call, { handOutId, pile: kind }));
      expect({ kind, n: line?.counts[kind] ?? 0 }).toEqual({ kind, n: behind.length });
    }
  }
  for (const { id, counts } of today.handOuts) {
    const { notOpened, started, back, revise } = counts;
    const all = pieces.filter((p) => p.handOutId === id).length;
    expect(notOpened + started + counts.in + back + revise).toBe(all);
    expect(counts.of).toBe(all);
    expect(counts.late).toBeLessThanOrEqual(counts.in);
  }
}

test("after any acts every number of Today is the number of pieces it leads to, and they add up", async () => {
  const step = fc.record({
    ...{ act: fc.constantFrom(...ACTS), student: fc.nat(STUDENTS - 1), work: fc.nat(1) },
  });
  await fc.assert(
    fc.asyncProperty(fc.array(step, { minLength: 4, maxLength: 14 }), async (steps) => {
      const made = await newClass();
      let now = START;
      for (const one of steps) {
        now += one.act === "a day goes by" ? 24 * HOUR : HOUR / 4;
        await take(made, one, new Date(now));
      }
      await check(made, new Date(now));
    }),
    { numRuns: 25 },
  );
});
