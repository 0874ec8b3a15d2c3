import { afterAll, beforeAll, expect, test } from "@jest/globals";
import type { AddressInfo } from "node:net";
import { simpleParser } from "mailparser";
import { SMTPServer } from "smtp-server";
import { uuidv7 } from "uuidv7";
import { HANDLERS } from "../../src/server/background/handlers";
import { enqueue, runAll, runNext, type Handlers } from "../../src/server/jobs/jobs";
import { post } from "../../src/server/mail/postRoom";
import { readPlain } from "../../src/server/mail/plain";
import {
  answerOn,
  endAnswers,
  smallSchool,
  testDatabase,
  type SmallSchool,
  type TestDatabase,
} from "../support/database";

/** The way out of the post room by SMTP (to a mail server that is a library's own), and what becomes of work that fails. */
let database: TestDatabase;
let school: SmallSchool;
let server: SMTPServer;
const received: Buffer[] = [];
const NOW = new Date("2026-10-12T14:00:00Z");

beforeAll(async () => {
  database = await testDatabase();
  school = await smallSchool(database.sql);
  server = new SMTPServer({
    authOptional: true,
    disabledCommands: ["STARTTLS"],
    onData(stream, _session, done) {
      const parts: Buffer[] = [];
      stream.on("data", (part: Buffer) => parts.push(part));
      stream.on("end", () => {
        received.push(Buffer.concat(parts));
        done();
      });
    },
  });
  await new Promise<void>((resolve) => server.listen(0, "127.0.0.1", resolve));
  process.env.ALMANAC_SMTP = `smtp://127.0.0.1:${(server.server.address() as AddressInfo).port}`;
  process.env.ALMANAC_MAIL_FROM = "almanac@tern-island.example";
  answerOn(database);
});
afterAll(async () => {
  await new Promise<void>((resolve) => server.close(() => resolve()));
  await endAnswers(database);
});

const letter = () => ({
  personId: school.students[0]!.id,
  address: "aino@students.tern-island.example",
  name: "Aino Þór",
  subject: "Handed back: Letter — “from a place”",
  text: "Hello Aino,\n\n“Letter” was handed back.\nÅ, ð and 20 % of =3D stay as they are.\n",
});

test("a message goes to the school's mail server once, just as it lies in the post room", async () => {
  await database.sql.begin((tx) => post(tx, letter(), NOW, uuidv7));
  await runAll(database.sql, HANDLERS, NOW);
  await runAll(database.sql, HANDLERS, NOW);
  expect(received).toHaveLength(1);
  const mail = await simpleParser(received[0]!);
  expect(mail).toMatchObject({ subject: letter().subject, text: letter().text });
  expect(mail.from?.value[0]).toMatchObject({
    name: "Almanac",
    address: "almanac@tern-island.example",
  });
  expect(mail.to).toMatchObject({ value: [{ name: "Aino Þór", address: letter().address }] });
  const [row] = await database.sql<
    { mime: Buffer; sentAt: Date }[]
  >`select mime, sent_at from mail`;
  expect(row!.sentAt).toEqual(NOW);
  // What the page of the post room reads is what a MIME library reads.
  expect(readPlain(row!.mime).replace(/\r\n/g, "\n").trim()).toBe(mail.text!.trim());
});

test("work that fails is tried again later and later, then waits for a person; other work goes on", async () => {
  let tries = 0;
  const handlers: Handlers = {
    bad: () => ((tries += 1), Promise.reject(new Error("no such program"))),
    good: () => Promise.resolve(),
  };
  await database.sql.begin(async (tx) => {
    await enqueue(tx, { kind: "bad", key: "1", payload: {} }, NOW);
    await enqueue(tx, { kind: "bad", key: "1", payload: {} }, NOW);
    await enqueue(tx, { kind: "good", key: "1", payload: {} }, NOW);
  });
  expect(await runAll(database.sql, handlers, NOW)).toBe(2);
  expect(await runAll(database.sql, handlers, new Date(NOW.getTime() + 1000))).toBe(0);
  for (let hour = 1; hour < 30; hour += 1)
    await runAll(database.sql, handlers, new Date(NOW.getTime() + hour * 3_600_000));
  expect(tries).toBe(5);
  const [row] = await database.sql<
    { deadAt: Date | null; fault: string }[]
  >`select dead_at, fault from job`;
  expect(row).toMatchObject({ deadAt: expect.any(Date), fault: "no such program" });
});

test("a worker that died leaves its work to the next, after a while", async () => {
  await database.sql`delete from job`;
  await database.sql.begin((tx) => enqueue(tx, { kind: "slow", key: "1", payload: {} }, NOW));
  await new Promise<void>((begun) => {
    const never: Handlers = { slow: () => (begun(), new Promise(() => {})) };
    void runNext(database.sql, never, NOW);
  });
  const handlers: Handlers = { slow: () => Promise.resolve() };
  expect(await runNext(database.sql, handlers, new Date(NOW.getTime() + 60_000))).toBe(false);
  expect(await runNext(database.sql, handlers, new Date(NOW.getTime() + 36 * 60_000))).toBe(true);
});
