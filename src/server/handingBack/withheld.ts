import type { HandBackContent } from "@/core/rounds/cameBack";
import { uuidv7 } from "uuidv7";
import type { Call } from "../call";
import type { Sql, Tx } from "../db/connection";
import { enqueue } from "../jobs/jobs";
import { recordEvent } from "../life/queries";
import { storeHandBack, storeScore } from "./storeHandBack";
import { readPerson } from "./readPerson";

/**
 * Scores that come later. What was handed back holds no score at all (`core/handingBack/withhold`); what it will say
 * stands in `withheld_score`, which no query of a student reads, and is handed back by itself when its time comes.
 */
export async function storeWithheld(
  { tx }: Call,
  handBackId: string,
  content: HandBackContent,
  comesAt: Date | null,
): Promise<void> {
  await tx`
    insert into withheld_score (hand_back_id, comes_at, content)
    values (${handBackId}, ${comesAt}, ${tx.json(content as never)})`;
}

/** After each hand-back: whether it was the last that others' scores waited for is looked at by a job. */
export async function askForScores({ tx, now }: Call, handOutId: string): Promise<void> {
  const rows = await tx<{ comesAt: Date | null }[]>`
    select distinct withheld_score.comes_at
    from withheld_score
    join hand_back on hand_back.id = withheld_score.hand_back_id
    join piece on piece.id = hand_back.piece_id
    where withheld_score.come_at is null and piece.hand_out_id = ${handOutId}`;
  for (const { comesAt } of rows) {
    const at = comesAt && comesAt > now ? comesAt : now;
    const key = comesAt ? `${handOutId} ${comesAt.toISOString()}` : handOutId;
    await enqueue(tx, { kind: "scores", key, payload: { handOutId } }, at);
  }
}

type Withheld = {
  handBackId: string;
  pieceId: string;
  handOutId: string;
  round: number;
  outcome: "final" | "revise";
  nextDueAt: Date | null;
  by: string;
  content: HandBackContent;
  /** Still what the student has of that round. */
  inForce: boolean;
};

/** The job: lets every score of a hand-out come whose time it is, each in a transaction of its own. */
export async function letScoresCome(
  sql: Sql,
  payload: Record<string, string>,
  now: Date,
): Promise<void> {
  for (let left = 2000; left > 0; left -= 1) {
    const more = await sql.begin((tx) => letOneCome(tx, payload.handOutId!, now));
    if (!more) return;
  }
}

async function letOneCome(tx: Tx, handOutId: string, now: Date): Promise<boolean> {
  const [row] = await tx<Withheld[]>`
    select
      withheld_score.hand_back_id, withheld_score.content, hand_back.piece_id, piece.hand_out_id,
      hand_back.round_number as round, hand_back.outcome, hand_back.next_due_at, hand_back.handed_back_by as by,
      not exists (select from hand_back_withdrawn where hand_back_id = hand_back.id)
        and not exists (
          select from hand_back newer
          where newer.piece_id = hand_back.piece_id and newer.round_number = hand_back.round_number
            and newer.number > hand_back.number
        ) as in_force
    from withheld_score
    join hand_back on hand_back.id = withheld_score.hand_back_id
    join piece on piece.id = hand_back.piece_id
    where withheld_score.come_at is null and piece.hand_out_id = ${handOutId}
      and (
        withheld_score.comes_at <= ${now}
        or withheld_score.comes_at is null and not exists (
          -- All that is in has gone back.
          select from piece waiting
          where waiting.hand_out_id = ${handOutId} and waiting.state = 'handed_in'
            and waiting.removed_at is null and not waiting.excused
        )
      )
    order by withheld_score.hand_back_id
    limit 1
    for update of withheld_score skip locked`;
  if (!row) return false;
  if (row.inForce) await handScoreBack(tx, row, now);
  await tx`update withheld_score set come_at = ${now} where hand_back_id = ${row.handBackId}`;
  return true;
}

/** The same hand-back once more, with its score; the piece itself does not move. */
async function handScoreBack(tx: Tx, row: Withheld, now: Date): Promise<void> {
  const { pieceId, handOutId, round, outcome, content } = row;
  const call: Call = { tx, db: tx, who: await readPerson(tx, row.by), now, newId: uuidv7 };
  const next = { outcome, round, roundDue: row.nextDueAt };
  const handBackId = await storeHandBack(call, pieceId, next, content);
  if (content.points !== null) await storeScore(call, { pieceId, round, handBackId }, content);
  await recordEvent(call, { handOutId, pieceId, kind: "score came", detail: { handBackId } });
}
