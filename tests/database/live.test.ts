import { afterAll, afterEach, beforeAll, describe, expect, test } from "@jest/globals";
import { contract } from "../../src/core/api/contract";
import type { Endpoint } from "../../src/core/api/endpoint";
import { beginSession } from "../../src/server/auth/sessions";
import type { Person } from "../../src/server/call";
import { connect } from "../../src/server/db/connection";
import { makeHub, type Hub } from "../../src/server/live/hub";
import { sendMessage } from "../../src/server/pieces/answers";
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
import { handOutSimply } from "../support/handOut";
import { ask } from "../support/routes";

/** What moves in a section is told to the open pages of its teachers, and to nobody else's. */
let database: TestDatabase;
let school: SmallSchool;
let hub: Hub;
let pieceIds: string[];
const now = new Date("2026-11-02T15:00:00Z");
// The stream asks who it is by the real clock.
const tokenOf = (who: Person) => database.sql.begin((tx) => beginSession(tx, who.id, new Date()));

/** Calls back once for each time something was told. */
function told(sectionId: string) {
  const calls: (string | null)[] = [];
  let wake = () => {};
  const end = hub.follow([sectionId], (id) => {
    calls.push(id);
    wake();
  });
  const next = async () => {
    while (calls.length === 0) await new Promise<void>((resolve) => (wake = resolve));
    return calls.splice(0);
  };
  return { next, end };
}

beforeAll(async () => {
  database = await testDatabase();
  answerOn(database);
  school = await smallSchool(database.sql, 2);
  const { handOuts } = await asPerson(database.sql, school.owner).change(now, (call) =>
    handOutSimply(call, school.sectionId, { title: "Log", instructions: doc("Write.") }),
  );
  const rows = await database.sql<{ id: string; studentId: string }[]>`
    select id, student_id from piece where hand_out_id = ${handOuts[0]!.id}`;
  pieceIds = school.students.map((s) => rows.find((r) => r.studentId === s.id)!.id);
  hub = makeHub(() => connect(database.url, 1));
});
afterEach(() => hub.end());
afterAll(() => endAnswers(database));

const student = (n: number) => asPerson(database.sql, school.students[n]!);
const say = (n: number, body: string) =>
  student(n).change(now, (call) => sendMessage(call, pieceIds[n]!, { body, markId: null }));

describe("what moved", () => {
  test("a hand-in and a word are told with their section, once for each act", async () => {
    const { next, end } = told(school.sectionId);
    // The first word shows that it listens: what came before is not told.
    await Promise.all([next(), sayUntilHeard()]);
    await student(0).change(now, (call) =>
      handIn(call, pieceIds[0]!, { doc: doc("Done."), answers: {} }, 0),
    );
    expect(await next()).toContain(school.sectionId);
    end();
  });

  test("another section's pages hear nothing, and all are told to ask again when the connection was lost", async () => {
    const mine = told(school.sectionId);
    const other = told(crypto.randomUUID());
    await Promise.all([mine.next(), sayUntilHeard()]);
    await database.sql`
      select pg_terminate_backend(pid) from pg_stat_activity
      where datname = current_database() and query ilike 'listen%'`;
    expect(await other.next()).toEqual([null]);
    hub.renew();
    expect(await other.next()).toContain(null);
    mine.end();
    other.end();
  });

  test("as a stream it is a teacher's alone, begins at once and ends by itself", async () => {
    const stream = contract.live as Endpoint;
    const begun = await ask(stream, {
      token: await tokenOf(school.owner),
      query: { seconds: "0.2" },
    });
    expect(begun.headers.get("content-type")).toContain("text/event-stream");
    expect(await begun.text()).toContain("event: open\ndata: {}\n\n");
    for (const who of [school.students[0]!, school.guardian, school.office])
      expect((await ask(stream, { token: await tokenOf(who) })).status).toBe(404);
    expect((await ask(stream, { token: null })).status).toBe(401);
  });
});

/** Says something again and again until whoever listens heard it: when listening begins is not known. */
async function sayUntilHeard(): Promise<void> {
  let heard = false;
  const end = hub.follow([school.sectionId], () => {
    heard = true;
  });
  for (let n = 0; !heard; n += 1) {
    await say(1, `word ${n}`);
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
  end();
}
