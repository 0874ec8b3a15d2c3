import { HANDLERS } from "../../src/server/background/handlers";
import { connect } from "../../src/server/db/connection";
import { runAll } from "../../src/server/jobs/jobs";

/** A process of its own that does what waits, as the application does in the background; a test may kill it. */
async function main(): Promise<void> {
  const sql = connect(process.env.DATABASE_URL!, 2);
  await runAll(sql, HANDLERS, new Date(process.argv[2]!));
  await sql.end();
}

void main();
