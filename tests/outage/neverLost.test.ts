import { afterAll, beforeAll, describe, expect, test } from "@jest/globals";
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

/** What must never happen: a hand-in lost or doubled, whatever dies in between. */
const STUDENTS = 200;
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

type HandIn = {
  pieceId: string;
  token: string;
  key: string;
  text: string;
  receipt: { code: string; exactly: string } | null;
};

async function newHandIns(title: string): Promise<HandIn[]> {
  const due = new Date(Date.now() + 86_400_000).toISOString().slice(0, 16);
  const { handOuts } = await asPerson(database.sql, school.owner).change(new Date(), (call) =>
    handOutSimply(call, school.sectionId, {
      title,
      instructions: doc("Write."),
      expects: "work",
      points: "10",
      opens: null,
      due,
      closes: null,
      promised: null,
      graceMinutes: 0,
      mayTakeBack: true,
    }),
  );
  const pieces = await database.sql<
    { id: string; studentId: string }[]
  >`select id, student_id from piece where hand_out_id = ${handOuts[0]!.id}`;
  return school.students.map((student, n) => ({
    pieceId: pieces.find((p) => p.studentId === student.id)!.id,
    token: tokens[n]!,
    key: uuidv7(),
    text: `${title} of student ${n}`,
    receipt: null,
  }));
}

/** One try; true when the server has acknowledged. What it answers when it cannot is looked at, too. */
async function send(work: HandIn): Promise<number> {
  try {
    const answer = await fetch(`${app.origin}/api/pieces/${work.pieceId}/hand-in`, {
      method: "POST",
      headers: {
        "content-type": "application/json",
        origin: app.origin,
        cookie: `almanac_session=${work.token}`,
        "idempotency-key": work.key,
        "if-match": '"0"',
      },
      body: JSON.stringify({ doc: doc(work.text) }),
      signal: AbortSignal.timeout(20_000),
    });
    const body = (await answer.json()) as HandIn["receipt"] & { title?: string };
    if (answer.ok) {
      // An answer repeated must be the first one, to the letter.
      if (work.receipt) expect(body).toEqual(work.receipt);
      work.receipt = body;
    }
    return answer.status;
  } catch {
    return 0;
  }
}

async function untilAllAreIn(works: HandIn[]): Promise<void> {
  for (let round = 0; round < 60 && works.some((w) => !w.receipt); round += 1) {
    await Promise.all(works.filter((w) => !w.receipt).map(send));
    if (works.some((w) => !w.receipt)) await new Promise((resolve) => setTimeout(resolve, 250));
  }
}

async function expectEachOnce(works: HandIn[]): Promise<void> {
  const rows = await database.sql<{ pieceId: string; text: string; receipt: string; n: number }[]>`
    select piece_id, min(text) as text, min(receipt) as receipt, count(*)::int as n
    from version
    where piece_id = any(${works.map((w) => w.pieceId)}::uuid[])
    group by piece_id`;
  expect(rows).toHaveLength(works.length);
  for (const row of rows) {
    const work = works.find((w) => w.pieceId === row.pieceId)!;
    expect(row).toMatchObject({ n: 1, text: work.text, receipt: work.receipt!.code });
  }
  const [events] = await database.sql<
    { n: number }[]
  >`select count(*)::int as n from event where kind = 'handed in' and piece_id = any(${works.map((w) => w.pieceId)}::uuid[])`;
  expect(events!.n).toBe(works.length);
}

test("kill -9 during 200 hand-ins at once: after a restart and the same keys, every one is there once", async () => {
  const works = await newHandIns("Log");
  const first = works.map(send);
  await Promise.race([
    Promise.all(first.slice(0, 40)),
    new Promise((resolve) => setTimeout(resolve, 5000)),
  ]);
  await app.stop("SIGKILL");
  await Promise.all(first);
  const before = works.filter((w) => w.receipt);
  expect(before.length).toBeGreaterThan(0);
  expect(before.length).toBeLessThan(STUDENTS);
  app = await startApp(database.url, {}, app.port);
  // Those that were acknowledged ask again as well, as a phone that lost the answer does.
  await Promise.all(works.map(send));
  await untilAllAreIn(works);
  await expectEachOnce(works);
});

const cluster = (act: "stop" | "start") =>
  promisify(execFile)(process.execPath, ["scripts/testCluster.mjs", act]);

describe("PostgreSQL goes away under load and comes back", () => {
  // Whatever fails here, what is tested next has its database.
  afterAll(() => cluster("start"));

  test("requests fail clearly meanwhile, then work again without a restart of the application", async () => {
    const works = await newHandIns("Tide");
    await Promise.all(works.slice(0, 30).map(send));
    const during = works.slice(30, 120).map(send);
    await cluster("stop");
    await Promise.all(during);
    const health = await fetch(`${app.origin}/api/health`);
    expect(health.status).toBe(503);
    expect(await health.json()).toMatchObject({
      title: expect.stringContaining("database"),
      detail: expect.stringContaining("Nothing was changed"),
    });
    expect(await send(works[199]!)).toBe(503);
    expect(
      (await fetch(`${app.origin}/work`, { headers: { cookie: `almanac_session=${tokens[0]}` } }))
        .status,
    ).toBe(500);
    await cluster("start");
    await untilAllAreIn(works);
    expect(app.child.exitCode).toBeNull();
    expect((await fetch(`${app.origin}/api/health`)).status).toBe(200);
    await expectEachOnce(works);
  });
});
