import type { PieceFacts } from "@/core/pieces/life";
import type { FinalScore, RoundsRule } from "@/core/rounds/roundsRule";
import type { ScoreFact } from "@/core/scores/scoreChanges";
import type { LatePolicy } from "@/core/scores/latePolicy";
import type { Scale, ScoreKind } from "@/core/scores/scales";
import type { AnswerFact, HandBackContent } from "@/core/rounds/cameBack";
import type { Answers } from "@/core/questions/question";
import type { RichDoc } from "@/core/text/richDoc";
import type { PieceFlag } from "@/core/pieces/flags";
import type { Shows } from "@/core/ledger/shows";
import { NotFound } from "@/core/refusals";
import type { Call } from "../call";
import type { Db, Tx } from "../db/connection";

export type PieceRow = PieceFacts & {
  id: string;
  handOutId: string;
  studentId: string;
  sectionId: string;
  schoolId: string;
  pointsPossible: string | null;
  /** The due time of the revision that is out; null in every other state. */
  revisionDue: Date | null;
  flag: PieceFlag | null;
  /** A teacher closed its thread. */ threadClosed: boolean;
  /** Which wording of the task the student has; null: the assignment's own. */
  versionId: string | null;
  scoreKind: ScoreKind;
  rubricId: string | null;
  latePolicy: LatePolicy;
  shows: Shows;
  roundsMost: number | null;
  roundsUntil: Date | null;
  finalScore: FinalScore;
  winBackPercent: string;
};

/** How a piece is scored, as the core asks for it. */
export const scaleOf = (piece: Pick<PieceRow, "scoreKind" | "pointsPossible">): Scale => ({
  kind: piece.scoreKind,
  possible: piece.pointsPossible,
});
export const roundsRuleOf = (piece: PieceRow): RoundsRule => ({
  most: piece.roundsMost,
  until: piece.roundsUntil,
  final: piece.finalScore,
  winBackPercent: piece.winBackPercent,
});

/** One piece with all that the rules of its life ask for; index: primary keys. */
async function findPiece(db: Db, pieceId: string, lock: boolean): Promise<PieceRow> {
  const [row] = await db<PieceRow[]>`
    select
      piece.id, piece.hand_out_id, piece.student_id, piece.state, piece.round, piece.excused, piece.flag, piece.version_id,
      hand_out.section_id, course.school_id,
      assignment.expects, assignment.may_take_back, assignment.points_possible, assignment.score_kind, assignment.rubric_id,
      assignment.rounds_most, assignment.rounds_until, assignment.final_score, assignment.win_back_percent,
      hand_out.opens_at, hand_out.grace_minutes, hand_out.late_policy, hand_out.shows,
      times.closes_at, times.due, times.revision_due, times.feedback_begun, piece.left_at is not null as left, piece.thread_closed_at is not null as thread_closed,
      not times.nothing_in and exists (select from version where piece_id = piece.id) as has_hand_in
    from piece
    join piece_times times on times.id = piece.id
    join hand_out on hand_out.id = piece.hand_out_id
    join assignment on assignment.id = hand_out.assignment_id
    join course on course.id = assignment.course_id
    where piece.id = ${pieceId}
    ${lock ? db`for update of piece` : db``}`;
  if (!row) throw new NotFound();
  return row;
}

export const readPiece = (db: Db, pieceId: string): Promise<PieceRow> =>
  findPiece(db, pieceId, false);
/** Locks the piece's row, so that two moves on one piece come one after the other. */
export const lockPiece = (tx: Tx, pieceId: string): Promise<PieceRow> =>
  findPiece(tx, pieceId, true);

/** Writes the outcome of a move, opens the round it leads to if there is none yet, and adds its line of history. */
export async function storeMove(
  call: Call,
  piece: PieceRow,
  to: { state: PieceRow["state"]; round: number },
  line: { kind: string; detail?: Record<string, unknown> },
): Promise<void> {
  const { tx, now } = call;
  if (to.state !== piece.state || to.round !== piece.round) {
    await tx`
      insert into round (piece_id, number, opened_at)
      values (${piece.id}, 1, ${now})
      on conflict (piece_id, number) do nothing`;
    await tx`
      update piece
      set state = ${to.state}, round = ${to.round}, opened_at = coalesce(opened_at, ${now})
      where id = ${piece.id}`;
  }
  await recordEvent(call, {
    handOutId: piece.handOutId,
    pieceId: piece.id,
    kind: line.kind,
    detail: { ...line.detail, from: piece.state, to: to.state, round: to.round },
  });
}

export async function recordEvent(
  { tx, who, now }: Call,
  event: {
    handOutId: string | null;
    pieceId: string | null;
    kind: string;
    detail: Record<string, unknown>;
  },
): Promise<void> {
  await tx`
    insert into event (school_id, hand_out_id, piece_id, actor_id, kind, detail, at)
    values (${who.schoolId}, ${event.handOutId}, ${event.pieceId}, ${who.id}, ${event.kind}, ${tx.json(event.detail as never)}, ${now})`;
}

export type WorkingCopy = { doc: RichDoc; answers: Answers; revision: number; savedAt: Date };

export async function readWorkingCopy(db: Db, pieceId: string): Promise<WorkingCopy | null> {
  const [row] = await db<
    WorkingCopy[]
  >`select doc, answers, revision, saved_at from working_copy where piece_id = ${pieceId}`;
  return row ?? null;
}

