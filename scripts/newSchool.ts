// `npm run new-school -- "School name" Time/Zone "Name" e-mail [teacher]`: the first rows of a new database. With
// "teacher" the person is a teacher alone, whose own school it is.
import { beginSchool } from "../src/server/auth/beginSchool";
import { connect } from "../src/server/db/connection";
import { migrate } from "../src/server/db/migrate";

const isRole = (word: string | undefined) => word === undefined || word === "teacher";

async function main(): Promise<void> {
  const [school, zone, name, email, as] = process.argv.slice(2);
  if (!process.env.DATABASE_URL || !school || !zone || !name || !email || !isRole(as))
    throw new Error(
      'Usage: DATABASE_URL=… npm run new-school -- "School name" America/Halifax "Name of the office person" their@address.example [teacher]',
    );
  const sql = connect(process.env.DATABASE_URL, 2);
  try {
    await migrate(sql);
    const alone = as === "teacher";
    const given = { school, zone, name, email, alone };
    const { password } = await beginSchool(sql, given, new Date());
    console.log(
      `${school} is made. ${name} signs in as ${email} with ${password}, and ${
        alone
          ? "makes a class on the first page, from a list of names."
          : "brings in the roster and the calendar on the office’s pages."
      }`,
    );
  } finally {
    await sql.end();
  }
}

main().catch((error: Error) => {
  console.error(error.message);
  process.exitCode = 1;
});
