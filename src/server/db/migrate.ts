import { createHash } from "node:crypto";
import { readdir, readFile } from "node:fs/promises";
import path from "node:path";
import type { Sql } from "./connection";

/** Any number, but always the same: two servers starting at once must ask for the same lock. */
const MIGRATION_LOCK = 7_262_001;

export const MIGRATIONS = path.join(process.cwd(), "src/server/db/migrations");
export const VIEWS = path.join(process.cwd(), "src/server/db/views");

/**
 * Brings the database to the newest level: numbered .sql files, forward only, each in a transaction
 * of its own together with the line that records it. A second server waits for the first. After them the
 * views and functions that are replaced whole, where their text changed or a migration went before.
 *
 * @returns the names of the files that were applied now
 */
export async function migrate(sql: Sql, folder = MIGRATIONS, views = VIEWS): Promise<string[]> {
  const files = (await readdir(folder)).filter((name) => /^\d{4}_.*\.sql$/.test(name)).sort();
  const applied: string[] = [];
  const connection = await sql.reserve();
  try {
    // A large table may take its time, and so may the other server that is waited for.
    await connection`set statement_timeout = 0`;
    await connection`set lock_timeout = 0`;
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
      await inTransaction(connection, `Migration ${name}`, async () => {
        await connection.unsafe(text);
        await connection`insert into migration (name) values (${name})`;
      });
      applied.push(name);
    }
    await replaceViews(connection, views, applied.length > 0);
    return applied;
  } finally {
    await connection`select pg_advisory_unlock(${MIGRATION_LOCK})`.catch(() => {});
    await connection`reset statement_timeout`.catch(() => {});
    await connection`reset lock_timeout`.catch(() => {});
    connection.release();
  }
}

type Connection = Awaited<ReturnType<Sql["reserve"]>>;

async function inTransaction(
  connection: Connection,
  what: string,
  work: () => Promise<unknown>,
): Promise<void> {
  await connection`begin`;
  try {
    await work();
    await connection`commit`;
  } catch (error) {
    await connection`rollback`;
    throw new Error(`${what} failed and changed nothing: ${(error as Error).message}`, {
      cause: error,
    });
  }
}

/** The files of `views`, each applied when its text is not what was applied last. */
async function replaceViews(connection: Connection, folder: string, all: boolean): Promise<void> {
  await connection`
    create table if not exists replaced_view (
      name       text primary key,
      sha256     text not null,
      applied_at timestamptz not null default now()
    )`;
  const known = new Map(
    (
      await connection<{ name: string; sha256: string }[]>`select name, sha256 from replaced_view`
    ).map((row) => [row.name, row.sha256] as const),
  );
  for (const name of (await readdir(folder)).filter((file) => file.endsWith(".sql")).sort()) {
    const text = await readFile(path.join(folder, name), "utf8");
    const sha256 = createHash("sha256").update(text).digest("hex");
    if (!all && known.get(name) === sha256) continue;
    await inTransaction(connection, `The view ${name}`, async () => {
      await connection.unsafe(text);
      await connection`
        insert into replaced_view (name, sha256)
        values (${name}, ${sha256})
        on conflict (name) do update
        set sha256 = excluded.sha256, applied_at = now()`;
    });
  }
}
