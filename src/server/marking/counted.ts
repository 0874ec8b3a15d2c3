import type { HandBackContent } from "@/core/rounds/cameBack";
import { countedScore } from "@/core/scores/countedScore";
import { isScored, readScore, sayPoints } from "@/core/scores/scales";
import { Invalid } from "@/core/refusals";
import { readCalendar } from "../calendar/calendar";
import type { ReadCall } from "../call";
import { readRubric } from "../rubrics/readRubric";
import { scaleOf, type PieceRow, type VersionRow } from "../life/queries";

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

/** The content of a hand-back with the score that counts and the rubric as it was. */
export async function withScore(
  { db, who }: ReadCall,
  piece: PieceRow,
  version: VersionRow | null,
  content: HandBackContent,
): Promise<HandBackContent> {
  const rubric = await readRubric(db, piece.rubricId);
  const picked = rubric && Object.keys(content.picks ?? {}).length > 0 ? { rubric } : {};
  if (content.points === null || !isScored(piece.scoreKind)) return { ...content, ...picked };
  const shown = understandScore(content.scoreTyped || content.points, piece).shown!;
  const { calendar } = await readCalendar(db, who.schoolId);
  const earned = { points: content.points, shown };
  const school = { calendar, zone: who.zone };
  const counted = countedScore(countingOf(piece), countedHandIn(piece, version), earned, school);
  return { ...content, ...picked, ...counted };
}

/** The hand-in that lateness is counted from; none where a teacher said that it is on time: then it costs nothing. */
export const countedHandIn = (piece: PieceRow, version: VersionRow | null): VersionRow | null =>
  piece.flag === "on time" ? null : version;

/** How a piece's score is counted, as the core asks for it. */
export const countingOf = (piece: PieceRow) => ({
  policy: piece.latePolicy,
  scale: scaleOf(piece),
});
