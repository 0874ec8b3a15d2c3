// `npm run --silent take-mail -- recipient < message`: what the school's mail server hands each message to that is for
// answers+…@ its domain. Ends with 67 (EX_NOUSER of sysexits.h, from memory) where it answers no letter.
import { uuidv7 } from "uuidv7";
import { connect } from "../src/server/db/connection";
import { MOST_BYTES, takeMessage } from "../src/server/letters/incoming";

const NO_USER = 67;

async function readStdin(): Promise<Buffer> {
  const chunks: Buffer[] = [];
  let size = 0;
  for await (const chunk of process.stdin as AsyncIterable<Buffer>) {
    size += chunk.length;
    if (size > MOST_BYTES) throw new Error("This message is too large for an answer.");
    chunks.push(chunk);
  }
  return Buffer.concat(chunks);
}

async function main(): Promise<void> {
  if (!process.env.DATABASE_URL)
    throw new Error("Usage: DATABASE_URL=… npm run take-mail -- recipient < message");
  const mime = await readStdin();
  const sql = connect(process.env.DATABASE_URL, 2);
  try {
    const recipient = process.argv[2] ?? null;
    const taken = await takeMessage(sql, { mime, recipient }, { now: new Date(), newId: uuidv7 });
    if (!taken) process.exitCode = NO_USER;
  } finally {
    await sql.end();
  }
}

main().catch((error: Error) => {
  console.error(error.message);
  process.exitCode = 1;
});
