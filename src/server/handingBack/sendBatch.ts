import { uuidv7 } from "uuidv7";
import { goingOf, type Outcome } from "@/core/handingBack/outcome";
import { Invalid, NotFound, Refused } from "@/core/refusals";
import { requireOnPiece } from "../access/standing";
import type { Call, Person } from "../call";
import type { Sql, Tx } from "../db/connection";
import { log } from "../log";
import { sendBack, type Goes } from "./handBack";
import type { BatchRow } from "./batches";
import { readPerson } from "./readPerson";

/**
 * The job that sends an act of handing back on its way, piece by piece, each in a small transaction of its own: the
 * piece is back, and the act knows it, or neither. Run twice, or by two applications at once, each piece goes once,
 * because whoever takes it holds its row.
 */
export async function sendBatch(
  sql: Sql,
  payload: Record<string, string>,
  now: Date,
): Promise<void> {
  const batchId = payload.batchId!;
  let who: Person | null = null;
  let fault: unknown = null;
  const trying = { number: 0 };
  for (let more = true; more;) {
    const before = trying.number;
    try {
      more = await sql.begin(async (tx) => {
        const batch = await takeBatch(tx, batchId, now);
        if (!batch) return false;
        who ??= await readPerson(tx, batch.madeBy);
        return sendNext({ tx, db: tx, who, now, newId: uuidv7 }, batch, trying);
      });
    } catch (error) {
      // A piece that cannot go for a reason nobody foresaw keeps no other waiting; the job is tried again for it.
      if (trying.number === before) throw error;
      fault = error;
      log.error({ fault: error instanceof Error ? error.message : "unknown" }, "a piece stayed");
    }
  }
  if (fault) throw fault;
  await sql`
    update hand_back_batch
    set done_at = ${now}
    where id = ${batchId} and done_at is null and goes_at <= ${now}
      and not exists (select from hand_back_batch_piece where batch_id = ${batchId} and waits)`;
}

/** The act, while it may go on; whoever calls it back waits for the piece that is just going. */
async function takeBatch(tx: Tx, batchId: string, now: Date): Promise<BatchRow | null> {
  const [batch] = await tx<BatchRow[]>`
    select *
    from hand_back_batch
    where id = ${batchId} and called_back_at is null and goes_at <= ${now}
    for share`;
  return batch ?? null;
}

/** Sends the next piece that waits, and notes which it tries. @returns false when none is left */
async function sendNext(call: Call, batch: BatchRow, trying: { number: number }): Promise<boolean> {
  const { tx } = call;
  const [next] = await tx<{ pieceId: string; number: number }[]>`
    select piece_id, number
    from hand_back_batch_piece
    where batch_id = ${batch.id} and waits and number > ${trying.number}
    order by number
    limit 1
    for update skip locked`;
  if (!next) return false;
  trying.number = next.number;
  const became = await sendPiece(call, batch, next.pieceId);
  await tx`
    update hand_back_batch_piece
    set waits = false, hand_back_id = ${became.handBackId}, left_why = ${became.why}
    where batch_id = ${batch.id} and piece_id = ${next.pieceId}`;
  return true;
}

type Became = { handBackId: string; why: null } | { handBackId: null; why: string };

/** What a rule refuses stays a draft, with the reason; nothing of it is half done. */
async function sendPiece(call: Call, batch: BatchRow, pieceId: string): Promise<Became> {
  const stays = (why: string): Became => ({ handBackId: null, why });
  try {
    const handBackId = await call.tx.savepoint(async (tx) => {
      const inner: Call = { ...call, tx, db: tx };
      // The right to hand back may have ended since the act was made.
      await requireOnPiece(inner, pieceId, "feedback.handBack");
      const goes = await howItGoes(inner, batch, pieceId);
      const sent = await sendBack(inner, pieceId, goes);
      await say(inner, pieceId, batch.message);
      return sent.handBackId;
    });
    return { handBackId, why: null };
  } catch (error) {
    if (error instanceof Refused) return stays(error.message);
    if (error instanceof Invalid) return stays(Object.values(error.fields).join(" "));
    if (error instanceof NotFound) return stays("You may no longer hand this piece back.");
    throw error;
  }
}

async function howItGoes({ tx }: Call, batch: BatchRow, pieceId: string): Promise<Goes> {
  const [draft] = await tx<{ outcome: Outcome | null; due: Date | null }[]>`
    select feedback.outcome, feedback.next_due_at as due
    from feedback
    where piece_id = ${pieceId}
    order by round_number desc
    limit 1`;
  const act = { outcome: batch.outcome, due: batch.nextDueAt };
  const going = goingOf(act, draft ?? { outcome: null, due: null });
  if (!going.goes) throw new Refused(going.why);
  const withhold = batch.scores === "now" ? {} : { withhold: { until: batch.scoresAt } };
  const due = going.outcome === "revise" ? going.due : null;
  const { tellScore } = batch;
  const asked = { more: batch.moreRounds, parts: batch.askedParts };
  return { outcome: going.outcome, due, mustSay: true, tellScore, asked, ...withhold };
}

/** The word to all of them goes into each one's thread. */
async function say({ tx, who, now, newId }: Call, pieceId: string, body: string): Promise<void> {
  if (body === "") return;
  await tx`
    insert into message (id, piece_id, author_id, body, sent_at)
    values (${newId()}, ${pieceId}, ${who.id}, ${body}, ${now})`;
}
