import { kindOfWork, type Taken } from "@/core/today/pace";
import type { Part } from "@/core/handouts/parts";
import type { ReadCall } from "../call";

/** What waits for a teacher besides pieces to read, by hand-out. */
export type Extra = {
  handOutId: string;
  title: string;
  section: string;
  count: number;
  oldestAt: Date;
};
/** `pieceId`: the one that waits longest. */
export type ExtraCheckpoints = Extra & { pieceId: string };

/** Students' answers to the class that wait until a teacher has read them, or were reported. Index: section_note_hand_out. */
export function readAnswersThatWait({ db, who }: ReadCall): Promise<Extra[]> {
  return db<Extra[]>`
    select hand_out.id as hand_out_id, full_title(assignment.emoji, assignment.number, assignment.title) as title, section.name as section, count(*)::int as count, min(note.said_at) as oldest_at
    from section_teacher
    join section on section.id = section_teacher.section_id
    join hand_out on hand_out.section_id = section.id and hand_out.withdrawn_at is null
    join assignment on assignment.id = hand_out.assignment_id
    join section_note note on note.hand_out_id = hand_out.id and (note.shown_at is null or note.reported_at is not null) and note.taken_at is null
    where section_teacher.person_id = ${who.id}
    group by hand_out.id, assignment.id, section.id
    order by min(note.said_at)`;
}

/** What students said of shown work that waits to be read, or was reported. Indexes: look_mark_waits, piece by hand-out. */
export function readShownThatWaits({ db, who }: ReadCall): Promise<Extra[]> {
  return db<Extra[]>`
    select hand_out.id as hand_out_id, full_title(assignment.emoji, assignment.number, assignment.title) as title, section.name as section, count(*)::int as count, min(said.said_at) as oldest_at
    from section_teacher
    join section on section.id = section_teacher.section_id
    join hand_out on hand_out.section_id = section.id and hand_out.withdrawn_at is null
    join assignment on assignment.id = hand_out.assignment_id
    join piece on piece.hand_out_id = hand_out.id
    join look_mark said on said.piece_id = piece.id and said.taken_at is null and (said.shown_at is null or said.reported_at is not null)
    where section_teacher.person_id = ${who.id}
    group by hand_out.id, assignment.id, section.id
    order by min(said.said_at)`;
}

/**
 * Checkpoints nobody has said a word to, of work that is not handed in since: asked for on the way, and no hand-in.
 * Indexes: piece_hand_out, checkpoint's unique one.
 */
export function readCheckpointsThatWait({ db, who, now }: ReadCall): Promise<ExtraCheckpoints[]> {
  return db<ExtraCheckpoints[]>`
    select hand_out.id as hand_out_id, full_title(assignment.emoji, assignment.number, assignment.title) as title, section.name as section,
      count(*)::int as count, min(newest.sent_at) as oldest_at, (array_agg(piece.id order by newest.sent_at))[1] as piece_id
    from section_teacher
    join section on section.id = section_teacher.section_id
    join hand_out on hand_out.section_id = section.id and hand_out.withdrawn_at is null and hand_out.put_away_at is null and hand_out.opens_at <= ${now}
    join assignment on assignment.id = hand_out.assignment_id
    join piece on piece.hand_out_id = hand_out.id and piece.state in ('started', 'reworking') and piece.removed_at is null
    cross join lateral (
      select checkpoint.number, checkpoint.sent_at
      from checkpoint
      where checkpoint.piece_id = piece.id and checkpoint.round_number = piece.round
      order by checkpoint.number desc
      limit 1
    ) newest
    where section_teacher.person_id = ${who.id}
      and not exists (
        select
        from message
        where message.piece_id = piece.id and message.author_id <> piece.student_id and message.sent_at >= newest.sent_at
      )
    group by hand_out.id, assignment.id, section.id
    order by min(newest.sent_at)`;
}

/** So much of what was read lately says how fast someone reads. */
const MOST_TAKEN = 400;
const PACE_DAYS = 120;

/** How long pieces took this teacher at the Desk lately, with what kind of work they were. Index: at_desk_person. */
export async function readTaken({ db, who, now }: ReadCall): Promise<Taken[]> {
  const rows = await db<{ handOutId: string; parts: Part[]; seconds: number }[]>`
    select piece.hand_out_id, assignment.parts, at_desk.seconds
    from (
      select piece_id, seconds
      from at_desk
      where person_id = ${who.id} and seconds >= 5 and seen_at > ${new Date(now.getTime() - PACE_DAYS * 86_400_000)}
      order by seen_at desc
      limit ${MOST_TAKEN}
    ) at_desk
    join piece on piece.id = at_desk.piece_id
    join hand_out on hand_out.id = piece.hand_out_id
    join assignment on assignment.id = hand_out.assignment_id
    where exists (select from feedback where feedback.piece_id = piece.id)`;
  return rows.map(({ parts, ...row }) => ({ ...row, kind: kindOfWork(parts) }));
}
