import { afterAll, beforeAll, expect, test } from "@jest/globals";
import { execFile } from "node:child_process";
import { promisify } from "node:util";
import { uuidv7 } from "uuidv7";
import { beginSession } from "../../src/server/auth/sessions";
import { startApp, type App } from "../support/app";
import {
  asPerson,
  doc,
  smallSchool,
  testDatabase,
  type SmallSchool,
  type TestDatabase,
} from "../support/database";
import { handOutSimply } from "../support/handOut";

/** The minute in which everyone hands in, and everything dies. */
const STUDENTS = 500;
const SPAN_MS = 60_000;
let database: TestDatabase;
let app: App;
let school: SmallSchool;
let tokens: string[];

beforeAll(async () => {
  database = await testDatabase();
  school = await smallSchool(database.sql, STUDENTS);
  tokens = await Promise.all(
    school.students.map((student) => beginSession(database.sql, student.id, new Date())),
  );
  app = await startApp(database.url);
});
afterAll(async () => {
  await app?.stop();
  await database?.drop();
});

const cluster = (act: "stop" | "start") =>
  promisify(execFile)(process.execPath, ["scripts/testCluster.mjs", act]);
const wait = (ms: number) => new Promise((resolve) => setTimeout(resolve, Math.max(0, ms)));

type Receipt = { code: string; late: boolean };

/** As the page does it: pressed once, tried until the server has it, always with the same words and key. */
async function handIn(n: number, pieceId: string, pressAt: number): Promise<Receipt> {
  await wait(pressAt - Date.now());
  const key = uuidv7();
  const body = JSON.stringify({ doc: doc(`Student ${n}`), pressedAt: new Date().toISOString() });
  for (let tries = 0; tries < 200; tries += 1) {
    try {
      const answer = await fetch(`${app.origin}/api/pieces/${pieceId}/hand-in`, {
        method: "POST",
        headers: {
          "content-type": "application/json",
          origin: app.origin,
          cookie: `almanac_session=${tokens[n]}`,
          "idempotency-key": key,
          "if-match": '"0"',
        },
        body,
        signal: AbortSignal.timeout(20_000),
      });
      if (answer.ok) return (await answer.json()) as Receipt;
      if (answer.status < 500)
        throw new TypeError(`refused: ${answer.status} ${await answer.text()}`);
    } catch (error) {
      if (error instanceof TypeError && error.message.startsWith("refused")) throw error;
    }
    await wait(400);
  }
  throw new Error(`student ${n} never got a receipt`);
}

test("500 students hand in within a minute around the due moment, the application is killed twice and PostgreSQL once: all are there once, each on its side", async () => {
  const day = new Date(Date.now() + 86_400_000).toISOString().slice(0, 16);
  const { handOuts } = await asPerson(database.sql, school.owner).change(new Date(), (call) =>
    handOutSimply(call, school.sectionId, {
      title: "Log",
      instructions: doc("Write."),
      expects: "work",
      points: "10",
      opens: null,
      due: day,
      closes: null,
      promised: null,
      graceMinutes: 0,
      mayTakeBack: true,
    }),
  );
  const rows = await database.sql<
    { id: string; studentId: string }[]
  >`select id, student_id from piece where hand_out_id = ${handOuts[0]!.id}`;
  const pieces = school.students.map((s) => rows.find((r) => r.studentId === s.id)!.id);
  const start = Date.now() + 500;
  const due = new Date(start + SPAN_MS / 2);
  await database.sql`update hand_out set due_at = ${due} where id = ${handOuts[0]!.id}`;
  const all = Promise.all(pieces.map((id, n) => handIn(n, id, start + ((n * 7919) % SPAN_MS))));
  const accidents = (async () => {
    await wait(start + 12_000 - Date.now());
    await app.stop("SIGKILL");
    app = await startApp(database.url, {}, app.port);
    // PostgreSQL is away over the due moment itself.
    await wait(start + 28_000 - Date.now());
    await cluster("stop");
    await wait(3000);
    await cluster("start");
    await wait(start + 46_000 - Date.now());
    await app.stop("SIGKILL");
    app = await startApp(database.url, {}, app.port);
  })();
  const [receipts] = await Promise.all([all, accidents]);
  const stored = await database.sql<
    { pieceId: string; receipt: string; text: string; handedInAt: Date; late: boolean }[]
  >`
    select version.piece_id, version.receipt, version.text, version.handed_in_at, standing.late
    from version
    join piece_standing standing on standing.id = version.piece_id`;
  expect(stored).toHaveLength(STUDENTS);
  pieces.forEach((pieceId, n) => {
    const row = stored.find((r) => r.pieceId === pieceId)!;
    const late = row.handedInAt > due;
    expect({
      n,
      text: row.text,
      receipt: row.receipt,
      late: row.late,
      said: receipts[n]!.late,
    }).toEqual({ n, text: `Student ${n}`, receipt: receipts[n]!.code, late, said: late });
  });
  expect(stored.filter((r) => r.late).length).toBeGreaterThan(STUDENTS / 4);
  expect(stored.filter((r) => !r.late).length).toBeGreaterThan(STUDENTS / 4);
});
