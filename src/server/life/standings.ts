import type { PieceFlag } from "@/core/pieces/flags";
import {
  countRequests,
  type AnswerFact,
  type HandBackContent,
  type HandBackFact,
} from "@/core/rounds/cameBack";
import type { Db } from "../db/connection";
import { lateness, sayLateness } from "@/core/time/lateness";
import type { MoonView } from "@/core/views/views";
import type { PieceState } from "@/core/pieces/life";
import type { WorkPile } from "@/core/pieces/standing";

/** A row of the view piece_standing, with what lists make of it. */
export type StandingRow = {
  id: string;
  handOutId: string;
  studentId: string;
  sectionId: string;
  state: PieceState;
  round: number;
  excused: boolean;
  seenAt: Date | null;
  due: Date;
  graceMinutes: number;
  lastMoment: Date;
  handedInAt: Date | null;
  /** The moment lateness counts from. */
  countedAt: Date | null;
  late: boolean;
  flag: PieceFlag | null;
  /** A teacher said that it is missing. */ saidMissing: boolean;
  awaited: boolean;
  drafted: boolean;
  asked: boolean;
  pile: WorkPile | null;
};

export function moonOf(
  row: Pick<
    StandingRow,
    "state" | "round" | "late" | "saidMissing" | "awaited" | "lastMoment" | "excused"
  >,
  now: Date,
): MoonView {
  return {
    state: row.state,
    round: row.round,
    late: row.late,
    missing: row.saidMissing || (row.awaited && now > row.lastMoment),
    excused: row.excused,
  };
}

/** Lateness of the hand-in of the round, where it was late; null otherwise. */
export function lateWords(
  row: Pick<StandingRow, "late" | "due" | "graceMinutes" | "countedAt">,
  zone: string,
): string | null {
  return row.late && row.countedAt && lateness(row, row.countedAt).late
    ? sayLateness(row, row.countedAt, zone)
    : null;
}

/** A hand-back as lists need it: all it says but its marks, of which the requests by their ids. */
export type ListedHandBack = Omit<HandBackFact, "content"> & {
  content: Omit<HandBackContent, "marks" | "rubric">;
  requests: string[];
  at: string;
};

/** How many requests of a listed piece wait for the student, and how many are settled. */
export const requestsOf = (
  row: CameBackColumns & { state: PieceState },
): ReturnType<typeof countRequests> =>
  countRequests(
    row.state,
    (row.handBacks ?? []).map(({ content, requests }) => ({ rulings: content.rulings, requests })),
    row.answers ?? [],
  );

export type CameBackColumns = {
  handBacks: ListedHandBack[] | null;
  answers: AnswerFact[] | null;
};

/** Two columns beside a row of piece_standing (named `standing`): its hand-backs in force, one per round, and the answers to them. */
export function whatCameBack(db: Db) {
  return db`
    (
      select jsonb_agg(jsonb_build_object('round', kept.round_number, 'outcome', kept.outcome, 'content', kept.said, 'requests', kept.requests, 'at', kept.handed_back_at) order by kept.round_number)
      from (
        select distinct on (round_number) round_number, outcome, said, requests, handed_back_at
        from hand_back
        where piece_id = standing.id and not exists (select from hand_back_withdrawn where hand_back_id = hand_back.id)
        order by round_number, number desc
      ) kept
    ) as hand_backs,
    (select jsonb_agg(jsonb_build_object('markId', mark_id, 'request', request, 'decision', decision)) from answer where piece_id = standing.id) as answers`;
}

/** A column beside a row of piece_standing (named `standing`): the score of each round that has one, the first first. Index: score_piece. */
export const scoresByRound = (db: Db) => db`
  coalesce((
    select array_agg(kept.points::text order by kept.round_number)
    from (
      select distinct on (round_number) round_number, points
      from score
      where piece_id = standing.id
        and not exists (select from hand_back_withdrawn where hand_back_id = score.hand_back_id)
      order by round_number, set_at desc, id desc
    ) kept
  ), '{}')`;
