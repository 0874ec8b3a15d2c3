import type { Outcome } from "@/core/handingBack/outcome";
import type { Picks } from "@/core/rubrics/rubric";
import type { ReturnedFile } from "@/core/rounds/cameBack";
import type { Draft } from "@/core/rounds/draft";
import type { Call } from "../call";
import type { Db } from "../db/connection";
import { markOf, readMarks, type MarkRow } from "./markRows";

export type FeedbackRow = {
  overall: string;
  scoreReason: string;
  scoreTyped: string;
  points: string | null;
  revision: number;
  changedBy: string;
  changedByName: string;
  changedAt: Date;
  picks: Picks;
  outcome: Outcome | null;
};
export type RulingRow = { markId: string; ruling: "settled" | "again"; againMark: string | null };

export async function readFeedback(
  db: Db,
  pieceId: string,
  round: number,
): Promise<FeedbackRow | null> {
  const [row] = await db<FeedbackRow[]>`
    select feedback.overall, feedback.score_reason, feedback.score_typed, feedback.points, feedback.picks, feedback.outcome, feedback.revision, feedback.changed_by, person.name as changed_by_name, feedback.changed_at
    from feedback
    join person on person.id = feedback.changed_by
    where feedback.piece_id = ${pieceId} and feedback.round_number = ${round}`;
  return row ?? null;
}

/** The rounds whose feedback was begun. Index: feedback's primary key. */
export async function readBegun(db: Db, pieceId: string): Promise<number[]> {
  const rows = await db<
    { round: number }[]
  >`select round_number as round from feedback where piece_id = ${pieceId}`;
  return rows.map((row) => row.round);
}

/** The ids of the files in a version. Index: version_item's key. */
export async function itemsOf(db: Db, versionId: string): Promise<string[]> {
  return (
    await db<{ itemId: string }[]>`select item_id from version_item where version_id = ${versionId}`
  ).map((row) => row.itemId);
}

export async function readRulings(db: Db, pieceId: string, round: number): Promise<RulingRow[]> {
  return db<
    RulingRow[]
  >`select mark_id, ruling, again_mark from ruling where piece_id = ${pieceId} and round_number = ${round}`;
}

/** The files that go back with a round's feedback, in the order they were added. Index: feedback_file's key. */
export async function readReturned(
  db: Db,
  pieceId: string,
  round: number,
): Promise<ReturnedFile[]> {
  const rows = await db<ReturnedFile[]>`
    select upload.id, upload.name, upload.size
    from feedback_file
    join upload on upload.id = feedback_file.upload_id
    where feedback_file.piece_id = ${pieceId} and feedback_file.round_number = ${round}
    order by feedback_file.added_at, upload.id`;
  return rows.map((row) => ({ ...row, size: Number(row.size) }));
}

/** Begins the draft of a round if there is none; marks and rulings hang on it. */
export async function beginFeedback(
  { tx, who, now }: Call,
  pieceId: string,
  round: number,
): Promise<void> {
  await tx`
    insert into round (piece_id, number, opened_at)
    select ${pieceId}, 1, ${now}
    where ${round} = 1
    on conflict (piece_id, number) do nothing`;
  await tx`
    insert into feedback (piece_id, round_number, begun_by, changed_by, changed_at, revision)
    values (${pieceId}, ${round}, ${who.id}, ${who.id}, ${now}, 0)
    on conflict (piece_id, round_number) do nothing`;
}

export async function touchFeedback(call: Call, pieceId: string, round: number): Promise<void> {
  await touching(call, pieceId, round);
}

/** Whose draft it now is: by itself, or before another change in one statement (`with touched as (${touching(…)}) …`). */
export const touching = ({ tx, who, now }: Call, pieceId: string, round: number) => tx`
  update feedback
  set changed_by = ${who.id}, changed_at = ${now}
  where piece_id = ${pieceId} and round_number = ${round}`;

/** The draft of a round as the core asks for it; a round nobody has begun is an empty one. */
export async function readDraft(db: Db, pieceId: string, round: number): Promise<RoundDraft> {
  const [feedback, marks, rulings, files] = await Promise.all([
    readFeedback(db, pieceId, round),
    readMarks(db, pieceId, round),
    readRulings(db, pieceId, round),
    readReturned(db, pieceId, round),
  ]);
  const { overall = "", scoreTyped = "", points = null, picks = {} } = feedback ?? {};
  return {
    feedback,
    rows: marks,
    draft: { overall, scoreTyped, points, picks, marks: marks.map(markOf), rulings, files },
  };
}
export type RoundDraft = { feedback: FeedbackRow | null; rows: MarkRow[]; draft: Draft };
