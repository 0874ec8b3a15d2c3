import { afterAll, beforeAll, describe, expect, test } from "@jest/globals";
import { randomBytes } from "node:crypto";
import { readFile } from "node:fs/promises";
import http from "node:http";
import net from "node:net";
import { once } from "node:events";
import { aPart } from "../../src/core/handouts/parts";
import { beginSession } from "../../src/server/auth/sessions";
import { storeBlob } from "../../src/server/blobs/blobs";
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

/** One slow reader, one dragged film, one large body: everybody else goes on as if they were not there. */
const PART = "00000000-0000-4000-8000-0000000000f1";
const SIZE = 12_000_000;
const film = randomBytes(SIZE);
let database: TestDatabase;
let app: App;
let school: SmallSchool;
let cookie: string;
let itemId: string;

beforeAll(async () => {
  database = await testDatabase();
  school = await smallSchool(database.sql, 2);
  const plan = planFor(school.sectionId, {
    title: "Film",
    instructions: doc("Send."),
    expects: "work",
    points: "10",
    opens: null,
    due: new Date(Date.now() + 86_400_000).toISOString().slice(0, 16),
    closes: null,
    promised: null,
    graceMinutes: 0,
    mayTakeBack: true,
  });
  plan.work.parts = [aPart(PART, "film")];
  const student = school.students[0]!;
  await asPerson(database.sql, school.owner).change(new Date(), (call) =>
    handOut(call, { plan, draftId: null, pastIsMeant: false }),
  );
  const [piece] = await database.sql<
    { id: string }[]
  >`select id from piece where student_id = ${student.id}`;
  itemId = crypto.randomUUID();
  await database.sql.begin(async (tx) => {
    const sha256 = await storeBlob(tx, film, "video/webm", new Date());
    await tx`
      insert into item (id, piece_id, part_id, kind, name, media_type, size, sha256, position, about, added_at)
      values (${itemId}, ${piece!.id}, ${PART}, 'film', 'a.webm', 'video/webm', ${SIZE}, ${sha256}, 1, '{}', now())`;
  });
  app = await startApp(database.url);
  cookie = `almanac_session=${await beginSession(database.sql, student.id, new Date())}`;
});
afterAll(async () => {
  await app?.stop();
  await database?.drop();
});

