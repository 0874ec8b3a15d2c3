import { batchTimes } from "./batchTimes";
import { decideBatch, batchState, type BatchMove } from "@/core/handingBack/batch";
import type { BatchOutcome, ScoresGo } from "@/core/handingBack/outcome";
import { NotFound, Refused } from "@/core/refusals";
import { sayTime } from "@/core/time/words";
import type { BatchView, TakenBack } from "@/core/views/handBackViews";
import { requireKind, requireOnPieces } from "../access/standing";
import type { Call, ReadCall } from "../call";
import type { Db } from "../db/connection";
import { enqueue } from "../jobs/jobs";
import { takeFeedbackBack } from "./handBack";
import { hiddenNow, readNumbers } from "../names/names";

/** What is asked of an act, as it comes in; times are the school's. */
export type GivenBatch = {
  pieceIds: readonly string[];
  outcome: BatchOutcome;
  due: string | null;
  /** Null: now, once `hold` seconds have passed. */
  at: string | null;
  hold: number;
  message: string;
  scores: ScoresGo;
  scoresAt: string | null;
  tellScore?: boolean;
  /** What is said of the rounds that it opens. */ more?: number | null;
  parts?: string[];
};

export type BatchRow = {
  id: string;
  madeBy: string;
  goesAt: Date;
  outcome: BatchOutcome;
  nextDueAt: Date | null;
  message: string;
  scores: ScoresGo;
  scoresAt: Date | null;
  tellScore: boolean;
  moreRounds: number | null;
  askedParts: string[];
  calledBackAt: Date | null;
  waiting: number;
  gone: number;
};

/**
 * Makes one act of handing back: its pieces wait from now on, and go in the background when its time comes, each in a
 * transaction of its own. What goes is what the draft says then.
 */
export async function makeBatch(call: Call, given: GivenBatch): Promise<BatchView> {
  const { tx, who, now, newId } = call;
  requireKind(who, "teacher");
  const pieceIds = [...new Set(given.pieceIds)];
  await requireOnPieces(call, pieceIds, "feedback.handBack");
  const times = batchTimes(given, { zone: who.zone, now });
  await requireFree(call, pieceIds);
  const id = newId();
  const { outcome, message, scores, tellScore = false, more = null, parts = [] } = given;
  const asked = { moreRounds: more, askedParts: tx.json(parts) };
  await tx`
    insert into hand_back_batch ${tx({ id, madeBy: who.id, madeAt: now, outcome, message, scores, tellScore, ...asked, ...times })}`;
  await tx`
    insert into hand_back_batch_piece (batch_id, piece_id, number)
    select ${id}, given.id, given.number
    from unnest(${pieceIds}::uuid[]) with ordinality as given(id, number)`;
  await enqueue(tx, { kind: "handBack", key: id, payload: { batchId: id } }, times.goesAt);
  return batchView(call, id);
}

/** A piece waits in one act at most; of two teachers who press at the same moment the second is told. */
async function requireFree({ tx }: Call, pieceIds: readonly string[]): Promise<void> {
  await tx`select from piece where id = any(${pieceIds as string[]}) order by id for update`;
  const [row] = await tx<{ n: number }[]>`
    select count(*)::int as n
    from hand_back_batch_piece
    where waits and piece_id = any(${pieceIds as string[]})`;
  if (row!.n > 0)
    throw new Refused(
      `${row!.n === 1 ? "One of these pieces goes" : `${row!.n} of these pieces go`} back at a time already. Call that back first, or leave them out.`,
    );
}

/** An act of one's own, or of a section one teaches and may hand back in. @throws NotFound */
async function requireBatch(call: ReadCall, batchId: string, lock: boolean): Promise<BatchRow> {
  const { db } = call;
  if (lock) await db`select from hand_back_batch where id = ${batchId} for update`;
  const row = await readRow(db, batchId);
  if (!row) throw new NotFound();
  await requireOnPieces(call, row.pieceIds, "feedback.handBack");
  return row;
}

/** The act with what became of its pieces. Index: hand_back_batch_piece's key. */
async function readRow(
  db: Db,
  batchId: string,
): Promise<(BatchRow & { pieceIds: string[] }) | undefined> {
  const [row] = await db<(BatchRow & { pieceIds: string[] })[]>`
    select
      batch.*,
      count(*) filter (where piece.waits)::int as waiting,
      count(*) filter (where piece.hand_back_id is not null)::int as gone,
      array_agg(piece.piece_id) as piece_ids
    from hand_back_batch batch
    join hand_back_batch_piece piece on piece.batch_id = batch.id
    where batch.id = ${batchId}
    group by batch.id`;
  return row;
}

async function decide(call: Call, batchId: string, move: BatchMove): Promise<BatchRow> {
  const batch = await requireBatch(call, batchId, true);
  const decided = decideBatch(batch, move, call.now);
  if (!decided.allowed) throw new Refused(decided.reason);
  return batch;
}

