import { itemFigures, type ItemScores } from "@/core/figures/items";
import { handInCurve, spreadOf } from "@/core/figures/spread";
import { sayDay } from "@/core/time/words";
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
  const [days, scores, { questions }] = await Promise.all([
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
  ]);
  const today = dayOf(call.now, who.zone);
  return {
    handIns: handInCurve(days.map(({ day }) => day)).map((line) => ({
      ...line,
      day: sayDay(line.day, today),
    })),
    scores: spreadOf(scores.map(({ percent }) => percent)),
    items: itemFigures(sharesOf(questions)),
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