const address = () => `${app.origin}/api/items/${itemId}?as=shown`;
/** Asks, and takes the head of the answer without ever reading on. */
async function stalled(range: string): Promise<net.Socket> {
  const socket = net.connect(app.port, "127.0.0.1");
  await once(socket, "connect");
  socket.write(
    `GET /api/items/${itemId}?as=shown HTTP/1.1\r\nhost: 127.0.0.1:${app.port}\r\ncookie: ${cookie}\r\nrange: ${range}\r\n\r\n`,
  );
  await once(socket, "readable");
  return socket;
}
const ordinary = async () => {
  const [health, work] = await Promise.all([
    fetch(`${app.origin}/api/health`),
    fetch(`${app.origin}/work`, { headers: { cookie } }),
  ]);
  await work.text();
  return [health.status, work.status];
};
/** Connections of the application that hold a transaction or a statement open. */
const busy = async () => {
  const [row] = await database.sql<{ n: number }[]>`
    select count(*)::int as n
    from pg_stat_activity
    where datname = current_database() and pid <> pg_backend_pid() and state <> 'idle'`;
  return row!.n;
};
/** Whether there is a moment soon at which none does: the application's own short questions come and go. */
const isIdle = async () => {
  for (const end = Date.now() + 20_000; Date.now() < end;) {
    if ((await busy()) === 0) return true;
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
  return false;
};

describe("downloads hold nobody up", () => {
  test("fifty readers who never read on", async () => {
    const sockets = await Promise.all(Array.from({ length: 50 }, () => stalled("bytes=0-")));
    expect(await ordinary()).toEqual([200, 200]);
    expect(await isIdle()).toBe(true);
    for (const socket of sockets) socket.destroy();
    expect(await ordinary()).toEqual([200, 200]);
  });
  test("a film dragged to and fro fifty times, each request given up half-way", async () => {
    for (let n = 0; n < 50; n += 1) {
      const socket = await stalled(`bytes=${(n * 7919 * 31) % (SIZE - 1000)}-`);
      socket.destroy();
    }
    expect(await ordinary()).toEqual([200, 200]);
    expect(await isIdle()).toBe(true);
  });
  test("what is read on comes whole, in any range", async () => {
    const range = async (from: number, to: number) =>
      Buffer.from(
        await (
          await fetch(address(), { headers: { cookie, range: `bytes=${from}-${to}` } })
        ).arrayBuffer(),
      );
    for (const [from, to] of [
      [0, 0],
      [262_143, 262_145],
      [5_000_000, 6_000_000],
      [SIZE - 3, SIZE - 1],
    ] as const)
      expect((await range(from, to)).equals(film.subarray(from, to + 1))).toBe(true);
    const whole = await (await fetch(address(), { headers: { cookie } })).arrayBuffer();
    expect(Buffer.from(whole).equals(film)).toBe(true);
  });
});

describe("nothing is taken cut", () => {
  const teacher = async () =>
    `almanac_session=${await beginSession(database.sql, school.owner.id, new Date())}`;
  test("a file of more than ten million bytes arrives whole", async () => {
    const answer = await fetch(`${app.origin}/api/uploads`, {
      method: "POST",
      headers: {
        cookie: await teacher(),
        origin: app.origin,
        "content-type": "application/octet-stream",
        "x-file-name": "large.bin",
      },
      body: film,
    });
    expect(answer.status).toBe(200);
    expect(await answer.json()).toMatchObject({ size: SIZE });
  });
  test("a connection that ends in the middle changes nothing", async () => {
    const before = await database.sql`select id from upload`;
    const request = http.request(`${app.origin}/api/uploads`, {
      method: "POST",
      headers: {
        cookie: await teacher(),
        origin: app.origin,
        "x-file-name": "cut.bin",
        "content-length": "5000000",
      },
    });
    request.on("error", () => {});
    request.write(film.subarray(0, 1_000_000));
    await new Promise((resolve) => request.write(film.subarray(0, 1000), resolve));
    request.destroy();
    expect(await ordinary()).toEqual([200, 200]);
    expect(await database.sql`select id from upload`).toHaveLength(before.length);
  });
});

describe("the headers of every answer", () => {
  test.each([
    ["a page", "/sign-in"],
    ["a page that is not there", "/nothing-here"],
    ["a route", "/api/health"],
    ["a route that refuses", "/api/comments"],
    ["a route that is not there", "/api/nothing"],
    ["a feed that is none", "/api/feeds/x"],
    ["an upload of nobody", `/api/transfers/${crypto.randomUUID()}`],
    ["the protocol of uploads", "/api/transfers"],
    ["a file", "/api/items/x"],
    ["what stands in the open", "/offline.js"],
  ])("%s", async (_what, path) => {
    for (const method of ["GET", "OPTIONS"]) {
      const { headers } = await fetch(app.origin + path, { method, redirect: "manual" });
      expect(headers.get("x-content-type-options")).toBe("nosniff");
      expect(headers.get("content-security-policy")).toMatch(/default-src '(self|none)'/);
      expect(headers.get("x-frame-options")).toBe("DENY");
      expect(headers.get("access-control-allow-origin")).toBeNull();
    }
  });
  test("a file keeps its own, stricter policy, said once", async () => {
    const { headers } = await fetch(address(), { headers: { cookie, range: "bytes=0-9" } });
    expect(headers.get("content-security-policy")).toBe("default-src 'none'; sandbox");
    expect(headers.get("x-content-type-options")).toBe("nosniff");
  });
});

test("a server whose log nobody reads any more is not busy with that", async () => {
  const own = await testDatabase();
  const alone = await startApp(own.url, {}, undefined, "pipe");
  const page = () => fetch(`${alone.origin}/sign-in`).then(({ status }) => status);
  expect(await page()).toBe(200);
  alone.child.stderr!.destroy();
  // Without its database each page is an error, and each error a line that cannot be written.
  await own.drop();
  for (let n = 0; n < 5; n += 1) expect(await page()).toBeGreaterThanOrEqual(500);
  /** Hundredths of a second of processor time (proc(5), fields 14 and 15). */
  const used = async () => {
    const stat = await readFile(`/proc/${alone.child.pid}/stat`, "utf8");
    const fields = stat.split(") ")[1]!.split(" ");
    return Number(fields[11]) + Number(fields[12]);
  };
  // It comes to rest: some second comes in which it does next to nothing.
  let busiest = 100;
  for (let n = 0; n < 40 && busiest > 20; n += 1) {
    const before = await used();
    await new Promise((resolve) => setTimeout(resolve, 1000));
    busiest = (await used()) - before;
  }
  // Ended first: a busy one would outlive the test, and answers no signal but this.
  await alone.stop("SIGKILL");
  expect(busiest).toBeLessThanOrEqual(20);
});
