import { carryPicks, type Picks } from "@/core/rubrics/rubric";
import { Conflict, Refused } from "@/core/refusals";
import { requireOnPiece } from "../access/standing";
import type { Call } from "../call";
import type { Db } from "../db/connection";
import { gathering } from "../db/gathering";
import {
  lockPiece,
  readVersions,
  recordEvent,
  type PieceRow,
  type VersionRow,
} from "../life/queries";
import { understandScore } from "./counted";
import { readRubric } from "../rubrics/readRubric";
import { feedbackRound } from "@/core/rounds/feedbackRound";
import { beginFeedback, readBegun, readFeedback, type FeedbackRow } from "./queries";

type Open = { piece: PieceRow; round: number; version: VersionRow | null };

/** Where a draft is about to be changed: the piece (locked), the round, and the version the marks stand on. */
export async function openDraft(call: Call, pieceId: string): Promise<Open> {
  return (await openDraftWith(call, pieceId, () => Promise.resolve())).open;
}

/** The same, and in one statement with it what else is to be read once the piece is locked. */
export async function openDraftWith<T>(
  call: Call,
  pieceId: string,
  read: (db: Db) => Promise<T>,
): Promise<{ open: Open; found: T }> {
  await requireOnPiece(call, pieceId, "feedback.draft");
  const piece = await lockPiece(call.tx, pieceId);
  const db = gathering(call.tx);
  const [versions, begun, found] = await Promise.all([
    readVersions(db, pieceId),
    readBegun(db, pieceId),
    read(db),
  ]);
  const { round, version } = feedbackRound(piece, versions);
  if (!begun.includes(round)) {
    await beginFeedback(call, pieceId, round);
    await recordEvent(call, {
      handOutId: piece.handOutId,
      pieceId,
      kind: "began feedback",
      detail: { round },
    });
  }
  return { open: { piece, round, version }, found };
}

/**
 * Keeps the overall note and the score as typed.
 *
 * @throws Conflict with theirs when a co-teacher changed them since `revision`
 * @throws Invalid when the score cannot be understood; the rest of the draft is kept as it was
 */
export async function saveFeedback(
  call: Call,
  pieceId: string,
  given: { overall: string; score: string; picks: Picks; reason?: string },
  revision: number,
): Promise<{ revision: number; scoreWords: string | null }> {
  const { piece, round } = await openDraft(call, pieceId);
  const stored = (await readFeedback(call.tx, pieceId, round))!;
  if (stored.revision !== revision) {
    throw new Conflict(
      `${stored.changedByName} changed this note since you opened it. Both are kept: choose which to go on with.`,
      {
        overall: stored.overall,
        score: stored.scoreTyped,
        picks: stored.picks,
        reason: stored.scoreReason,
        revision: stored.revision,
      },
    );
  }
  await requirePicks(call, piece, given.picks);
  const { points, words } = understandScore(given.score, piece);
  await call.tx`
    update feedback
    set overall = ${given.overall}, score_typed = ${given.score}, points = ${points}, picks = ${call.tx.json(given.picks as never)}, score_reason = ${given.reason ?? stored.scoreReason}, revision = revision + 1,
        changed_by = ${call.who.id}, changed_at = ${call.now}
    where piece_id = ${pieceId} and round_number = ${round}`;
  return { revision: revision + 1, scoreWords: words };
}

/**
 * Changes a part of the draft as it stands at this moment; all else that is drafted stays.
 *
 * @param change from what is stored to what is to be other; null: nothing is
 */
export async function changeDraft(
  call: Call,
  pieceId: string,
  change: (stored: FeedbackRow) => { overall?: string; score?: string } | null,
): Promise<{ revision: number }> {
  const { round } = await openDraft(call, pieceId);
  const stored = (await readFeedback(call.tx, pieceId, round))!;
  const part = change(stored);
  const { overall, scoreTyped: score, picks, scoreReason: reason, revision } = stored;
  if (part === null) return { revision };
  return saveFeedback(call, pieceId, { overall, score, picks, reason, ...part }, revision);
}

/** Levels can be chosen from the hand-out's own rubric only, and points within the level. */
async function requirePicks({ tx }: Call, piece: PieceRow, picks: Picks): Promise<void> {
  if (Object.keys(picks).length === 0) return;
  const rubric = await readRubric(tx, piece.rubricId);
  const { lost } = carryPicks(picks, rubric?.content ?? { criteria: [] });
  if (lost > 0)
    throw new Refused(
      "The rubric of this work has changed since you opened this piece. Load it again; your notes are kept.",
    );
}
