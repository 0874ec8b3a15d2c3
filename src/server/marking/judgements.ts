import Big from "big.js";
import { answerKey, groupAnswers, judged, type GivenAnswer } from "@/core/questions/groups";
import type { Answers, Question } from "@/core/questions/question";
import { Invalid, NotFound } from "@/core/refusals";
import type { AcrossQuestions, QuestionGroups, Touched } from "@/core/views/views";
import { requireOnHandOut, requireOnPiece } from "../access/standing";
import type { Call, ReadCall } from "../call";
import type { Db } from "../db/connection";
import { openDraft } from "./draft";
import { readPiece } from "../pieces/queries";
import { answerSheets, rowsOf, sayGiven, type AskedSet, type Judged } from "../questions/answers";
import { isHandedBack, readNumbers, shownName } from "./names";
import { readWays } from "./desk/ways";

type ForAll = { partId: string; questionId: string; key: string; points: string };
type ForPiece = { pieceId: string; partId: string; questionId: string; points: string | null };
type HandedIn = { pieceId: string; student: string; answers: Answers; handedBack: boolean };

/** What teachers said of a hand-out's answers. Keys of answer_judgement and piece_judgement. */
async function readJudgements(
  db: Db,
  handOutId: string,
): Promise<{ forAll: ForAll[]; forPiece: ForPiece[] }> {
  const [forAll, forPiece] = await Promise.all([
    db<
      ForAll[]
    >`select part_id, question_id, key, points from answer_judgement where hand_out_id = ${handOutId}`,
    db<ForPiece[]>`
      select piece_judgement.piece_id, piece_judgement.part_id, piece_judgement.question_id, piece_judgement.points
      from piece_judgement
      join piece on piece.id = piece_judgement.piece_id
      where piece.hand_out_id = ${handOutId}`,
  ]);
  return {
    forAll: forAll.map((j) => ({ ...j, points: plainPoints(j.points) })),
    forPiece: forPiece.map((j) => ({
      ...j,
      points: j.points === null ? null : plainPoints(j.points),
    })),
  };
}

const plainPoints = (points: string) => new Big(points).toString();

/** The judgements that hold for one piece's answers. */
export async function judgementsFor(
  db: Db,
  handOutId: string,
  pieceId: string,
  sets: readonly AskedSet[],
  answers: Answers,
): Promise<Judged[]> {
  if (sets.length === 0) return [];
  const { forAll, forPiece } = await readJudgements(db, handOutId);
  return holding(sets, pieceId, answers, forAll, forPiece);
}

function holding(
  sets: readonly AskedSet[],
  pieceId: string,
  answers: Answers,
  forAll: readonly ForAll[],
  forPiece: readonly ForPiece[],
): Judged[] {
  return sets.flatMap(({ partId, questions }) =>
    questions.flatMap((question) => {
      const answer = answers[partId]?.[question.id] ?? null;
      const own = forPiece.find(
        (j) => j.pieceId === pieceId && j.partId === partId && j.questionId === question.id,
      );
      const all = forAll.find(
        (j) =>
          j.partId === partId &&
          j.questionId === question.id &&
          j.key === answerKey(question, answer),
      );
      const verdict = judged(question, answer, all?.points, own?.points);
      return verdict.by === "teacher"
        ? [{ partId, questionId: question.id, points: verdict.points! }]
        : [];
    }),
  );
}

/** All answers of a hand-out, question by question, alike ones together. */
export async function acrossQuestions(call: ReadCall, handOutId: string): Promise<AcrossQuestions> {
  const { db, who } = call;
  await requireOnHandOut(db, who, handOutId, "feedback.see");
  const [{ handOut, section }, sets, handedIn, { forAll, forPiece }] = await Promise.all([
    readWays(call, handOutId),
    readSets(db, handOutId),
    readHandedIn(db, handOutId),
    readJudgements(db, handOutId),
  ]);
  const questions = sets.flatMap(({ partId, questions: asked }) =>
    asked.map((question, n): QuestionGroups => {
      const given = handedIn.map((h): GivenAnswer => ({
        pieceId: h.pieceId,
        student: h.student,
        answer: h.answers[partId]?.[question.id] ?? null,
      }));
      const groups = groupAnswers(question, given, (answer) => sayGiven(question, answer));
      return {
        partId,
        questionId: question.id,
        number: n + 1,
        text: question.text,
        kind: question.kind,
        possible: question.points.replace(",", "."),
        key: keyWords(question),
        groups: groups.map((group) => ({
          key: group.key,
          shown: group.shown,
          also: group.also,
          state: group.verdict.state,
          keyPoints: group.verdict.points,
          points:
            forAll.find(
              (j) => j.partId === partId && j.questionId === question.id && j.key === group.key,
            )?.points ?? null,
          given: group.given.map((g) => {
            const own = forPiece.find(
              (j) => j.pieceId === g.pieceId && j.partId === partId && j.questionId === question.id,
            );
            return {
              pieceId: g.pieceId,
              student: g.student,
              own: own?.points ?? null,
              excepted: own !== undefined,
            };
          }),
        })),
      };
    }),
  );
  return { handOut, section, questions };
}

function keyWords(question: Question): string {
  if (question.kind === "free text") return "";
  return rowsOf(question, null)
    .map((row) => [row.label, row.key].filter(Boolean).join(": "))
    .filter((words) => !words.endsWith("not chosen"))
    .join(" · ");
}

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
  if (points !== null && new Big(points).gt(new Big(question.points.replace(",", ".")).times(2)))
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
    const { forAll, forPiece } = await readJudgements(tx, handOutId);
    return new Map(
      handedIn.map((h) => {
        const sheets = answerSheets(
          { parts: sets.map((s) => ({ id: s.partId }) as never), sets },
          h.answers,
          [],
          holding(sets, h.pieceId, h.answers, forAll, forPiece),
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

async function readSets(db: Db, handOutId: string): Promise<AskedSet[]> {
  return db<AskedSet[]>`
    select assignment_questions.part_id, question_set.name, question_set.questions
    from hand_out
    join assignment_questions on assignment_questions.assignment_id = hand_out.assignment_id
    join question_set on question_set.id = assignment_questions.set_id
    where hand_out.id = ${handOutId}`;
}

/** The newest hand-in of each piece; under their numbers where names are hidden. */
async function readHandedIn(db: Db, handOutId: string): Promise<HandedIn[]> {
  const rows = await db<(HandedIn & { anonymous: boolean })[]>`
    select distinct on (piece.id) piece.id as piece_id, student.name as student, version.answers, hand_out.anonymous,
      ${isHandedBack(db, db`piece.id`, db`version.round_number`)} as handed_back
    from piece
    join hand_out on hand_out.id = piece.hand_out_id
    join person student on student.id = piece.student_id
    join version on version.piece_id = piece.id
    where piece.hand_out_id = ${handOutId} and piece.removed_at is null and piece.state not in ('not_opened', 'started')
    order by piece.id, version.round_number desc, version.number desc`;
  const numbers = rows.some((r) => r.anonymous)
    ? await readNumbers(db, handOutId)
    : new Map<string, number>();
  return rows
    .map(({ anonymous, ...row }) => ({
      ...row,
      student: shownName(row.student, {
        anonymous,
        handedBack: row.handedBack,
        number: numbers.get(row.pieceId) ?? 0,
      }),
    }))
    .sort((a, b) => a.student.localeCompare(b.student));
}
