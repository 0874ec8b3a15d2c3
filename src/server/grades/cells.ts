import { finalScore, type FinalScore } from "@/core/rounds/roundsRule";
import { trimmed } from "@/core/scores/decimal";
import { sayPoints, type Scale } from "@/core/scores/scales";
import { EMPTY_CELL, type CellWork } from "@/core/ledger/cell";
import type { CellNoted, LedgerCell } from "@/core/views/ledgerViews";
import type { ReadCall } from "../call";
import { apart } from "../db/gathering";
import type { StandingRow } from "../life/standings";
import { hiddenNow, unlinked } from "../names/names";
import { draftsHandIn, isUntold, joinDrafts } from "./drafts";

/** How a column's scores are shown and counted over the rounds. */
export type CellScale = { scale: Scale; finalScore: FinalScore; winBackPercent: string };

/** What a cell shows of its piece, and nothing else: a Ledger can have thousands of them. */
type Standing = Pick<
  StandingRow,
  ("id" | "handOutId" | "studentId" | "state" | "round" | "late") | ("excused" | "flag")
>;

export type CellRow = Standing & {
  /** By its dates, or because a teacher said so. */ missing: boolean;
  hidden: boolean;
  scoreTyped: string | null;
  untold: boolean;
  draftPoints: string | null;
  draftRound: number | null;
  /** The newest hand-in of an untold draft's round; its times as ISO 8601 text. */ handIn: {
    due: string;
    graceMinutes: number;
    countedAt: string;
  } | null;
  changedBy: string | null;
  /** Private notes on the piece. */ kept: number;
  /** The overall note of the draft has words. */ noteToStudent: boolean;
};
export type RoundScore = { pieceId: string; round: number; points: string; shown: string | null };
export type Cells = { rows: CellRow[]; scores: RoundScore[] };

/** Which pieces of a section: all, some, or those of some students. */
export type Only = { pieceIds?: readonly string[]; studentIds?: readonly string[] };

/** The pieces of a section with their drafts, and the scores that were handed back: what cells and grades are made of. */
export async function readCells(
  call: ReadCall,
  sectionId: string,
  only: Only = {},
): Promise<Cells> {
  const [rows, scores] = await Promise.all([
    readCellRows(call, sectionId, only),
    readRoundScores(call, sectionId, only),
  ]);
  return { rows, scores };
}

/** The pieces alone. Indexes: hand_out_section, piece's keys, private_note_student. */
export function readCellRows(
  { db: page, now }: ReadCall,
  sectionId: string,
  only: Only,
): Promise<CellRow[]> {
  // Thousands of rows take longer in one statement with others than by themselves beside them.
  const db = apart(page);
  return db<CellRow[]>`
    select
      standing.id, standing.hand_out_id, standing.student_id, standing.state, standing.round, standing.late,
      standing.said_missing or (standing.awaited and standing.last_moment < ${now}) as missing,
      standing.excused, standing.flag,
      ${hiddenNow(db, db`standing.id`)} as hidden,
      draft.score_typed, draft.points::text as draft_points, ${isUntold(db)} as untold, changer.name as changed_by,
      coalesce(kept.notes, 0) as kept, coalesce(draft.overall, '') <> '' as note_to_student,
      draft.round_number as draft_round, ${draftsHandIn(db)} as hand_in
    from piece_standing standing
    join hand_out on hand_out.id = standing.hand_out_id
    ${joinDrafts(db)}
    left join person changer on changer.id = draft.changed_by
    left join (
      select piece_id, count(*)::int as notes
      from private_note
      where section_id = ${sectionId} and piece_id is not null and deleted_at is null
      group by piece_id
    ) kept on kept.piece_id = standing.id
    where standing.hand_out_id = any(array(select id from hand_out where section_id = ${sectionId}))
      ${only.pieceIds ? db`and standing.id = any(${[...only.pieceIds]})` : db``}
      ${only.studentIds ? db`and standing.student_id = any(${[...only.studentIds]})` : db``}`;
}

/** Of each round the newest that stands, the first round first. Indexes: hand_out_section, score_piece. */
function readRoundScores({ db }: ReadCall, sectionId: string, only: Only): Promise<RoundScore[]> {
  return db<RoundScore[]>`
    select distinct on (score.piece_id, score.round_number) score.piece_id, score.round_number as round, trim_scale(score.points)::text as points, score.shown
    from score
    join piece on piece.id = score.piece_id
    join hand_out on hand_out.id = piece.hand_out_id
    where hand_out.section_id = ${sectionId}
      ${only.pieceIds ? db`and piece.id = any(${[...only.pieceIds]})` : db``}
      ${only.studentIds ? db`and piece.student_id = any(${[...only.studentIds]})` : db``}
      and not exists (select from hand_back_withdrawn where hand_back_id = score.hand_back_id)
    order by score.piece_id, score.round_number, score.set_at desc, score.id desc`;
}

/** Scores by their pieces, each in the order of its rounds. */
export function byPiece(scores: readonly RoundScore[]): Map<string, RoundScore[]> {
  const rounds = new Map<string, RoundScore[]>();
  for (const score of scores) {
    const own = rounds.get(score.pieceId);
    if (own) own.push(score);
    else rounds.set(score.pieceId, [score]);
  }
  return rounds;
}

/** What is typed of a piece, as it is stored. */
export const workOf = ({ scoreTyped, flag, excused }: CellRow): CellWork => ({
  score: scoreTyped ?? "",
  ...{ flag, excused },
});

/** A cell of the Ledger. One that is read without its name is not to be found from there, and shows no draft. */
export function cellOf(row: CellRow, column: CellScale, rounds: readonly RoundScore[]): LedgerCell {
  const { state, round, late, missing, excused } = row;
  const moon = { state, round, late, missing, excused };
  const score = countedOver(rounds, column);
  if (row.hidden)
    return {
      ...{ pieceId: null, work: EMPTY_CELL, score, draft: null, noted: null },
      moon: unlinked(moon),
    };
  return {
    pieceId: row.id,
    work: workOf(row),
    score,
    draft: row.untold ? sayDraft(row.draftPoints, column.scale) : null,
    noted: row.kept > 0 || row.noteToStudent ? notedOf(row) : null,
    moon,
  };
}

const notedOf = ({ kept, noteToStudent }: CellRow): CellNoted => ({
  ...{ kept, toStudent: noteToStudent },
});

function sayDraft(points: string | null, scale: Scale): string {
  if (points === null) return "";
  return scale.kind === "points" ? trimmed(points) : sayPoints(points, scale);
}

/** The score that counts over the rounds: as points, or as its own scale shows it. */
function countedOver(
  rounds: readonly RoundScore[],
  { scale, finalScore: final, winBackPercent }: CellScale,
): string | null {
  const points = finalScore(
    rounds.map((r) => r.points),
    { final, winBackPercent },
  );
  if (points === null) return null;
  if (scale.kind === "points") return trimmed(points);
  const latest = rounds.at(-1)!;
  return latest.shown !== null && trimmed(latest.points) === trimmed(points)
    ? latest.shown
    : sayPoints(points, scale);
}
