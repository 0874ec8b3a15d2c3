import { toDecimal } from "@/core/scores/decimal";
import Big from "big.js";
import { answerKey, groupAnswers, judged, type GivenAnswer } from "@/core/questions/groups";
import type { Answers, Question } from "@/core/questions/question";
import type { AcrossQuestions, QuestionGroups } from "@/core/views/deskViews";
import { requireOnHandOut } from "../access/standing";
import type { ReadCall } from "../call";
import type { Db } from "../db/connection";
import { readAsked, rowsOf, sayGiven, type AskedSet, type Judged } from "../questions/answers";
import { isHandedBack, readNumbers, shownName } from "../names/names";
import { readWays } from "./desk/ways";

type ForAll = { partId: string; questionId: string; key: string; points: string };
type ForPiece = { pieceId: string; partId: string; questionId: string; points: string | null };
export type HandedIn = { pieceId: string; student: string; answers: Answers; handedBack: boolean };

/** What teachers said of a hand-out's answers. Keys of answer_judgement and piece_judgement. */
export async function readJudgements(db: Db, handOutId: string): Promise<Judgements> {
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

/** The judgements that hold for one piece's answers. @param known its sets, where they were read already */
export async function judgementsOn(
  db: Db,
  { id, handOutId }: { id: string; handOutId: string },
  answers: Answers,
  known?: readonly AskedSet[],
): Promise<Judged[]> {
  const sets = known ?? (await readAsked(db, id)).sets;
  if (sets.length === 0) return [];
  return holding(sets, { pieceId: id, answers }, await readJudgements(db, handOutId));
}

type Judgements = { forAll: ForAll[]; forPiece: ForPiece[] };

export function holding(
  sets: readonly AskedSet[],
  { pieceId, answers }: Pick<HandedIn, "pieceId" | "answers">,
  { forAll, forPiece }: Judgements,
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
        possible: toDecimal(question.points),
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

export async function readSets(db: Db, handOutId: string): Promise<AskedSet[]> {
  return db<AskedSet[]>`
    select assignment_questions.part_id, question_set.name, question_set.questions
    from hand_out
    join assignment_questions on assignment_questions.assignment_id = hand_out.assignment_id
    join question_set on question_set.id = assignment_questions.set_id
    where hand_out.id = ${handOutId}`;
}

/** The newest hand-in of each piece; under their numbers where names are hidden. */
export async function readHandedIn(db: Db, handOutId: string): Promise<HandedIn[]> {
  const rows = await db<(HandedIn & { anonymous: boolean })[]>`
    select distinct on (piece.id) piece.id as piece_id, shown_name(student) as student, version.answers, hand_out.anonymous,
      ${isHandedBack(db, db`piece.id`, db`version.round_number`)} as handed_back
    from piece
    join hand_out on hand_out.id = piece.hand_out_id
    join person student on student.id = piece.student_id
    join version_content version on version.piece_id = piece.id
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
