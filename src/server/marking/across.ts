import { carryPicks, type Pick, type Picks } from "@/core/rubrics/rubric";
import { scoreFollows } from "@/core/rubrics/scoreFollows";
import { Conflict, NotFound, Refused } from "@/core/refusals";
import type { AcrossCriterion, AcrossLine } from "@/core/views/deskViews";
import { requireOnHandOut } from "../access/standing";
import type { Call, ReadCall } from "../call";
import { readRubric } from "../rubrics/readRubric";
import { openDraft, saveFeedback } from "./draft";
import { feedbackRound } from "@/core/rounds/feedbackRound";
import { readFeedback } from "./queries";
import { moonOf, type StandingRow } from "../life/standings";
import { readTexts } from "../life/queries";
import {
  isHandedBack,
  isHidden,
  readNumbers,
  readTelling,
  shownName,
  withoutNames,
} from "../names/names";
import { readWays } from "./desk/ways";

/**
 * All pieces of a hand-out that are in, for going through them by one criterion: the words of each, where
 * marks about that criterion stand, and what is chosen already.
 *
 * @param asked the criterion's id; the rubric's first where it is none of its
 */
export async function acrossCriterion(
  call: ReadCall,
  handOutId: string,
  asked: string | null,
): Promise<AcrossCriterion> {
  const { db, who, now } = call;
  await requireOnHandOut(db, who, handOutId, "feedback.see");
  const about = await readWays(call, handOutId);
  const rubric = await readRubric(db, about.rubricId);
  if (!rubric) throw new NotFound();
  const criterion =
    rubric.content.criteria.find((c) => c.id === asked) ?? rubric.content.criteria[0]!;
  const rows = await db<(StandingRow & { student: string; handedBack: boolean })[]>`
    select standing.*, shown_name(student) as student, ${isHandedBack(db, db`standing.id`)} as handed_back
    from piece_standing standing
    join person student on student.id = standing.student_id
    where standing.hand_out_id = ${handOutId} and exists (select from version where piece_id = standing.id)
    order by student.sort_name, standing.id`;
  const numbers = about.anonymous ? await readNumbers(db, handOutId) : new Map<string, number>();
  const asRead = await readAcross(call, rows, criterion.id);
  const lines = await Promise.all(
    rows.map(async (row): Promise<AcrossLine | null> => {
      const read = asRead.get(row.id);
      if (!read) return null;
      const hidden = {
        anonymous: about.anonymous,
        handedBack: row.handedBack,
        number: numbers.get(row.id) ?? 0,
      };
      const line = {
        pieceId: row.id,
        student: shownName(row.student, hidden),
        moon: moonOf(row, now),
        text: read.text,
        passages: read.passages,
        picks: carryPicks(read.picks, rubric.content).kept,
        revision: read.revision,
        locked: row.state === "reworking" ? "out for revision, and begun" : null,
      };
      return isHidden(hidden) ? withoutNames(line, await readTelling(db, row.id, hidden)) : line;
    }),
  );
  return {
    handOut: about.handOut,
    section: about.section,
    rubric: { name: rubric.name, rubric: rubric.content },
    criterionId: criterion.id,
    lines: lines
      .filter((l) => l !== null)
      .sort((a, b) =>
        about.anonymous ? a.student.localeCompare(b.student, "en", { numeric: true }) : 0,
      ),
  };
}

type Across = {
  text: string;
  passages: AcrossLine["passages"];
  picks: Picks;
  revision: number;
};

/** What each piece's newest feedback is about, of all pieces in a few statements. Indexes: version's and feedback's keys, mark_piece. */
async function readAcross(
  { db }: ReadCall,
  rows: readonly StandingRow[],
  criterionId: string,
): Promise<Map<string, Across>> {
  if (rows.length === 0) return new Map();
  const ids = rows.map((row) => row.id);
  const [versions, feedback, marks] = await Promise.all([
    db<
      { id: string; pieceId: string; roundNumber: number }[]
    >`select id, piece_id, round_number from version where piece_id = any(${ids}) order by number`,
    db<
      { pieceId: string; roundNumber: number; picks: Picks; revision: number }[]
    >`select piece_id, round_number, picks, revision from feedback where piece_id = any(${ids})`,
    db<{ pieceId: string; roundNumber: number; start: number; end: number; body: string }[]>`
      select piece_id, round_number, start_at as start, end_at as end, body
      from mark
      where piece_id = any(${ids}) and criterion_id = ${criterionId} and place is null and deleted_at is null
      order by start_at, created_at, id`,
  ]);
  const rounds = rows.flatMap((row) => {
    const own = versions.filter((v) => v.pieceId === row.id);
    const { round, version } = feedbackRound(row, own);
    return version ? [{ pieceId: row.id, round, versionId: version.id }] : [];
  });
  const texts = await readTexts(
    db,
    rounds.map((r) => r.versionId),
  );
  return new Map(
    rounds.map(({ pieceId, round, versionId }) => {
      const here = <T extends { pieceId: string; roundNumber: number }>(list: readonly T[]) =>
        list.filter((row) => row.pieceId === pieceId && row.roundNumber === round);
      const [given] = here(feedback);
      return [
        pieceId,
        {
          text: texts.get(versionId)!,
          passages: here(marks).map(({ start, end, body }) => ({ start, end, body })),
          picks: given?.picks ?? {},
          revision: given?.revision ?? 0,
        },
      ];
    }),
  );
}

/**
 * Chooses (or takes back) the level of one criterion in a piece's draft and leaves everything else as it is.
 * When every criterion has one, a score that is empty or was the rubric's sum follows.
 *
 * @throws Conflict when a co-teacher changed the draft since `revision`
 */
export async function choosePick(
  call: Call,
  pieceId: string,
  { criterionId, pick }: { criterionId: string; pick: Pick | null },
  revision: number,
): Promise<{ revision: number; picks: Record<string, Pick>; score: string }> {
  const { piece, round } = await openDraft(call, pieceId);
  const stored = (await readFeedback(call.tx, pieceId, round))!;
  if (piece.state === "reworking")
    throw new Refused(
      "The student has begun to revise; this round’s feedback stays as it was handed back.",
    );
  if (
    stored.revision !== revision &&
    stored.picks[criterionId]?.points !== pick?.points &&
    stored.changedBy !== call.who.id
  ) {
    throw new Conflict(
      `${stored.changedByName} changed this draft since you opened it. What is there now is shown.`,
      { picks: stored.picks, revision: stored.revision },
    );
  }
  const rubric = await readRubric(call.tx, piece.rubricId);
  if (!rubric?.content.criteria.some((c) => c.id === criterionId)) throw new NotFound();
  const others = Object.fromEntries(
    Object.entries(stored.picks).filter(([id]) => id !== criterionId),
  );
  const picks = pick ? { ...others, [criterionId]: pick } : others;
  const score = scoreFollows(
    rubric.content,
    { before: stored.picks, after: picks },
    stored.scoreTyped,
    piece.pointsPossible,
  );
  const saved = await saveFeedback(
    call,
    pieceId,
    { overall: stored.overall, score, picks, reason: stored.scoreReason },
    stored.revision,
  );
  return { revision: saved.revision, picks, score };
}
