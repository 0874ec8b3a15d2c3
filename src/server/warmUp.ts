import { uuidv7 } from "uuidv7";
import { requireOnPiece } from "./access/standing";
import type { Person } from "./call";
import { CHANGES_AT_ONCE, type Sql, type Tx } from "./db/connection";
import { readPiece, readVersions, readWorkingCopy } from "./life/queries";
import { log } from "./log";
import { whoIs } from "./auth/sessions";

/**
 * Asks on every connection for changes, once, what nearly every change asks first. A connection learns each
 * statement when it first sends it, and what PostgreSQL has to load for the views takes longer than hundreds of them
 * later; in the morning the first to save would wait for one another.
 */
export async function warmUp(sql: Sql): Promise<void> {
  const nobody: Person = {
    ...{ id: uuidv7(), kind: "student", name: "", called: "", schoolId: uuidv7(), zone: "UTC" },
  };
  const ask = async (tx: Tx) => {
    const call = { db: tx, who: nobody, now: new Date() };
    await whoIs(tx, "nobody", call.now);
    const pieceId = uuidv7();
    // There is no such piece, and that is the answer.
    await requireOnPiece(call, pieceId, "piece.write").catch(() => null);
    await readPiece(tx, pieceId).catch(() => null);
    await readVersions(tx, pieceId);
    await readWorkingCopy(tx, pieceId);
  };
  const all = Array.from({ length: CHANGES_AT_ONCE }, () => sql.begin(ask));
  const done = await Promise.allSettled(all);
  const failed = done.filter((one) => one.status === "rejected").length;
  if (failed > 0) log.warn({ failed }, "the first statements were not answered");
}