/** Calls an act back: what waits stays a draft, and nobody was told of it. What had gone by then has gone. */
export async function callBatchBack(call: Call, batchId: string): Promise<BatchView> {
  await decide(call, batchId, "callBack");
  const { tx, now } = call;
  await tx`update hand_back_batch set called_back_at = ${now} where id = ${batchId}`;
  await tx`
    update hand_back_batch_piece
    set waits = false, left_why = 'It was called back.'
    where batch_id = ${batchId} and waits`;
  await tx`delete from job where kind = 'handBack' and key = ${batchId} and held_until is null`;
  return batchView(call, batchId);
}

/** Goes on with an act that was interrupted: the job is asked for anew, and does what is left. */
export async function goOnWithBatch(call: Call, batchId: string): Promise<BatchView> {
  await decide(call, batchId, "goOn");
  const { tx, now } = call;
  // Whoever held it may be gone; two that do it at once share the pieces.
  await tx`update job set held_until = null where kind = 'handBack' and key = ${batchId}`;
  await enqueue(tx, { kind: "handBack", key: batchId, payload: { batchId } }, now);
  return batchView(call, batchId);
}

/** Takes back what an act handed back, where students have not begun to revise; says who had read it. */
export async function takeBatchBack(call: Call, batchId: string): Promise<TakenBack> {
  await decide(call, batchId, "takeBack");
  const { tx } = call;
  const pieces = await tx<{ pieceId: string; student: string }[]>`
    select batch.piece_id, shown_name(student) as student
    from hand_back_batch_piece batch
    join piece on piece.id = batch.piece_id
    join person student on student.id = piece.student_id
    where batch.batch_id = ${batchId} and batch.hand_back_id is not null
      and not exists (select from hand_back_withdrawn where hand_back_id = batch.hand_back_id)
    order by batch.number`;
  const answer: TakenBack = { taken: 0, readBy: [], left: [] };
  for (const { pieceId, student } of pieces)
    try {
      const { wasRead } = await tx.savepoint((inner) =>
        takeFeedbackBack({ ...call, tx: inner, db: inner }, pieceId),
      );
      answer.taken += 1;
      if (wasRead) answer.readBy.push(student);
    } catch (error) {
      if (!(error instanceof Refused)) throw error;
      answer.left.push({ student, why: error.message });
    }
  return answer;
}

export async function readBatch(call: ReadCall, batchId: string): Promise<BatchView> {
  await requireBatch(call, batchId, false);
  return batchView(call, batchId);
}

type PieceOfBatch = {
  pieceId: string;
  student: string;
  title: string;
  leftWhy: string | null;
  handOutId: string;
  hidden: boolean;
};

async function batchView(call: ReadCall, batchId: string): Promise<BatchView> {
  const { db, who, now } = call;
  const batch = await readRow(db, batchId);
  const pieces = await namedPieces(
    db,
    await db<PieceOfBatch[]>`
      select
        of_batch.piece_id, of_batch.left_why, shown_name(student) as student, hand_out.id as hand_out_id,
        full_title(assignment.emoji, assignment.number, assignment.title) as title,
        ${hiddenNow(db, db`piece.id`)} as hidden
      from hand_back_batch_piece of_batch
      join piece on piece.id = of_batch.piece_id
      join person student on student.id = piece.student_id
      join hand_out on hand_out.id = piece.hand_out_id
      join assignment on assignment.id = hand_out.assignment_id
      where of_batch.batch_id = ${batchId}
      order by of_batch.number`,
  );
  return {
    id: batchId,
    state: batchState(batch!, now),
    goesIn: Math.max(0, batch!.goesAt.getTime() - now.getTime()),
    goesWords: sayTime(batch!.goesAt, now, who.zone),
    total: pieces.length,
    gone: batch!.gone,
    left: pieces.flatMap(({ pieceId, student, leftWhy }) =>
      leftWhy === null ? [] : [{ pieceId, student, why: leftWhy }],
    ),
    title: pieces[0]!.title,
    student: pieces.length === 1 ? pieces[0]!.student : null,
    pieceIds: pieces.map((p) => p.pieceId),
  };
}

/** Pieces by the names they go by just now. */
export async function namedPieces<
  P extends { pieceId: string; student: string; handOutId: string; hidden: boolean },
>(db: Db, pieces: readonly P[]): Promise<P[]> {
  const numbers = new Map<string, number>();
  for (const id of new Set(pieces.filter((p) => p.hidden).map((p) => p.handOutId)))
    for (const [pieceId, number] of await readNumbers(db, id)) numbers.set(pieceId, number);
  return pieces.map((p) =>
    p.hidden ? { ...p, student: `Piece ${numbers.get(p.pieceId) ?? 0}` } : p,
  );
}
