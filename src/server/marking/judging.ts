import { toDecimal } from "@/core/scores/decimal";
import Big from "big.js";
import { NotFound, Invalid } from "@/core/refusals";
import type { Touched, AcrossQuestions } from "@/core/views/deskViews";
import { requireOnHandOut, requireOnPiece } from "../access/standing";
import type { Call } from "../call";
import type { Db } from "../db/connection";
import { readPiece } from "../life/queries";
import { answerSheets } from "../questions/answers";
import { openDraft } from "./draft";
import type { HandedIn } from "./judgements";
import { acrossQuestions, readSets, readHandedIn, readJudgements, holding } from "./judgements";

export type GivenJudgement = {
  partId: string;
  questionId: string;
  /** An answer as `answerKey` makes it. */ key: string;
  points: string | null;
};

/** Says what all answers like this are worth (null: what the key says again), and whom that touched. */
export async function judgeAll(
  call: Call,
  handOutId: string,
  given: GivenJudgement,
): Promise<{ touched: Touched; questions: AcrossQuestions }> {
  const { tx, who, now } = call;
  await requireOnHandOut(tx, who, handOutId, "feedback.draft");
  await requireQuestion(tx, handOutId, given);
  const touched = await touching(call, handOutId, async () => {
    if (given.points === null)
      await tx`delete from answer_judgement where hand_out_id = ${handOutId} and part_id = ${given.partId} and question_id = ${given.questionId} and key = ${given.key}`;
    else {
      await tx`
        insert into answer_judgement (hand_out_id, part_id, question_id, key, points, judged_by, judged_at)
        values (${handOutId}, ${given.partId}, ${given.questionId}, ${given.key}, ${given.points}, ${who.id}, ${now})
        on conflict (hand_out_id, part_id, question_id, key) do update
        set points = excluded.points, judged_by = excluded.judged_by, judged_at = excluded.judged_at`;
    }
  });
  return { touched, questions: await acrossQuestions(call, handOutId) };
}

/** Says what one student's answer is worth: other points, what the key says (`alone` with null), or what holds for all again. */
export async function judgeOne(
  call: Call,
  pieceId: string,
  given: { partId: string; questionId: string; alone: boolean; points: string | null },
): Promise<{ touched: Touched; questions: AcrossQuestions }> {
  const { tx, who, now } = call;
  await requireOnPiece(call, pieceId, "feedback.draft");
  const { handOutId } = await readPiece(tx, pieceId);
  await requireQuestion(tx, handOutId, given);
  const touched = await touching(call, handOutId, async () => {
    await tx`delete from piece_judgement where piece_id = ${pieceId} and part_id = ${given.partId} and question_id = ${given.questionId}`;
    if (given.alone) {
      await tx`
        insert into piece_judgement (piece_id, part_id, question_id, points, judged_by, judged_at)
        values (${pieceId}, ${given.partId}, ${given.questionId}, ${given.points}, ${who.id}, ${now})`;
    }
  });
  return { touched, questions: await acrossQuestions(call, handOutId) };
}

async function requireQuestion(
  db: Db,
  handOutId: string,
  { partId, questionId, points }: { partId: string; questionId: string; points: string | null },
): Promise<void> {
  const question = (await readSets(db, handOutId))
    .find((s) => s.partId === partId)
    ?.questions.find((q) => q.id === questionId);
  if (!question) throw new NotFound();
  if (points !== null && new Big(points).gt(new Big(toDecimal(question.points)).times(2)))
    throw new Invalid({
      points: `${points} is more than twice the ${question.points} possible points.`,
    });
}

/**
 * Makes a change and says which pieces' sums it moved. A draft whose score was the sum by the key follows to
 * the new sum; where the teacher typed another, or it is handed back, the score stays and is named.
 */
async function touching(
  call: Call,
  handOutId: string,
  change: () => Promise<void>,
): Promise<Touched> {
  const { tx } = call;
  const [sets, handedIn] = await Promise.all([
    readSets(tx, handOutId),
    readHandedIn(tx, handOutId),
  ]);
  const sums = async () => {
    const judgements = await readJudgements(tx, handOutId);
    return new Map(
      handedIn.map((h) => {
        const sheets = answerSheets(
          { parts: sets.map((s) => ({ id: s.partId }) as never), sets },
          h.answers,
          [],
          holding(sets, h, judgements),
        );
        return [
          h.pieceId,
          {
            points: sheets.reduce((sum, s) => sum.plus(s.points), new Big(0)).toString(),
            possible: sheets.reduce((sum, s) => sum.plus(s.possible), new Big(0)).toString(),
          },
        ] as const;
      }),
    );
  };
  const before = await sums();
  await change();
  const after = await sums();
  const touched: Touched = [];
  for (const h of handedIn) {
    const [old, fresh] = [before.get(h.pieceId)!, after.get(h.pieceId)!];
    if (old.points === fresh.points) continue;
    touched.push({
      pieceId: h.pieceId,
      student: h.student,
      before: old.points,
      after: fresh.points,
      score: await follow(call, h, old, fresh),
    });
  }
  return touched;
}

async function follow(
  call: Call,
  { pieceId, handedBack }: HandedIn,
  old: { points: string; possible: string },
  fresh: { points: string; possible: string },
): Promise<Touched[number]["score"]> {
  const [draft] = await call.tx<
    { scoreTyped: string; round: number }[]
  >`select score_typed, round_number as round from feedback where piece_id = ${pieceId} order by round_number desc limit 1`;
  if (!draft || draft.scoreTyped === "") return "none";
  if (handedBack || draft.scoreTyped !== `${old.points}/${old.possible}`) return "looks different";
  const { piece } = await openDraft(call, pieceId);
  const points =
    piece.pointsPossible === null
      ? null
      : new Big(fresh.points)
          .times(piece.pointsPossible)
          .div(fresh.possible)
          .round(3, Big.roundHalfUp)
          .toString();
  await call.tx`
    update feedback
    set score_typed = ${`${fresh.points}/${fresh.possible}`}, points = ${points}, revision = revision + 1, changed_by = ${call.who.id}, changed_at = ${call.now}
    where piece_id = ${pieceId} and round_number = ${draft.round}`;
  return "followed";
}
