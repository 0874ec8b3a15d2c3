-- How every piece stands, for lists: the rules of core/pieces/standing in SQL, once. A test holds the two against
-- each other over generated pieces. This file is applied whole when its text changed (see migrate.ts); a migration
-- that alters what it reads drops the views first, and they are made again after it.
drop view if exists piece_standing;
drop view if exists every_piece;
drop view if exists piece_times;

-- A piece with its hand-out: which due time rules it, and when handing in ends for it (dueOf, closesFor).
create view piece_times as
select
  piece.id, piece.hand_out_id, piece.student_id, piece.state, piece.round, piece.excused, piece.seen_at,
  piece.removed_at, piece.left_at, piece.own_due_from, piece.thread_closed_at, piece.flag,
  hand_out.section_id, hand_out.assignment_id, hand_out.opens_at, hand_out.promised_at, hand_out.grace_minutes,
  hand_out.withdrawn_at, hand_out.archive_days, hand_out.shows,
  coalesce(revision.due_at, this_round.due_at, piece.own_due_at, hand_out.due_at) as due,
  coalesce(this_round.due_at, piece.own_due_at, hand_out.due_at) as round_due,
  revision.due_at as revision_due,
  case when hand_out.closes_at is not null then
    greatest(hand_out.closes_at, coalesce(piece.own_due_at, hand_out.due_at) + make_interval(mins => hand_out.grace_minutes))
  end as closes_at,
  piece.state in ('not_opened', 'started') as nothing_in,
  exists (
    select from feedback where feedback.piece_id = piece.id and feedback.round_number = piece.round
  ) as feedback_begun
from piece
join hand_out on hand_out.id = piece.hand_out_id
left join round this_round on this_round.piece_id = piece.id and this_round.number = piece.round
left join round revision
  on revision.piece_id = piece.id and revision.number = piece.round + 1 and piece.state = 'to_revise';

create view every_piece as
select
  told.*,
  case
    when drafted then 'drafted'
    when awaited then 'awaited'
    when state <> 'handed_in' then null
    when round > 1 then 'again'
    when late then 'late'
    else 'new'
  end as pile
from (
  select
    piece.id, piece.hand_out_id, piece.student_id, piece.state, piece.round, piece.excused, piece.seen_at,
    piece.removed_at, piece.left_at, piece.own_due_from, piece.flag,
    piece.section_id, piece.opens_at, piece.promised_at, piece.grace_minutes,
    piece.withdrawn_at, piece.archive_days, piece.closes_at, piece.due, piece.shows,
    full_title(assignment.emoji, assignment.number, assignment.title) as title,
    assignment.expects, assignment.points_possible, assignment.score_kind,
    newest.handed_in_at,
    newest.round_number as handed_in_round,
    newest.counted_at,
    coalesce(piece.flag = 'late', false) or coalesce(
      piece.flag is distinct from 'on time' and newest.round_number = piece.round
      and newest.counted_at > piece.round_due + make_interval(mins => piece.grace_minutes),
      false) as late,
    coalesce(piece.flag = 'missing', false) and piece.nothing_in and not piece.excused as said_missing,
    piece.due + make_interval(mins => piece.grace_minutes) as last_moment,
    piece.nothing_in and assignment.expects = 'work' and not piece.excused and piece.left_at is null as awaited,
    piece.feedback_begun and (piece.nothing_in and piece.shows = 'by hand' or piece.state = 'handed_in') as drafted,
    -- Asked for by few, and not worked out for the others, since it stands in the list of columns.
    coalesce(
      (
        select
          message.author_id = piece.student_id
          -- A thread that was closed asks nothing more.
          and message.sent_at > coalesce(piece.thread_closed_at, '-infinity')
          and not exists (
            select
            from hand_back
            where hand_back.piece_id = piece.id and hand_back.handed_back_at > message.sent_at
          )
        from message
        where message.piece_id = piece.id
        order by message.sent_at desc, message.id desc
        limit 1
      ),
      false) as asked
  from piece_times piece
  join assignment on assignment.id = piece.assignment_id
  left join lateral (
    select
      version.handed_in_at, version.round_number,
      case when claim_accepted.version_id is null then version.handed_in_at else version.pressed_at end as counted_at
    from version
    left join claim_accepted on claim_accepted.version_id = version.id
    -- Asked within, so that nothing is looked for where nothing is in.
    where version.piece_id = piece.id and not piece.nothing_in
    order by version.number desc
    limit 1
  ) newest on true
) told;

create view piece_standing as
select *
from every_piece
where removed_at is null and withdrawn_at is null;
