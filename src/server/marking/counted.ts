import type { HandBackContent } from "@/core/rounds/cameBack";
import { deduct, sayDeduction, startedUnits, type Place } from "@/core/scores/latePolicy";
import { isScored, readScore, sayPoints } from "@/core/scores/scales";
import { Invalid } from "@/core/refusals";
import type { Rubric } from "@/core/rubrics/rubric";
import { readCalendar } from "../calendar/calendar";
import type { Person } from "../call";
import type { Db } from "../db/connection";
import { scaleOf, type PieceRow, type VersionRow } from "../pieces/queries";

/** What is typed, as points and in words; empty is no score. @throws Invalid when it cannot be understood */
export function understandScore(
  typed: string,
  piece: Pick<PieceRow, "scoreKind" | "pointsPossible">,
): { points: string | null; words: string | null; shown: string | null } {
  if (typed === "") return { points: null, words: null, shown: null };
  const read = readScore(typed, scaleOf(piece));
  if (!read.ok) throw new Invalid({ score: read.why });
  const shown = read.shown ?? sayPoints(read.points, scaleOf(piece));
  return { points: read.points, shown, words: [shown, read.note].filter(Boolean).join(" · ") };
}

export type Counted = { points: string; raw: string; shown: string; deduction: string };

/** The score that counts: what was earned, less what the hand-out's late policy takes off for this version. */
export function countedScore(
  piece: PieceRow,
  version: VersionRow | null,
  raw: string,
  shown: string,
  place: Place,
): Counted {
  const policy = piece.latePolicy;
  if (!version || policy.kind !== "deduct" || piece.pointsPossible === null)
    return { points: raw, raw, shown, deduction: "" };
  const units = startedUnits(version, version.countedAt, policy.per, place);
  const found = deduct(policy, units, raw, piece.pointsPossible);
  const deduction = sayDeduction(policy, found, raw, piece.pointsPossible);
  return {
    points: found.points,
    raw,
    shown: deduction ? sayPoints(found.points, scaleOf(piece)) : shown,
    deduction,
  };
}

/** The content of a hand-back with the score that counts and the rubric as it was. */
export async function withScore(
  db: Db,
  who: Person,
  piece: PieceRow,
  version: VersionRow | null,
  content: HandBackContent,
): Promise<HandBackContent> {
  const rubric = await readRubric(db, piece.rubricId);
  const picked = rubric && Object.keys(content.picks ?? {}).length > 0 ? { rubric } : {};
  if (content.points === null || !isScored(piece.scoreKind)) return { ...content, ...picked };
  const shown = understandScore(content.scoreTyped || content.points, piece).shown!;
  const { calendar } = await readCalendar(db, who.schoolId);
  return {
    ...content,
    ...picked,
    ...countedScore(piece, version, content.points, shown, { calendar, zone: who.zone }),
  };
}

export async function readRubric(
  db: Db,
  rubricId: string | null,
): Promise<{ id: string; name: string; content: Rubric } | null> {
  if (!rubricId) return null;
  const [row] = await db<
    { id: string; name: string; content: Rubric }[]
  >`select id, name, content from rubric where id = ${rubricId}`;
  return row ?? null;
}
