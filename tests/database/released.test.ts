import { afterAll, beforeAll, describe, expect, test } from "@jest/globals";
import { readFile } from "node:fs/promises";
import path from "node:path";
import { gunzipSync } from "node:zlib";
import { MARK_TABLE } from "../../src/core/marks/schema";
import type { Person } from "../../src/server/call";
import { connect, type Sql } from "../../src/server/db/connection";
import { migrate } from "../../src/server/db/migrate";
import { deskPiece } from "../../src/server/marking/desk/deskPiece";
import { pieceView } from "../../src/server/pieces/pieceView";
import { asPerson, testDatabase, type TestDatabase } from "../support/database";

/**
 * Databases as released versions left them (`pg_dump --inserts` of a small made-up school): this version's start
 * brings them up to date and loses nothing.
 */
const RELEASED = path.join(__dirname, "released");
/** After all that is in them. */
const NOW = new Date("2027-01-10T12:00:00Z");

/** What makes a database what it is: columns and what the views, functions and triggers say. */
const shapeOf = (sql: Sql) => sql<{ what: string; says: string }[]>`
  select 'column ' || table_name || '.' || column_name as what, data_type || ' ' || is_nullable || ' ' || coalesce(column_default, '') as says
  from information_schema.columns where table_schema = 'public'
  union all select 'view ' || viewname, definition from pg_views where schemaname = 'public'
  union all select 'function ' || proname, prosrc from pg_proc where pronamespace = 'public'::regnamespace
  union all select 'trigger ' || tgrelid::regclass || '.' || tgname, pg_get_triggerdef(oid) from pg_trigger where not tgisinternal
  union all select 'index ' || indexname, indexdef from pg_indexes where schemaname = 'public'
  union all select 'check ' || conrelid::regclass || '.' || conname, pg_get_constraintdef(oid) from pg_constraint where connamespace = 'public'::regnamespace
  order by what`;

/** How many rows each table has. */
async function countsOf(sql: Sql): Promise<Record<string, number>> {
  const tables = await sql<{ name: string }[]>`
    select tablename as name from pg_tables
    where schemaname = 'public' and tablename not in ('migration', 'replaced_view')`;
  const counted = tables.map(async ({ name }) => {
    const [row] = await sql<{ n: number }[]>`select count(*)::int as n from ${sql(name)}`;
    return [name, row!.n] as const;
  });
  return Object.fromEntries(await Promise.all(counted));
}

async function load(database: TestDatabase, name: string): Promise<void> {
  const text = gunzipSync(await readFile(path.join(RELEASED, name))).toString("utf8");
  // A connection of its own: the dump sets its search path.
  const once = connect(database.url, 1);
  await once.unsafe(`drop schema public cascade; create schema public; ${text}`);
  await once.end();
}

describe.each([
  "0.5.0-rounds.sql.gz",
  "0.5.0-marks.sql.gz",
  "0.6.0-marks.sql.gz",
  "0.7.0-marks.sql.gz",
  "0.8.0-marks.sql.gz",
  "0.9.0-marks.sql.gz",
  "0.10.0-marks.sql.gz",
  "0.11.0-marks.sql.gz",
  "0.12.0-marks.sql.gz",
  "0.13.0-marks.sql.gz",
  "0.14.0-marks.sql.gz",
])("%s", (name) => {
  let database: TestDatabase;
  let fresh: TestDatabase;
  let before: Record<string, number>;
  let marksBefore: Record<string, unknown>[];
  const readMarks = () => database.sql<Record<string, unknown>[]>`select * from mark order by id`;

  beforeAll(async () => {
    [database, fresh] = [await testDatabase(), await testDatabase()];
    await load(database, name);
    before = await countsOf(database.sql);
    marksBefore = await readMarks();
    await migrate(database.sql);
  });
  afterAll(async () => {
    await database?.drop();
    await fresh?.drop();
  });

  test("has the shape of a new database, and all it had; a second start changes nothing", async () => {
    expect(await shapeOf(database.sql)).toEqual(await shapeOf(fresh.sql));
    expect(before.piece).toBeGreaterThan(3);
    expect(await countsOf(database.sql)).toMatchObject(before);
    expect(await readMarks()).toMatchObject(marksBefore);
    expect(await migrate(database.sql)).toEqual([]);
  });

  test("every piece opens on the Desk with all of its marks, and for its student", async () => {
    const { sql } = database;
    const people = await sql<Person[]>`
      select person.id, kind, person.name, called, school_id, time_zone as zone
      from person join school on school.id = school_id`;
    const owner = people.find((p) => p.name === "Odalys Brandt")!;
    const pieces = await sql<{ id: string; studentId: string }[]>`
      select piece_standing.id, student_id
      from piece_standing
      join section_teacher on section_teacher.section_id = piece_standing.section_id and person_id = ${owner.id}`;
    expect(pieces.length).toBeGreaterThan(3);
    for (const { id, studentId } of pieces) {
      const shown = await asPerson(sql, owner).read(NOW, (call) => deskPiece(call, id));
      const stored = marksBefore.filter((m) => m.versionId === shown.versionId && !m.deletedAt);
      expect(new Set(shown.marks.map((m) => m.id))).toEqual(new Set(stored.map((m) => m.id)));
      for (const mark of shown.marks)
        for (const [field] of MARK_TABLE) expect(mark).toHaveProperty(field);
      const student = people.find((p) => p.id === studentId)!;
      const own = await asPerson(sql, student).read(NOW, (call) => pieceView(call, id));
      expect(own.id).toBe(id);
    }
  });
});
