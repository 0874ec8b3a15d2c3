import { connect, type Sql } from "../src/server/db/connection";
import { migrate } from "../src/server/db/migrate";
import { now } from "../src/server/settings";
import { loadSchool } from "./school";

/** Migrates the database and, when it is empty, puts the demo school in: all of it or nothing. */
async function main(): Promise<void> {
  const sql = connect(process.env.DATABASE_URL!, 2);
  try {
    await migrate(sql);
    await loadIfEmpty(sql);
  } finally {
    await sql.end();
  }
}

/** A loader that a killed start left behind may still be at it: whoever comes second waits, and finds it done. */
const LOADING_LOCK = 7_262_002;

async function loadIfEmpty(sql: Sql): Promise<void> {
  const started = Date.now();
  const counts = await sql.begin(async (tx) => {
    await tx`select pg_advisory_xact_lock(${LOADING_LOCK})`;
    const [{ empty } = { empty: true }] = await tx<
      { empty: boolean }[]
    >`select not exists (select from school) as empty`;
    return empty ? loadSchool(tx, now()) : null;
  });
  if (!counts) return;
  await sql`analyze`;
  console.log(
    `· The demo school is in: ${counts.people} people, ${counts.pieces} pieces, ${counts.versions} hand-ins (${((Date.now() - started) / 1000).toFixed(1)} s)`,
  );
}

main().catch((error: Error) => {
  console.error(error);
  process.exitCode = 1;
});
