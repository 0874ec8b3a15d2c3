import { itemFigures, type ItemScores } from "@/core/figures/items";
import { handInCurve, spreadOf } from "@/core/figures/spread";
import { quartilesOf } from "@/core/figures/quartiles";
import { SCALE } from "@/core/handouts/plan";
import { sayDay, saySpan } from "@/core/time/words";
import { dayOf } from "@/core/time/zone";
import type { QuestionGroups } from "@/core/views/deskViews";
import type { SheetFigures } from "@/core/views/figureViews";
import { requireOnHandOut } from "../access/standing";
import type { ReadCall } from "../call";
import { acrossQuestions } from "../marking/judgements";

/**
 * A hand-out in figures: when work came in, how scores lie, and how each question did. No names. Indexes: piece by
 * hand-out, version's unique one, score_piece.
 */
export async function readFigures(call: ReadCall, handOutId: string): Promise<SheetFigures> {
  const { db, who } = call;
  await requireOnHandOut(db, who, handOutId, "feedback.see");
  const [days, scores, { questions }, waits, went] = await Promise.all([
    db<{ day: string }[]>`
      select to_char(min(version.handed_in_at) at time zone ${who.zone}, 'YYYY-MM-DD') as day
      from piece
      join version on version.piece_id = piece.id
      where piece.hand_out_id = ${handOutId} and piece.removed_at is null
      group by piece.id`,
    db<{ percent: number }[]>`
      select distinct on (score.piece_id) (100 * score.points / nullif(score.possible, 0))::float8 as percent
      from piece
      join score on score.piece_id = piece.id
      where piece.hand_out_id = ${handOutId} and piece.removed_at is null and score.possible > 0
        and not exists (select from hand_back_withdrawn where hand_back_id = score.hand_back_id)
      order by score.piece_id, score.round_number desc, score.set_at desc, score.id desc`,
    acrossQuestions(call, handOutId),
    readWaits(call, handOutId),
    readWent(call, handOutId),
  ]);
  const today = dayOf(call.now, who.zone);
  return {
    handIns: handInCurve(days.map(({ day }) => day)).map((line) => ({
      ...line,
      day: sayDay(line.day, today),
    })),
    scores: spreadOf(scores.map(({ percent }) => percent)),
    items: itemFigures(sharesOf(questions)),
    turnaround: sayWaits(waits),
    went,
  };
}

/** How long each round that was handed in waited until it first went back, in milliseconds, in rising order. */
async function readWaits({ db }: ReadCall, handOutId: string): Promise<number[]> {
  const rows = await db<{ ms: number }[]>`
    select (1000 * extract(epoch from back.at - came.at))::float8 as ms
    from piece
    join lateral (
      select round_number, max(handed_in_at) as at from version where piece_id = piece.id group by round_number
    ) came on true
    join lateral (
      select min(handed_back_at) as at
      from hand_back
      where hand_back.piece_id = piece.id and hand_back.round_number = came.round_number
        and hand_back.handed_back_at >= came.at
    ) back on back.at is not null
    where piece.hand_out_id = ${handOutId} and piece.removed_at is null
    order by ms`;
  return rows.map(({ ms }) => ms);
}

function sayWaits(waits: readonly number[]): SheetFigures["turnaround"] {
  if (waits.length === 0) return null;
  const say = (ms: number) => saySpan(new Date(0), new Date(ms), "UTC");
  return {
    backs: waits.length,
    ...{ middle: say(quartilesOf(waits).median), longest: say(waits.at(-1)!) },
  };
}

/** What was said with the newest hand-in of each piece; numbers alone, since who said it is at the Desk. */
async function readWent({ db }: ReadCall, handOutId: string): Promise<SheetFigures["went"]> {
  const [[asked], said] = await Promise.all([
    db<{ question: string | null; choices: string[]; answers: string }[]>`
      select self_assessment->>'question' as question, self_assessment->>'answers' as answers,
        coalesce(self_assessment->'choices', '[]') as choices
      from hand_out join assignment on assignment.id = hand_out.assignment_id
      where hand_out.id = ${handOutId} and self_assessment is not null`,
    db<{ choice: string | null; words: boolean }[]>`
      select distinct on (piece.id) self_assessment.choice, self_assessment.words <> '' as words
      from piece
      join version on version.piece_id = piece.id
      join self_assessment on self_assessment.version_id = version.id
      where piece.hand_out_id = ${handOutId} and piece.removed_at is null
      order by piece.id, version.number desc`,
  ]);
  if (!asked?.question || said.length === 0) return null;
  const offered = asked.answers === "scale" ? SCALE : asked.choices;
  // What was offered when it was said counts too, where the choices were changed since.
  const all = new Set([...offered, ...said.flatMap(({ choice }) => choice ?? [])]);
  return {
    question: asked.question,
    choices: [...all].map((choice) => ({
      ...{ choice, count: said.filter((one) => one.choice === choice).length },
    })),
    words: said.filter(({ words }) => words).length,
  };
}

/** Of each question what each student got for it, as a share; one who gave no answer got nothing for it. */
function sharesOf(questions: readonly QuestionGroups[]): ItemScores[] {
  const pieces = [
    ...new Set(
      questions.flatMap((q) => q.groups.flatMap((g) => g.given.map((one) => one.pieceId))),
    ),
  ];
  return questions.map(({ questionId, number, text, possible, groups }) => {
    const points = new Map(
      groups.flatMap((group) =>
        group.given.map((one) => [
          one.pieceId,
          one.own ??
            group.points ??
            group.keyPoints ??
            (group.state === "nothing given" ? "0" : null),
        ]),
      ),
    );
    return {
      questionId,
      text: `${number}. ${text}`,
      shares: pieces.map((id) => {
        const got = points.get(id) ?? null;
        return got === null || Number(possible) === 0 ? null : Number(got) / Number(possible);
      }),
    };
  });
}
