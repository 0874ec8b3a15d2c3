// `npm run new-password -- their@address`: for an office person (or a teacher alone) who forgot theirs. Whoever can run
// this can read the database anyway.
import { renewPassword } from "../src/server/auth/renewPassword";
import { connect } from "../src/server/db/connection";

async function main(): Promise<void> {
  const [email] = process.argv.slice(2);
  if (!process.env.DATABASE_URL || !email)
    throw new Error("Usage: DATABASE_URL=… npm run new-password -- their@address.example");
  const sql = connect(process.env.DATABASE_URL, 2);
  try {
    const { name, password } = await renewPassword(sql, email);
    console.log(
      `${name} signs in as ${email} with ${password} once, and then chooses their own. Where they were signed in, they no longer are.`,
    );
  } finally {
    await sql.end();
  }
}

main().catch((error: Error) => {
  console.error(error.message);
  process.exitCode = 1;
});
