import type { FeedbackFacts } from "@/core/handingBack/say";
import type { Db } from "../db/connection";

/** Columns for lists of pieces, beside a row of piece_standing (named `standing`): where the feedback of each is. */

/** When a piece goes back by itself. Index: hand_back_batch_piece_waits. Gives `waiting.goes_at` and `waiting.batch_id`. */
export const whenItGoes = (db: Db) => db`
  left join lateral (
    select of_batch.batch_id, batch.goes_at
    from hand_back_batch_piece of_batch
    join hand_back_batch batch on batch.id = of_batch.batch_id
    where of_batch.piece_id = standing.id and of_batch.waits
  ) waiting on true`;

/** When the draft of the present round was changed last; null without one. Indexes: feedback's key, mark_round. */
export const draftTouchedAt = (db: Db) => db`
  (
    select greatest(
      feedback.changed_at,
      (select max(changed_at) from mark where piece_id = standing.id and round_number = standing.round)
    )
    from feedback
    where piece_id = standing.id and round_number = standing.round
  )`;

/** The score that was held back and comes later: `{at}`, null for "when all are done"; null where none does. */
export const scoreToCome = (db: Db) => db`
  (
    select jsonb_build_object('at', withheld_score.comes_at)
    from withheld_score
    join hand_back on hand_back.id = withheld_score.hand_back_id
    where hand_back.piece_id = standing.id and withheld_score.come_at is null
      and not exists (select from hand_back_withdrawn where hand_back_id = hand_back.id)
    order by hand_back.number desc
    limit 1
  )`;

/** A list's row as the core asks for it. @param handedBackAt of the last hand-back in force */
export const feedbackFacts = (
  row: {
    drafted: boolean;
    goesAt: Date | null;
    seenAt: Date | null;
    touchedAt: Date | null;
    scoreComes: { at: string | null } | null;
    state: string;
  },
  handedBackAt: Date | null,
): FeedbackFacts => ({
  drafted: row.drafted,
  goesAt: row.goesAt,
  // A draft of a new round is a draft, whatever came back of the one before.
  handedBackAt: row.drafted ? null : handedBackAt,
  seenAt: row.seenAt,
  changedSince:
    handedBackAt !== null &&
    (row.state === "handed_back" || row.state === "to_revise") &&
    row.touchedAt !== null &&
    row.touchedAt > handedBackAt,
  scoreComes: readComes(row.scoreComes),
});

const readComes = (comes: { at: string | null } | null): FeedbackFacts["scoreComes"] =>
  comes && { at: comes.at ? new Date(comes.at) : null };

/**
 * What goes back at a time in the sections of a teacher, by hand-out and time: as a row source. Indexes:
 * section_teacher_person, hand_out_section, hand_back_batch_piece_waits.
 */
export const goingBack = (db: Db, who: { id: string }) => db`
  select
    hand_out.id as hand_out_id, section.id as section_id, section.name as section,
    full_title(assignment.emoji, assignment.number, assignment.title) as title,
    batch.goes_at, count(*)::int as pieces
  from section_teacher
  join section on section.id = section_teacher.section_id
  join hand_out on hand_out.section_id = section.id and hand_out.withdrawn_at is null
  join assignment on assignment.id = hand_out.assignment_id
  join piece on piece.hand_out_id = hand_out.id
  join hand_back_batch_piece of_batch on of_batch.piece_id = piece.id and of_batch.waits
  join hand_back_batch batch on batch.id = of_batch.batch_id
  where section_teacher.person_id = ${who.id}
  group by hand_out.id, assignment.id, section.id, batch.goes_at`;

/** Of one piece: whether it goes back by itself, and whether its score comes later. */
export async function readGoing(
  db: Db,
  pieceId: string,
): Promise<{
  waiting: { batchId: string; goesAt: Date } | null;
  scoreComes: FeedbackFacts["scoreComes"];
}> {
  const [row] = await db<
    { batchId: string | null; goesAt: Date | null; scoreComes: { at: string | null } | null }[]
  >`
    select waiting.batch_id, waiting.goes_at, ${scoreToCome(db)} as score_comes
    from piece standing
    ${whenItGoes(db)}
    where standing.id = ${pieceId}`;
  const { batchId, goesAt, scoreComes } = row!;
  return {
    waiting: batchId && goesAt ? { batchId, goesAt } : null,
    scoreComes: readComes(scoreComes),
  };
}
