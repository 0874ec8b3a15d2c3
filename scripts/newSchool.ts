// `npm run new-school -- "School name" Time/Zone "Office person" e-mail`: the first rows of a new database.
import { beginSchool } from "../src/server/auth/beginSchool";
import { connect } from "../src/server/db/connection";
import { migrate } from "../src/server/db/migrate";

async function main(): Promise<void> {
  const [school, zone, name, email] = process.argv.slice(2);
  if (!process.env.DATABASE_URL || !school || !zone || !name || !email)
    throw new Error(
      'Usage: DATABASE_URL=… npm run new-school -- "School name" America/Halifax "Name of the office person" their@address.example',
    );
  const sql = connect(process.env.DATABASE_URL, 2);
  try {
    await migrate(sql);
    const { password } = await beginSchool(sql, { school, zone, name, email });
    console.log(
      `${school} is made. ${name} signs in as ${email} with ${password}, and brings in the roster and the calendar on the office’s pages.`,
    );
  } finally {
    await sql.end();
  }
}

main().catch((error: Error) => {
  console.error(error.message);
  process.exitCode = 1;
});
