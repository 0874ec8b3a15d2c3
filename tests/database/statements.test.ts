import { afterAll, beforeAll, expect, test } from "@jest/globals";
import postgres from "postgres";
import { uuidv7 } from "uuidv7";
import type { Call, Person, ReadCall } from "../../src/server/call";
import type { Db, Sql } from "../../src/server/db/connection";
import { gathering } from "../../src/server/db/gathering";
import { dropLooseFiles } from "../../src/server/items/looseFiles";
import { runNext } from "../../src/server/jobs/jobs";
import { acrossCriterion } from "../../src/server/marking/across";
import { deskPiece } from "../../src/server/marking/desk/deskPiece";
import { readSettings } from "../../src/server/marking/desk/setting";
import { readWays } from "../../src/server/marking/desk/ways";
import { readBank } from "../../src/server/comments/bank";
import { readStamp } from "../../src/server/marking/desk/here";
import { deskQueue } from "../../src/server/overview/queue";
import { mastheadView, ribbonView } from "../../src/server/overview/school";
import { ledgerView } from "../../src/server/ledger/view";
import { sectionView } from "../../src/server/overview/sections";
import { handOutSheet } from "../../src/server/overview/sheet";
import { todayView } from "../../src/server/overview/today";
import { workView } from "../../src/server/overview/work";
import { pieceView } from "../../src/server/pieces/pieceView";
import { addMark, changeMark } from "../../src/server/marking/marks";
import { countTry } from "../../src/server/auth/tries";
import { readUsed } from "../../src/server/transfers/transfers";
import { testDatabase, type TestDatabase } from "../support/database";

/**
 * Every statement behind the pages and the polls has a way to its rows that does not go through a whole table. A
 * small database reads small tables whole, and rightly; so PostgreSQL is told not to where there is any other way,
 * and where it still does there is none.
 */
type Statement = { query: string; parameters: unknown[] };
let database: TestDatabase;
let noting: Sql;
const noted: Statement[] = [];
const people: Record<string, Person> = {};
const ids: Record<string, string> = {};

/** Tables that grow with every piece, mark and day. */
const GROWING = [
  ...["piece", "version", "working_copy", "mark", "feedback", "hand_back", "score", "message"],
  ...["event", "item", "version_item", "answer", "ruling", "checkpoint", "clip", "at_desk"],
  ...["session", "sign_in_failure", "transfer", "job", "compared", "round", "hand_back_withdrawn"],
];

beforeAll(async () => {
  database = await testDatabase("almanac_demo");
  const { sql } = database;
  noting = postgres(database.url, {
    max: 1,
    onnotice: () => {},
    transform: { column: { from: postgres.toCamel, to: postgres.fromCamel } },
    types: {
      bigint: { to: 20, from: [20], serialize: (n: number) => String(n), parse: Number },
    },
    debug: (_c, query, parameters) => noted.push({ query, parameters: parameters as unknown[] }),
  }) as unknown as Sql;
  const all = await sql<Person[]>`
    select person.id, kind, person.name, called, school_id, time_zone as zone
    from person join school on school.id = school_id`;
  people.teacher = all.find((p) => p.name === "Odalys Brandt")!;
  const [piece] = await sql<
    { id: string; handOutId: string; sectionId: string; studentId: string }[]
  >`
    select piece.id, hand_out_id, section_id, piece.student_id
    from piece
    join hand_out on hand_out.id = piece.hand_out_id
    join section_teacher using (section_id)
    join assignment on assignment.id = hand_out.assignment_id
    where person_id = ${people.teacher.id} and assignment.rubric_id is not null
      and exists (select from version where piece_id = piece.id)
    order by piece.round desc, piece.id
    limit 1`;
  Object.assign(ids, piece);
  people.student = all.find((p) => p.id === piece!.studentId)!;
});
afterAll(async () => {
  await noting?.end();
  await database?.drop();
});

const NOW = new Date();
const teacher = (): ReadCall => ({ db: gathering(noting), who: people.teacher!, now: NOW });
const student = (): ReadCall => ({ db: gathering(noting), who: people.student!, now: NOW });
/** A page with the frame around it, as the application asks for both. */
const ofCall = (call: ReadCall, page: (call: ReadCall) => Promise<unknown>) =>
  Promise.all([mastheadView(call), page(call)]);
const desk = (call: ReadCall) =>
  ofCall(call, async () => {
    await Promise.all([
      readSettings(call),
      deskQueue(call, { handOutId: ids.handOutId!, pile: "all" }),
    ]);
    await Promise.all([deskPiece(call, ids.id!), readBank(call), readWays(call, ids.handOutId!)]);
  });
