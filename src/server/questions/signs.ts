import { createHash } from "node:crypto";
import {
  choicesOf,
  renamed,
  type Answer,
  type Answers,
  type Question,
  type Sign,
} from "@/core/questions/question";

type Set = { partId: string; questions: readonly Question[] };

/**
 * Choices are made one after the other, often in the order of the key, and their ids tell when. So a student
 * never has the ids themselves, but signs: digests of the choice and the piece, in which no order is left. They
 * are the same each time, so that what is kept on a device stays an answer.
 */
export function signsOf(pieceId: string, questionId: string): Sign {
  return (choiceId) => {
    const digest = createHash("sha256").update(`${pieceId}\n${questionId}\n${choiceId}`).digest();
    const hex = digest.toString("hex");
    // The form of a UUID of one's own making (RFC 9562, section 5.8).
    return `${hex.slice(0, 8)}-${hex.slice(8, 12)}-8${hex.slice(13, 16)}-8${hex.slice(17, 20)}-${hex.slice(20, 32)}`;
  };
}

/** Whether an answer names choices at all; words and numbers are never looked for among them. */
const namesChoices = ({ kind }: Question): boolean =>
  kind !== "short text" && kind !== "number" && kind !== "free text";

/** What a student sent, with the choices' own ids; what is neither sign nor id stays, and is refused where it is read. */
export function unsigned(pieceId: string, question: Question, input: unknown): unknown {
  if (!namesChoices(question)) return input;
  const sign = signsOf(pieceId, question.id);
  const ids = new Map(choicesOf(question).map(({ id }) => [sign(id), id]));
  const own = (id: unknown) => (typeof id === "string" ? (ids.get(id) ?? id) : id) as string;
  return typeof input === "string" ? own(input) : renamed(input as Answer, own);
}

/** Answers as the student has them. */
export function signedAnswers(pieceId: string, sets: readonly Set[], answers: Answers): Answers {
  return Object.fromEntries(
    Object.entries(answers).map(([partId, given]) => {
      const questions = sets.find((set) => set.partId === partId)?.questions ?? [];
      return [
        partId,
        Object.fromEntries(
          Object.entries(given).map(([id, answer]) => [
            id,
            signedAnswer(
              pieceId,
              questions.find((q) => q.id === id),
              answer,
            ),
          ]),
        ),
      ];
    }),
  );
}

function signedAnswer(pieceId: string, question: Question | undefined, answer: Answer): Answer {
  if (!question || !namesChoices(question)) return answer;
  const sign = signsOf(pieceId, question.id);
  return typeof answer === "string" ? sign(answer) : renamed(answer, sign);
}