export async function writeWorkingCopy(
  { tx, now }: Call,
  pieceId: string,
  { doc, answers }: { doc: RichDoc; answers: Answers },
  revision: number,
): Promise<void> {
  await tx`
    insert into working_copy (piece_id, doc, answers, revision, saved_at)
    values (${pieceId}, ${tx.json(doc as never)}, ${tx.json(answers as never)}, ${revision}, ${now})
    on conflict (piece_id) do update
    set doc = excluded.doc, answers = excluded.answers, revision = excluded.revision, saved_at = excluded.saved_at`;
}

export type VersionRow = {
  id: string;
  roundNumber: number;
  number: number;
  words: number;
  sha256: Buffer;
  receipt: string;
  due: Date;
  graceMinutes: number;
  handedInAt: Date;
  files: { name: string; size: number; sha256: string }[];
  /** The device's own word, where it was pressed without a connection. */ pressedAt: Date | null;
  claimAccepted: boolean;
  /** From when lateness counts. */ countedAt: Date;
  /** What the student says was changed since the last round. */ changes: string;
};

/** What a version holds; read for the one that is looked at, never for all of them. */
export type VersionContent = { doc: RichDoc; text: string; answers: Answers };

/** Index: version's primary key. */
export async function readContent(db: Db, versionId: string): Promise<VersionContent> {
  const [row] = await db<
    VersionContent[]
  >`select doc, text, answers from version_content where id = ${versionId}`;
  return row!;
}

/** The texts of versions, by their ids. Index: version's primary key. */
export async function readTexts(
  db: Db,
  versionIds: readonly (string | null | undefined)[],
): Promise<Map<string, string>> {
  const ids = [...new Set(versionIds.filter((id) => typeof id === "string"))];
  if (ids.length === 0) return new Map();
  const rows = await db<
    { id: string; text: string }[]
  >`select id, text from version_content where id = any(${ids})`;
  return new Map(rows.map((row) => [row.id, row.text]));
}

/** Every version of a piece without what it holds, the earliest first, with the due time that now rules its round. Index: version_piece_id_number_key. */
export async function readVersions(db: Db, pieceId: string): Promise<VersionRow[]> {
  return db<VersionRow[]>`
    select
      version.id, version.round_number, version.number, version.words,
      version.sha256, version.receipt, version.handed_in_at, version.files, version.pressed_at, version.changes, hand_out.grace_minutes,
      claim_accepted.version_id is not null as claim_accepted,
      case when claim_accepted.version_id is null then version.handed_in_at else version.pressed_at end as counted_at,
      coalesce(round.due_at, piece.own_due_at, hand_out.due_at) as due
    from version
    join piece on piece.id = version.piece_id
    join hand_out on hand_out.id = piece.hand_out_id
    join round on round.piece_id = version.piece_id and round.number = version.round_number
    left join claim_accepted on claim_accepted.version_id = version.id
    where version.piece_id = ${pieceId}
    order by version.number`;
}

export type HandBackRow = {
  id: string;
  round: number;
  number: number;
  outcome: "final" | "revise";
  content: HandBackContent;
  nextDueAt: Date | null;
  handedBackAt: Date;
  by: string;
};

/** The hand-backs in force: of each round the newest that was not taken back. Index: hand_back_piece_id_number_key. */
export async function readHandBacks(db: Db, pieceId: string): Promise<HandBackRow[]> {
  return db<HandBackRow[]>`
    select distinct on (hand_back.round_number)
      hand_back.id, hand_back.round_number as round, hand_back.number, hand_back.outcome, hand_back.content,
      hand_back.next_due_at, hand_back.handed_back_at, person.name as by
    from hand_back
    join person on person.id = hand_back.handed_back_by
    where hand_back.piece_id = ${pieceId}
      and not exists (select from hand_back_withdrawn where hand_back_id = hand_back.id)
    order by hand_back.round_number, hand_back.number desc`;
}

/** The score of each round that has one, the first round first: of each the newest that was not taken back. Index: score_piece. */
export async function readScores(
  db: Db,
  pieceId: string,
): Promise<{ round: number; points: string }[]> {
  return db<{ round: number; points: string }[]>`
    select distinct on (round_number) round_number as round, points::text
    from score
    where piece_id = ${pieceId}
      and not exists (select from hand_back_withdrawn where hand_back_id = score.hand_back_id)
    order by round_number, set_at desc, id desc`;
}

/** Every score that was handed back, in order, but those that were taken back: what became of a score. Index: score_piece. */
export async function readScoreFacts(db: Db, pieceId: string): Promise<ScoreFact[]> {
  return db<ScoreFact[]>`
    select score.round_number as round, score.points::text, coalesce(score.shown, trim_scale(score.points)::text || ' / ' || trim_scale(score.possible)::text) as shown,
      person.name as by, score.set_at as at, score.reason
    from score
    join person on person.id = score.set_by
    where score.piece_id = ${pieceId}
      and not exists (select from hand_back_withdrawn where hand_back_id = score.hand_back_id)
    order by score.set_at, score.id`;
}

export async function readMarkAnswers(db: Db, pieceId: string): Promise<AnswerFact[]> {
  return db<
    AnswerFact[]
  >`select mark_id, request, decision from answer where piece_id = ${pieceId}`;
}