const PAGES: Record<string, () => Promise<unknown>> = {
  "the Desk": () => desk(teacher()),
  "the stamp that every open Desk reads": () =>
    readStamp(noting as Db, ids.id!, people.teacher!.id),
  "the queue": () => deskQueue(teacher(), { handOutId: null, pile: "waiting" }),
  "by criterion": () => acrossCriterion(teacher(), ids.handOutId!, null),
  Today: () => ofCall(teacher(), (call) => Promise.all([todayView(call), ribbonView(call)])),
  "a hand-out's sheet": () => ofCall(teacher(), (call) => handOutSheet(call, ids.handOutId!)),
  "the Ledger": () => ofCall(teacher(), (call) => ledgerView(call, ids.sectionId!)),
  "a section": () => ofCall(teacher(), (call) => sectionView(call, ids.sectionId!)),
  "My work": () => ofCall(student(), workView),
  "a student's piece": () => ofCall(student(), (call) => pieceView(call, ids.id!)),
  "a student's room": () => readUsed(noting as Db, people.student!, ids.id!),
  "the next job": () => runNext(noting, {}, NOW),
  "a try to sign in": () =>
    countTry(noting, { account: "nobody", address: "192.0.2.1", device: null }, NOW),
  "what nothing holds": () => dropLooseFiles(noting, NOW),
};
/** Sweeps once an hour may go through a table of files; nobody waits for them. */
const MAY_SWEEP = new Set(["what nothing holds"]);

type Plan = { "Node Type": string; "Relation Name"?: string; Plans?: Plan[] };
const planOf = (row: Record<string, { Plan: Plan }[]>) => Object.values(row)[0]![0]!.Plan;
const wholeTables = (plan: Plan): string[] => [
  ...(plan["Node Type"] === "Seq Scan" && GROWING.includes(plan["Relation Name"] ?? "")
    ? [plan["Relation Name"]!]
    : []),
  ...(plan.Plans ?? []).flatMap(wholeTables),
];

test.each(Object.keys(PAGES).filter((name) => !MAY_SWEEP.has(name)))(
  "%s finds its rows by an index",
  async (name) => {
    noted.length = 0;
    await PAGES[name]!();
    const statements = noted.filter(({ query }) =>
      /^\s*(select|with|update|delete|insert)/i.test(query),
    );
    expect(statements.length).toBeGreaterThan(0);
    for (const { query, parameters } of statements) {
      const [row] = await database.sql.begin(async (tx) => {
        await tx`set local enable_seqscan = off`;
        return tx.unsafe<Record<string, { Plan: Plan }[]>[]>(
          `explain (format json) ${query}`,
          parameters as never[],
        );
      });
      expect({ query, whole: wholeTables(planOf(row!)) }).toEqual({ query, whole: [] });
    }
  },
);

/** What it takes to find out who asks, whether they may, and that nobody else changes the piece meanwhile, is the frame's. */
test("saving a mark takes three statements besides the frame's, changing it as many", async () => {
  const { versionId } = await deskPiece(teacher(), ids.id!);
  const id = uuidv7();
  const changing = <T>(work: (call: Call) => Promise<T>) =>
    noting.begin(async (tx) => {
      noted.length = 0;
      const made = await work({ tx, db: tx, who: people.teacher!, now: NOW, newId: uuidv7 });
      const sent = noted.filter(({ query }) => !/^(begin|commit)/i.test(query.trim()));
      return { made, besides: sent.length - 2 };
    }) as Promise<{ made: T; besides: number }>;
  const mark = {
    id,
    kind: "note",
    nature: "remark",
    start: 0,
    end: 4,
    body: "So.",
    replacement: "",
  };
  const add = (call: Call, markId = id) =>
    addMark(call, ids.id!, {
      ...mark,
      id: markId,
      versionId: versionId!,
      commentId: null,
    } as Parameters<typeof addMark>[2]);
  // At the first time the columns of each reading are asked for too.
  await changing((call) => add(call));
  const { made, besides } = await changing((call) => add(call, uuidv7()));
  expect(besides).toBeLessThanOrEqual(3);
  const change = (call: Call, revision: number) =>
    changeMark(
      call,
      { pieceId: ids.id!, markId: made.id },
      { body: "So what?" } as Parameters<typeof changeMark>[2],
      revision,
    );
  await changing((call) => change(call, made.revision));
  expect((await changing((call) => change(call, made.revision + 1))).besides).toBeLessThanOrEqual(
    3,
  );
});

/** No page asks the database for one thing after the other. One statement more finds out who is asking. */
test.each([
  ["the Desk", 11],
  ["by criterion", 7],
  ["Today", 7],
  ["a hand-out's sheet", 7],
  ["the Ledger", 7],
  ["a section", 7],
  ["My work", 7],
  ["a student's piece", 7],
])("%s takes few statements, however many pieces there are", async (name, most) => {
  noted.length = 0;
  await PAGES[name]!();
  expect(noted.length).toBeLessThanOrEqual(most);
});
