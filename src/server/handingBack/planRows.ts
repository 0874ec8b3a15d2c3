import type { Outcome } from "@/core/handingBack/outcome";
import type { Part } from "@/core/handouts/parts";
import type { Picks } from "@/core/rubrics/rubric";
import type { ScoreKind } from "@/core/scores/scales";
import type { ReadCall } from "../call";
import { whenItGoes } from "../life/goingBack";
import { whatCameBack, type CameBackColumns, type StandingRow } from "../life/standings";
import { hiddenNow } from "../names/names";

/** A draft of a round, with what its readiness follows from. */
export type Draft = StandingRow &
  CameBackColumns & {
    pieceId: string;
    student: string;
    section: string;
    hidden: boolean;
    scoreKind: ScoreKind;
    pointsPossible: string | null;
    rubricId: string | null;
    expects: "work" | "nothing";
    overall: string;
    scoreTyped: string;
    points: string | null;
    picks: Picks;
    outcome: Outcome | null;
    nextDueAt: Date | null;
    ruled: string[];
    marks: number;
    requests: number;
    voices: number;
    silent: number;
    files: number;
    asksQuestions: boolean;
    /** Something of the draft is newer than what was handed back in this round. */
    touchedSince: boolean | null;
    batchId: string | null;
    goesAt: Date | null;
  };

/** The hand-outs of the same task that this teacher may hand back. */
export function readHandOuts({ db, who }: ReadCall, handOutId: string) {
  return db<
    {
      id: string;
      section: string;
      sectionId: string;
      title: string;
      drafts: number;
      scoreKind: ScoreKind;
      rubricId: string | null;
      expects: "work" | "nothing";
      roundsMost: number | null;
      parts: Part[];
    }[]
  >`
    select
      hand_out.id, section.name as section, section.id as section_id,
      full_title(assignment.emoji, assignment.number, assignment.title) as title,
      assignment.score_kind, assignment.rubric_id, assignment.expects, assignment.rounds_most, assignment.parts,
      (select count(*)::int from every_piece where hand_out_id = hand_out.id and drafted and removed_at is null) as drafts
    from hand_out
    join assignment on assignment.id = hand_out.assignment_id
    join section on section.id = hand_out.section_id
    join section_teacher teacher on teacher.section_id = section.id and teacher.person_id = ${who.id}
    where hand_out.withdrawn_at is null and (teacher.role = 'owner' or teacher.may_hand_back)
      and hand_out.assignment_id = (select assignment_id from hand_out where id = ${handOutId})
    order by section.name`;
}

/** Drafts of the present round, in the order of names. Indexes: piece by hand-out, feedback's key, mark_round. */
export function readDrafts({ db }: ReadCall, handOutIds: readonly string[]): Promise<Draft[]> {
  return db<Draft[]>`
    select
      standing.*, standing.id as piece_id, shown_name(student) as student, section.name as section,
      ${hiddenNow(db, db`standing.id`)} as hidden,
      assignment.score_kind, assignment.points_possible, assignment.rubric_id, assignment.expects,
      exists (select from assignment_questions where assignment_id = assignment.id) as asks_questions,
      feedback.overall, feedback.score_typed, feedback.points, feedback.picks, feedback.outcome, feedback.next_due_at,
      coalesce((select array_agg(mark_id) from ruling where piece_id = standing.id and round_number = standing.round), '{}') as ruled,
      marks.*,
      (
        select count(*)::int from feedback_file
        where piece_id = standing.id and round_number = standing.round
      ) as files,
      last.handed_back_at < greatest(feedback.changed_at, marks.touched_at) as touched_since,
      waiting.batch_id, waiting.goes_at,
      ${whatCameBack(db)}
    from every_piece standing
    join feedback on feedback.piece_id = standing.id and feedback.round_number = standing.round
    join person student on student.id = standing.student_id
    join hand_out on hand_out.id = standing.hand_out_id
    join assignment on assignment.id = hand_out.assignment_id
    join section on section.id = standing.section_id
    cross join lateral (
      select
        count(*) filter (where deleted_at is null)::int as marks,
        count(*) filter (where deleted_at is null and nature = 'request')::int as requests,
        count(clip_id) filter (where deleted_at is null)::int as voices,
        count(*) filter (where deleted_at is null and sound.state = 'waiting')::int as silent,
        max(mark.changed_at) as touched_at
      from mark
      left join clip on clip.id = mark.clip_id
      left join sound on sound.sha256 = clip.sha256
      where mark.piece_id = standing.id and mark.round_number = standing.round
    ) marks
    left join lateral (
      select handed_back_at
      from hand_back
      where piece_id = standing.id and round_number = standing.round
        and not exists (select from hand_back_withdrawn where hand_back_id = hand_back.id)
      order by number desc
      limit 1
    ) last on true
    ${whenItGoes(db)}
    where standing.hand_out_id = any(${handOutIds as string[]}) and standing.removed_at is null
      and (standing.drafted or standing.state in ('handed_back', 'to_revise') and last.handed_back_at < greatest(feedback.changed_at, marks.touched_at))
    order by student.sort_name, standing.id`;
}

/** How many came in of which nothing is written. */
export async function readUnread({ db }: ReadCall, handOutIds: readonly string[]): Promise<number> {
  const [row] = await db<{ n: number }[]>`
    select count(*)::int as n
    from every_piece
    where hand_out_id = any(${handOutIds as string[]}) and removed_at is null
      and state = 'handed_in' and not drafted`;
  return row!.n;
}
