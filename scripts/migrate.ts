import { connect } from "../src/server/db/connection";
import { migrate } from "../src/server/db/migrate";

async function main(): Promise<void> {
  const url = process.env.DATABASE_URL;
  if (!url)
    throw new Error(
      "DATABASE_URL is not set. It names the PostgreSQL database to bring up to date.",
    );
  const sql = connect(url, 2);
  try {
    const applied = await migrate(sql);
    console.log(applied.length ? `Applied ${applied.join(", ")}.` : "The database is up to date.");
  } finally {
    await sql.end();
  }
}

main().catch((error: Error) => {
  console.error(error.message);
  process.exitCode = 1;
});
