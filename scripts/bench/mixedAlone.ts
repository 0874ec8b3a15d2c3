import { writeFile } from "node:fs/promises";
import { connect } from "../../src/server/db/connection";
import { mixedLines } from "./mixed";

/** The mixed load by itself, on an application that was started otherwise; its lines go into a file. */
async function main(): Promise<void> {
  const sql = connect(process.env.DATABASE_URL!, 4);
  const lines = await mixedLines(sql, process.env.ORIGIN!, {
    words: process.env.WORDS!,
    after: 300,
  });
  await writeFile(process.env.LINES!, lines.join("\n"));
  console.log(lines.join("\n"));
  await sql.end();
}

main().catch((error: Error) => {
  console.error(error);
  process.exitCode = 1;
});
