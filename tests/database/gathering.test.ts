import { afterAll, beforeAll, expect, test } from "@jest/globals";
import postgres from "postgres";
import type { Db, Sql } from "../../src/server/db/connection";
import { gathering } from "../../src/server/db/gathering";
import { testDatabase, type TestDatabase } from "../support/database";

/** Readings that go as one statement give the rows they give alone, whatever types they have. */
let database: TestDatabase;
let noting: Sql;
let sent: string[] = [];

beforeAll(async () => {
  database = await testDatabase();
  const { sql } = database;
  await sql`create type weather as enum ('rain', 'a "dry" day')`;
  await sql`
    create table everything (
      n int, some_id uuid, words text, yes boolean, at timestamptz, day date, amount numeric(12, 4), size bigint, real_one double precision,
      bytes bytea, held jsonb, plain json, several uuid[], names text[], sky weather, span interval)`;
  await sql`
    insert into everything values
      (1, gen_random_uuid(), E'two\\nlines, "quotes", \\\\ and {braces} ß 𝔸', true, '2026-03-29T00:59:59.123456Z', '2026-03-29', 10.0000, 9007199254740991, 0.1,
       '\\x00ff', '{"a":[1,null,"x"]}', '{"b" : "\\u00e9"}', array[gen_random_uuid()], array['a,b', null, '"'], 'a "dry" day', '1 day 02:00'),
      (2, null, null, null, null, null, null, null, null, null, null, null, null, null, null, null),
      (3, null, '', false, '0099-01-01T00:00:00Z', '0001-01-01', -0.5, 0, 'NaN', '', 'null', '[]', '{}', '{}', 'rain', '0')`;
  // What it takes for the number of a type of one's own to be known.
  noting = postgres(database.url, {
    max: 2,
    onnotice: () => {},
    transform: { column: { from: postgres.toCamel, to: postgres.fromCamel } },
    debug: (_c, query) => sent.push(query),
  }) as unknown as Sql;
});
afterAll(async () => {
  await noting?.end();
  await database?.drop();
});

test("a row is the same row, alone or with others", async () => {
  for (const db of [database.sql as Db, noting as Db]) {
    const alone = [...(await db`select * from everything order by n`)];
    const gathered = gathering(db);
    const [all, none, again] = await Promise.all([
      gathered`select * from everything order by n`,
      gathered`select n, words from everything where n = ${99}`,
      gathered`select * from everything order by n desc`,
    ]);
    expect(all).toEqual(alone);
    expect(none).toEqual([]);
    expect(again).toEqual([...alone].reverse());
  }
});

test("what is asked in one turn goes as one statement, what follows from it as another", async () => {
  const db = gathering(noting as Db);
  const ask = async () => {
    const [first, second] = await Promise.all([
      db<{ n: number }[]>`select n from everything where n >= ${2} order by n`,
      db<{ n: number }[]>`select max(n)::int as n from everything`,
    ]);
    return db<{ n: number }[]>`
      select n from everything where n = any(${[...first, ...second].map((r) => r.n)})`;
  };
  await ask();
  sent = [];
  expect(await ask()).toHaveLength(2);
  expect(sent).toHaveLength(2);
  // What columns a text has is known in every transaction, too.
  sent = [];
  await noting.begin(async (tx) => {
    const inside = gathering(tx);
    await Promise.all([inside`select n from everything`, inside`select max(n) from everything`]);
  });
  const before = sent.length;
  await noting.begin(async (tx) => {
    const inside = gathering(tx);
    await Promise.all([inside`select n from everything`, inside`select max(n) from everything`]);
  });
  expect(sent.length - before).toBeLessThan(before);
});

test("fragments, lists of fragments and names of columns are part of a reading", async () => {
  const db = gathering(noting as Db);
  const where = db`where n < ${3}`;
  const columns = ["n", "words"].map((name) => db`, ${db(name)} as ${db(`own_${name}`)}`);
  const [some, other] = await Promise.all([
    db`select 1 as one ${columns} from everything ${where} order by n`,
    // The same text but for the name of a column has other columns.
    db`select ${db("yes")} from everything order by n`,
  ]);
  expect(some.map((row) => Object.keys(row))).toEqual(
    Array.from({ length: 2 }, () => ["one", "ownN", "ownWords"]),
  );
  expect(other).toEqual([{ yes: true }, { yes: null }, { yes: false }]);
});

test("a hundred at once come back each to who asked", async () => {
  const db = gathering(noting as Db);
  const found = await Promise.all(
    Array.from({ length: 100 }, (_, n) => db<{ x: number }[]>`select ${n}::int as x`),
  );
  expect(found.map(([row]) => row!.x)).toEqual(Array.from({ length: 100 }, (_, n) => n));
});

test("an error reaches everybody who waited for it, and the next reading is answered", async () => {
  const db = gathering(noting as Db);
  const all = await Promise.allSettled([
    db`select n from everything`,
    db`select 1 / (n - n) from everything`,
  ]);
  expect(all.map((r) => r.status)).toEqual(["rejected", "rejected"]);
  await expect(db`select nothing_of_this_name from everything`.catch(() => "told")).resolves.toBe(
    "told",
  );
  expect(await db`select n from everything where n = 1`).toEqual([{ n: 1 }]);
});

test("what changes something goes by itself, and only when it is awaited", async () => {
  const db = gathering(noting as Db);
  void db`delete from everything`;
  const [, rows] = await Promise.all([
    db`with gone as (delete from everything where n = 3 returning n) select n from gone`,
    db`select n from everything where n < 3 order by n`,
  ]);
  expect(rows).toEqual([{ n: 1 }, { n: 2 }]);
  expect(await db`select count(*)::int as n from everything`).toEqual([{ n: 2 }]);
});
