import type { Picks } from "@/core/rubrics/rubric";
import { differsFrom, type HandBackContent } from "@/core/rounds/cameBack";
import type { Call } from "../call";
import type { Db } from "../db/connection";
import type { HandBackRow, PieceRow, VersionRow } from "../pieces/queries";
import { markOf, type MarkRow } from "./markRows";

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
};
export type RulingRow = { markId: string; ruling: "settled" | "again"; againMark: string | null };

/**
 * The round that feedback is about: that of the newest hand-in, or the present one when nothing was
 * handed in (a talk in class, work on paper).
 */
export function feedbackRound(
  piece: PieceRow,
  versions: readonly VersionRow[],
): { round: number; version: VersionRow | null } {
  const takenBack = piece.state === "started" || piece.state === "not_opened";
  const newest = takenBack
    ? undefined
    : versions.filter((v) => piece.state !== "reworking" || v.roundNumber < piece.round).at(-1);
  return newest
    ? { round: newest.roundNumber, version: newest }
    : { round: piece.round, version: null };
}

export async function readFeedback(
  db: Db,
  pieceId: string,
  round: number,
): Promise<FeedbackRow | null> {
  const [row] = await db<FeedbackRow[]>`
    select feedback.overall, feedback.score_reason, feedback.score_typed, feedback.points, feedback.picks, feedback.revision, feedback.changed_by, person.name as changed_by_name, feedback.changed_at
    from feedback
    join person on person.id = feedback.changed_by
    where feedback.piece_id = ${pieceId} and feedback.round_number = ${round}`;
  return row ?? null;
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

export async function touchFeedback(
  { tx, who, now }: Call,
  pieceId: string,
  round: number,
): Promise<void> {
  await tx`
    update feedback
    set changed_by = ${who.id}, changed_at = ${now}
    where piece_id = ${pieceId} and round_number = ${round}`;
}

/** What handing the draft back now would say. */
export function contentOf(
  feedback: FeedbackRow | null,
  marks: readonly MarkRow[],
  rulings: readonly RulingRow[],
  versionId: string | null,
  possible: string | null,
  judgements: HandBackContent["judgements"] = [],
): HandBackContent {
  const points = feedback?.points ?? null;
  return {
    overall: feedback?.overall ?? "",
    scoreTyped: feedback?.scoreTyped ?? "",
    points,
    possible: points === null ? null : possible,
    picks: feedback?.picks ?? {},
    versionId,
    marks: marks.map(markOf),
    rulings: rulings.map(({ markId, ruling }) => ({ markId, ruling })),
    judgements,
  };
}

export function isEmptyContent(content: HandBackContent): boolean {
  return (
    content.overall.trim() === "" &&
    content.points === null &&
    Object.keys(content.picks ?? {}).length === 0 &&
    content.marks.length === 0 &&
    content.rulings.length === 0
  );
}

export function hasChanged(handedBack: HandBackRow | undefined, content: HandBackContent): boolean {
  return handedBack === undefined || differsFrom(handedBack.content, content);
}
