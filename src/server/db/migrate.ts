import { readdir, readFile } from "node:fs/promises";
import path from "node:path";
import type { Sql } from "./connection";

/** Any number, but always the same: two servers starting at once must ask for the same lock. */
const MIGRATION_LOCK = 7_262_001;

export const MIGRATIONS = path.join(process.cwd(), "src/server/db/migrations");

/**
 * Brings the database to the newest level: numbered .sql files, forward only, each in a transaction
 * of its own together with the line that records it. A second server waits for the first.
 *
 * @returns the names of the files that were applied now
 */
export async function migrate(sql: Sql, folder = MIGRATIONS): Promise<string[]> {
  const files = (await readdir(folder)).filter((name) => /^\d{4}_.*\.sql$/.test(name)).sort();
  const applied: string[] = [];
  const connection = await sql.reserve();
  try {
    await connection`select pg_advisory_lock(${MIGRATION_LOCK})`;
    await connection`
      create table if not exists migration (
        name       text primary key,
        applied_at timestamptz not null default now()
      )`;
    const known = new Set(
      (await connection<{ name: string }[]>`select name from migration`).map((row) => row.name),
    );
    const strangers = [...known].filter((name) => !files.includes(name));
    if (strangers.length > 0)
      throw new Error(
        `This database was migrated by a newer Almanac (${strangers.join(", ")}). Start that version.`,
      );
    for (const name of files.filter((file) => !known.has(file))) {
      const text = await readFile(path.join(folder, name), "utf8");
      await connection`begin`;
      try {
        await connection.unsafe(text);
        await connection`insert into migration (name) values (${name})`;
        await connection`commit`;
      } catch (error) {
        await connection`rollback`;
        throw new Error(
          `Migration ${name} failed and changed nothing: ${(error as Error).message}`,
          { cause: error },
        );
      }
      applied.push(name);
    }
    return applied;
  } finally {
    await connection`select pg_advisory_unlock(${MIGRATION_LOCK})`.catch(() => {});
    connection.release();
  }
}
