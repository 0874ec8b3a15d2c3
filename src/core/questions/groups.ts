import type { Answer, Question } from "./question";
import { isGiven } from "./question";
import { judge, plainText, stateOf, unitKey, type Verdict } from "./judge";
import { readQuantity } from "./quantity";

export type GivenAnswer = { pieceId: string; student: string; answer: Answer };
export type AnswerGroup = {
  /** What makes answers alike. */ key: string;
  /** As the most of them wrote it. */ shown: string;
  /** Other spellings in the group. */ also: string[];
  verdict: Verdict;
  given: GivenAnswer[];
};

/**
 * What makes two answers to a question alike: the same choices; the same pairs or order; short texts that differ only
 * in what this question does not mind; free texts but for capitals, accents, spaces and the signs around them; numbers of one
 * value and unit however written. A number that can be read in two ways is alike to those written the same way alone.
 *
 * @example answerKey(numberQuestion, "1,50 m") === answerKey(numberQuestion, "1.5 m") // true
 */
export function answerKey(question: Question, answer: Answer): string {
  if (!isGiven(answer)) return "";
  switch (question.kind) {
    case "several choices":
      return [...(answer as string[])].sort().join(" ");
    case "ordering":
      return (answer as string[]).join(" ");
    case "matching":
      return Object.entries(answer as Record<string, string>)
        .filter(([, r]) => r)
        .sort()
        .map(([l, r]) => `${l}=${r}`)
        .join(" ");
    case "number": {
      const read = readQuantity(String(answer));
      if (!read) return plain(String(answer));
      const value =
        read.other === null ? `${Number(read.number)}` : `${read.other} or ${read.number}`;
      return `${value} ${unitKey(read.unit)}`.trim();
    }
    case "short text":
      return plainText(question, String(answer));
    default:
      return plain(String(answer));
  }
}

const plain = (text: string) =>
  text
    .normalize("NFD")
    .replace(/\p{M}/gu, "")
    .toLowerCase()
    .replace(/[’‘]/g, "'")
    .replace(/\s+/g, " ")
    .replace(/^[\s.,;:!?"'“”]+|[\s.,;:!?"'“”]+$/gu, "");

/** Alike answers together: what the key leaves to a person first, then what it calls wrong, the largest groups first. */
export function groupAnswers(
  question: Question,
  given: readonly GivenAnswer[],
  sayAnswer: (answer: Answer) => string,
): AnswerGroup[] {
  const groups = new Map<string, GivenAnswer[]>();
  for (const entry of given) {
    const key = answerKey(question, entry.answer);
    groups.set(key, [...(groups.get(key) ?? []), entry]);
  }
  const rank: Record<Verdict["state"], number> = {
    "for the teacher": 0,
    wrong: 1,
    partly: 2,
    right: 3,
    "nothing given": 4,
  };
  return [...groups]
    .map(([key, own]): AnswerGroup => {
      const spellings = new Map<string, number>();
      for (const { answer } of own)
        spellings.set(sayAnswer(answer), (spellings.get(sayAnswer(answer)) ?? 0) + 1);
      const [shown, ...also] = [...spellings]
        .sort((a, b) => b[1] - a[1] || a[0].localeCompare(b[0]))
        .map(([text]) => text);
      return { key, shown: shown!, also, verdict: judge(question, own[0]!.answer), given: own };
    })
    .sort(
      (a, b) =>
        rank[a.verdict.state] - rank[b.verdict.state] ||
        b.given.length - a.given.length ||
        a.shown.localeCompare(b.shown),
    );
}

/**
 * The verdict on one answer when teachers' judgements are counted in: one on this piece alone comes before
 * one on all answers like it, and that before the key.
 *
 * @param forPiece points given to this piece's answer alone; null takes the group's judgement back for it
 */
export function judged(
  question: Question,
  answer: Answer | undefined,
  forAll: string | undefined,
  forPiece: string | null | undefined,
): Verdict & { by: "key" | "teacher" } {
  const keyed = judge(question, answer);
  const points = forPiece === undefined ? forAll : (forPiece ?? undefined);
  if (points === undefined) return { ...keyed, by: "key" };
  const [earned, whole] = [Number(points), Number(question.points.replace(",", "."))];
  return {
    ...keyed,
    points,
    state: stateOf(earned >= whole, earned > 0),
    note: "",
    by: "teacher",
  };
}
