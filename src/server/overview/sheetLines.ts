import { finalScore, type FinalScore } from "@/core/rounds/roundsRule";
import { sayFeedback, sayReadBy } from "@/core/handingBack/say";
import { sayPoints, type ScoreKind } from "@/core/scores/scales";
import { instantToWall } from "@/core/time/zone";
import { sayTime } from "@/core/time/words";
import type { SheetLine } from "@/core/views/overviewViews";
import { sayState } from "@/core/views/states";
import type { Fragment } from "postgres";
import type { ReadCall } from "../call";
import type { Db } from "../db/connection";
import { draftTouchedAt, feedbackFacts, scoreToCome, whenItGoes } from "../life/goingBack";
import { hiddenNow, unlinked } from "../names/names";
import {
  lateWords,
  moonOf,
  requestsOf,
  scoresByRound,
  whatCameBack,
  type CameBackColumns,
  type StandingRow,
} from "../life/standings";

export type Line = StandingRow &
  CameBackColumns & {
    title: string;
    category: string | null;
    hidden: boolean;
    byName: string;
    student: string;
    ownDueAt: Date | null;
    ownDueFrom: "teacher" | "group" | null;
    leftAt: Date | null;
    versionId: string | null;
    version: string | null;
    finals: string[];
    checkpoints: number;
    goesAt: Date | null;
    touchedAt: Date | null;
    scoreComes: { at: string | null } | null;
    scoreKind: ScoreKind;
    pointsPossible: string | null;
    finalScore: FinalScore;
    winBackPercent: string;
  };

/** The lines of a sheet, in the order of names. Index: piece by hand-out. */
export const readLines = ({ db }: ReadCall, handOutId: string): Promise<Line[]> =>
  linesWhere(db, db`standing.hand_out_id = ${handOutId}`);

/** Lines of pieces that fit, each as on its sheet; `standing` is the piece. */
export function linesWhere(db: Db, fits: Fragment): Promise<Line[]> {
  return db<Line[]>`
    select
      standing.*, shown_name(student) as student, piece.by_name, ${hiddenNow(db, db`standing.id`)} as hidden, piece.own_due_at, piece.version_id, wording.name as version, category.name as category, assignment.final_score, assignment.win_back_percent,
      ${scoresByRound(db)} as finals,
      waiting.goes_at,
      ${draftTouchedAt(db)} as touched_at,
      ${scoreToCome(db)} as score_comes,
      (select count(*)::int from checkpoint where piece_id = standing.id and round_number = standing.round and standing.state in ('started', 'reworking')) as checkpoints,
      ${whatCameBack(db)}
    from every_piece standing
    join person student on student.id = standing.student_id
    join piece on piece.id = standing.id
    join hand_out on hand_out.id = standing.hand_out_id
    join assignment on assignment.id = hand_out.assignment_id
    left join category on category.id = hand_out.category_id
    left join assignment_version wording on wording.id = piece.version_id
    ${whenItGoes(db)}
    where ${fits} and standing.removed_at is null
    order by student.sort_name, standing.id`;
}

/** When it went back last, and how many have read it; null where nothing did. */
export function readByWords(lines: readonly Line[], now: Date, zone: string): string | null {
  const back = lines.flatMap((line) => {
    const at = line.handBacks?.at(-1)?.at;
    return at === undefined || line.hidden ? [] : [{ at: new Date(at), seenAt: line.seenAt }];
  });
  if (back.length === 0) return null;
  const lastAt = back.reduce((last, { at }) => (at > last ? at : last), back[0]!.at);
  const read = back.filter(({ at, seenAt }) => seenAt !== null && seenAt >= at).length;
  return sayReadBy({ lastAt, back: back.length, read }, now, zone);
}

export function lineOf(line: Line, now: Date, zone: string): SheetLine {
  const seen = openLineOf(line, now, zone);
  if (!line.hidden) return seen;
  const moon = unlinked(seen.moon);
  return {
    ...seen,
    ...{ pieceId: line.byName, onDesk: false, moon, state: sayState(moon) },
    ...{ handedIn: null, lateness: null, openRequests: 0, settledRequests: 0, checkpoints: 0 },
    ...{ score: null, feedback: "", unread: false, flag: null },
  };
}

function openLineOf(line: Line, now: Date, zone: string): SheetLine {
  const moon = moonOf(line, now);
  const handBacks = line.handBacks ?? [];
  const last = handBacks.at(-1);
  const requests = requestsOf(line);
  const final = finalScore(line.finals, {
    final: line.finalScore,
    winBackPercent: line.winBackPercent,
  });
  return {
    studentId: line.studentId,
    unread: last !== undefined && (line.seenAt === null || line.seenAt < new Date(last.at)),
    excused: line.excused,
    flag: line.flag,
    ownDue:
      line.ownDueAt && line.ownDueFrom
        ? {
            words: sayTime(line.ownDueAt, now, zone),
            wall: instantToWall(line.ownDueAt, zone),
            from: line.ownDueFrom,
          }
        : null,
    version: line.version,
    versionId: line.versionId,
    left: line.leftAt !== null,
    pieceId: line.id,
    onDesk: true,
    student: line.student,
    moon,
    state: sayState(moon),
    handedIn: line.handedInAt && sayTime(line.handedInAt, now, zone),
    lateness: lateWords(line, zone),
    openRequests: requests.open,
    settledRequests: requests.settled,
    checkpoints: line.checkpoints,
    score:
      final === null
        ? null
        : sayPoints(final, { kind: line.scoreKind, possible: line.pointsPossible }),
    drafted: line.drafted,
    feedback: sayFeedback(feedbackFacts(line, last ? new Date(last.at) : null), now, zone),
  };
}
