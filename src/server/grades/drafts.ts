import type { Db } from "../db/connection";

/**
 * Beside a row of piece_standing (named `standing`): the draft of the round that feedback is about
 * (`core/rounds/feedbackRound`, in SQL), and the score that was handed back last in that round. Columns: `draft.*`,
 * `told.points`. A test holds the round against the core's. Indexes: version's of its piece, feedback's key, score_piece.
 */
export const joinDrafts = (db: Db) => db`
  cross join lateral (
    select case
      when standing.state in ('not_opened', 'started') then standing.round
      else coalesce(
        (
          select max(version.round_number)
          from version
          where version.piece_id = standing.id
            and (standing.state <> 'reworking' or version.round_number < standing.round)
        ),
        standing.round)
      end as number
  ) about_round
  left join feedback draft on draft.piece_id = standing.id and draft.round_number = about_round.number
  left join lateral (
    select coalesce(score.raw_points, score.points) as points
    from score
    where draft.piece_id is not null and score.piece_id = draft.piece_id and score.round_number = draft.round_number
      and not exists (select from hand_back_withdrawn where hand_back_id = score.hand_back_id)
    order by score.set_at desc, score.id desc
    limit 1
  ) told on true`;

/** Whether what is typed is not what was handed back. */
export const isUntold = (db: Db) =>
  db`(draft.piece_id is not null and draft.points is distinct from told.points)`;

/** The newest hand-in of the round of a draft that was not handed back: what its lateness is counted from; none where a teacher said that it is on time. */
export const draftsHandIn = (db: Db) => db`
  case when ${isUntold(db)} and standing.flag is distinct from 'on time' then (
    select jsonb_build_object(
      'due', coalesce(round.due_at, piece.own_due_at, hand_out.due_at),
      'graceMinutes', hand_out.grace_minutes,
      'countedAt', case when claim_accepted.version_id is null then version.handed_in_at else version.pressed_at end)
    from version
    join piece on piece.id = version.piece_id
    join round on round.piece_id = version.piece_id and round.number = version.round_number
    left join claim_accepted on claim_accepted.version_id = version.id
    where version.piece_id = draft.piece_id and version.round_number = draft.round_number
    order by version.number desc
    limit 1
  ) end`;
