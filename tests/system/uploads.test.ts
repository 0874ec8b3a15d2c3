import { afterAll, beforeAll, expect, test } from "@jest/globals";
import { readFileSync } from "node:fs";
import { aPart } from "../../src/core/handouts/parts";
import { beginSession } from "../../src/server/auth/sessions";
import { handOut } from "../../src/server/handouts/handOut";
import { startApp, type App } from "../support/app";
import {
  asPerson,
  doc,
  smallSchool,
  testDatabase,
  type SmallSchool,
  type TestDatabase,
} from "../support/database";
import { planFor } from "../support/handOut";
import { arrived, begin, bytesOf, digestOf, put, sendOn, type Sender } from "../support/tus";

/** Large files over bad connections: all of it arrives, and the server holds none of it. */
const PART = "00000000-0000-4000-8000-0000000000f1";
let database: TestDatabase;
let app: App;
let school: SmallSchool;
let senders: Sender[];
let pieces: string[];

beforeAll(async () => {
  database = await testDatabase();
  school = await smallSchool(database.sql, 20);
  const due = new Date(Date.now() + 86_400_000).toISOString().slice(0, 16);
  const plan = planFor(school.sectionId, {
    title: "Data",
    instructions: doc("Send."),
    expects: "work",
    points: "10",
    opens: null,
    due,
    closes: null,
    promised: null,
    graceMinutes: 0,
    mayTakeBack: true,
  });
  plan.work.parts = [aPart(PART, "files")];
  const { handOuts } = await asPerson(database.sql, school.owner).change(new Date(), (call) =>
    handOut(call, { plan, draftId: null, pastIsMeant: false }),
  );
  const rows = await database.sql<
    { id: string; studentId: string }[]
  >`select id, student_id from piece where hand_out_id = ${handOuts[0]!.id}`;
  pieces = school.students.map((s) => rows.find((r) => r.studentId === s.id)!.id);
  app = await startApp(database.url);
  senders = await Promise.all(
    school.students.map(async (s) => ({
      origin: app.origin,
      token: await beginSession(database.sql, s.id, new Date()),
    })),
  );
});
afterAll(async () => {
  await app?.stop();
  await database?.drop();
});

/** How much has arrived, as soon as it is so much; after 20 s, how much it is. */
async function has(sender: Sender, id: string, least: number): Promise<number> {
  for (let looks = 0; ; looks += 1) {
    const now = await arrived(sender, id);
    if (now >= least || looks === 100) return now;
    await new Promise((resolve) => setTimeout(resolve, 200));
  }
}

test("100 MB cut ten times at odd bytes, once by killing the server, arrives with the same SHA-256", async () => {
  const size = 100_000_000;
  const bytesAt = bytesOf("cut");
  const [sender, pieceId] = [senders[0]!, pieces[0]!];
  const id = await begin(sender, pieceId, PART, "large.dat", size);
  let before = 0;
  let grew = 0;
  for (let cut = 0; cut < 10; cut += 1) {
    if (cut === 5) {
      let sending = Promise.resolve(true);
      await new Promise<void>(
        (begun) => (sending = sendOn(sender, id, size, bytesAt, undefined, begun)),
      );
      await new Promise((resolve) => setTimeout(resolve, 250));
      await app.stop("SIGKILL");
      expect(await sending).toBe(false);
      app = await startApp(database.url, {}, app.port);
    } else expect(await sendOn(sender, id, size, bytesAt, 7_000_001 + cut * 131_071)).toBe(false);
    // What came before the cut is there, as soon as the server has noticed it. A kill may come before anything new
    // arrives, and what a busy server had not read yet is lost with its connection.
    const now = await has(sender, id, cut === 5 ? before : before + 1);
    expect(now).toBeGreaterThanOrEqual(before);
    if (now > before) grew += 1;
    before = now;
  }
  expect(grew).toBeGreaterThanOrEqual(5);
  // A file that is not whole is no part of the piece.
  expect((await put(sender, pieceId, PART, id)).status).toBe(409);
  expect(await sendOn(sender, id, size, bytesAt)).toBe(true);
  const made = await put(sender, pieceId, PART, id);
  expect(made.status).toBe(200);
  expect(JSON.parse(made.body)).toMatchObject({
    size,
    sha256: digestOf(size, bytesAt),
    kind: "other",
  });
  // Another student knows nothing of it.
  await expect(arrived(senders[1]!, id)).rejects.toThrow("404");
});

const residentMB = () =>
  Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${app.child.pid}/status`, "utf8"))![1]) / 1000;

test("while 20 files of 50 MB arrive at once the server stays under 400 MB above its idle size", async () => {
  const size = 50_000_000;
  await fetch(`${app.origin}/api/health`);
  const idle = residentMB();
  let most = idle;
  const watch = setInterval(() => (most = Math.max(most, residentMB())), 100);
  // Whatever becomes of them, nothing looks at the server after it was stopped.
  const done = await Promise.all(
    senders.map(async (sender, n) => {
      const bytesAt = bytesOf(`many ${n}`);
      const id = await begin(sender, pieces[n]!, PART, "fifty.dat", size);
      for (let tries = 0; tries < 5 && !(await sendOn(sender, id, size, bytesAt)); tries += 1);
      const made = await put(sender, pieces[n]!, PART, id);
      return (
        made.status === 200 &&
        (JSON.parse(made.body) as { sha256: string }).sha256 === digestOf(size, bytesAt)
      );
    }),
  ).finally(() => clearInterval(watch));
  expect(done).toEqual(senders.map(() => true));
  console.log(`memory: ${idle.toFixed(0)} MB idle, ${most.toFixed(0)} MB at most`);
  expect(most - idle).toBeLessThan(400);
  // A gigabyte through a disk that others use too.
}, 300_000);
