import { toDecimal } from "@/core/scores/decimal";
import Big from "big.js";
import type { Part } from "@/core/handouts/parts";
import { judged } from "@/core/questions/groups";
import { judge, type Verdict } from "@/core/questions/judge";
import {
  askedQuestion,
  isGiven,
  readAnswer,
  type Answer,
  type Answers,
  type Choice,
  type Question,
} from "@/core/questions/question";
import { Invalid, NotFound, Refused } from "@/core/refusals";
import { canonicalJson } from "@/core/text/canonical";
import type { AnswerSheet, PartView, ShownVerdict } from "@/core/views/workViews";
import { requireOnPiece } from "../access/standing";
import type { Call } from "../call";
import type { Db } from "../db/connection";
import { decide } from "../life/decide";
import { lockPiece, recordEvent } from "../life/queries";
import { signsOf, unsigned } from "./signs";

export type AskedSet = { partId: string; name: string; questions: Question[] };
type Try = { partId: string; questionId: string; number: number; verdict: Verdict };

/** The parts of a piece's assignment, and its sets of questions with their keys (for the server alone). */
export async function readAsked(
  db: Db,
  pieceId: string,
): Promise<{ parts: Part[]; sets: AskedSet[] }> {
  const [[row], sets] = await Promise.all([
    db<{ parts: Part[] }[]>`
      select assignment.parts
      from piece
      join hand_out on hand_out.id = piece.hand_out_id
      join assignment on assignment.id = hand_out.assignment_id
      where piece.id = ${pieceId}`,
    db<AskedSet[]>`
      select assignment_questions.part_id, question_set.name, question_set.questions
      from piece
      join hand_out on hand_out.id = piece.hand_out_id
      join assignment_questions on assignment_questions.assignment_id = hand_out.assignment_id
      join question_set on question_set.id = assignment_questions.set_id
      where piece.id = ${pieceId}`,
  ]);
  if (!row) throw new NotFound();
  return { parts: row.parts, sets };
}

export async function readTries(db: Db, pieceId: string): Promise<Try[]> {
  return db<
    Try[]
  >`select part_id, question_id, number, verdict from answer_try where piece_id = ${pieceId} order by number`;
}

/** Reads all answers a student sent; of questions that are not asked (any more) nothing is kept. @throws Invalid */
export function readAnswers(input: unknown, sets: readonly AskedSet[], pieceId: string): Answers {
  if (input === undefined || input === null) return {};
  if (typeof input !== "object" || Array.isArray(input))
    throw new Invalid({ answers: "The answers could not be read. What was saved before is safe." });
  const given = input as Record<string, Record<string, unknown> | undefined>;
  return Object.fromEntries(
    sets.flatMap(({ partId, questions }) => {
      const answers = questions.flatMap((q) => {
        const answer = readAnswer(q, unsigned(pieceId, q, given[partId]?.[q.id]));
        return isGiven(answer) ? [[q.id, answer] as const] : [];
      });
      return answers.length ? [[partId, Object.fromEntries(answers)]] : [];
    }),
  );
}

export const shownVerdict = ({ state, points, note }: Verdict): ShownVerdict => ({
  state,
  points,
  note,
});

/** Which moment a student has reached: what may be shown of right and wrong follows from it. */
export type Shown = {
  /** What teachers said with the last hand-back. */ judgements: readonly Judged[];
  handedIn: Answers | null;
  handedBack: boolean;
  /** Handed back for good: nobody works on it any more. */
  over: boolean;
  /** What stands there now: of an answer that was changed since, nothing is said. */ now: Answers;
};

/** A teacher's word on one answer of a piece. */
export type Judged = { partId: string; questionId: string; points: string };

const same = (a: Answer | undefined, b: Answer | undefined) =>
  canonicalJson(a ?? null) === canonicalJson(b ?? null);

/** The parts as the student has them. Verdicts are of the answers handed in, or of the last try where they are shown at once. */
export function partViews(
  { parts, sets }: { parts: readonly Part[]; sets: readonly AskedSet[] },
  pieceId: string,
  tries: readonly Try[],
  shown: Shown,
): PartView[] {
  return parts.map((part): PartView => {
    const set = sets.find((s) => s.partId === part.id);
    if (!set) return { ...part, questions: null };
    const own = tries.filter((t) => t.partId === part.id);
    const verdicts = verdictsOf(part, set.questions, own, shown);
    const triesUsed: Record<string, number> = {};
    for (const t of own) triesUsed[t.questionId] = Math.max(t.number, triesUsed[t.questionId] ?? 0);
    return {
      ...part,
      setId: null,
      questions: {
        name: set.name,
        asked: set.questions.map((q) => askedQuestion(q, signsOf(pieceId, q.id))),
        verdicts,
        triesUsed,
      },
    };
  });
}

/** What a teacher said that an answer is worth, over what the key says. */
const pointsSaid = (
  judgements: readonly Judged[],
  partId: string,
  { id }: Pick<Question, "id">,
): string | undefined => judgements.find((j) => j.partId === partId && j.questionId === id)?.points;

/** What may be said of each answer by now. */
function verdictsOf(
  part: Part,
  questions: readonly Question[],
  tries: readonly Try[],
  shown: Shown,
): Record<string, ShownVerdict> {
  const { handedIn, now, judgements } = shown;
  const verdicts: Record<string, ShownVerdict> = {};
  const given = (answers: Answers | null, { id }: Question) => answers?.[part.id]?.[id];
  if (part.show === "at once")
    for (const t of tries) verdicts[t.questionId] = shownVerdict(t.verdict);
  else if (handedIn && (part.show === "at hand-in" || shown.handedBack))
    for (const q of questions.filter((x) => same(given(handedIn, x), given(now, x)))) {
      const said = pointsSaid(judgements, part.id, q);
      verdicts[q.id] = shownVerdict(judged(q, given(handedIn, q), said, undefined));
    }
  if (part.showKey && shown.over && handedIn) addKeys(part.id, questions, verdicts, shown);
  return verdicts;
}

/** The key beside what was handed in, part by part, also where nothing had been said of an answer. */
function addKeys(
  partId: string,
  questions: readonly Question[],
  verdicts: Record<string, ShownVerdict>,
  { handedIn, judgements }: Shown,
): void {
  for (const question of questions) {
    const answer = handedIn?.[partId]?.[question.id] ?? null;
    const verdict = judged(question, answer, pointsSaid(judgements, partId, question), undefined);
    verdicts[question.id] = {
      ...(verdicts[question.id] ?? shownVerdict(verdict)),
      ...(question.kind === "free text" ? {} : { rows: rowsOf(question, answer, verdict) }),
    };
  }
}

/**
 * One try at a question whose answer is shown at once: kept, judged, and told. After the last try, or once it was
 * right, no other counts.
 */
export async function tryAnswer(
  call: Call,
  pieceId: string,
  { partId, questionId, answer: input }: { partId: string; questionId: string; answer?: unknown },
): Promise<ShownVerdict & { triesUsed: number; triesLeft: number | null }> {
  const { tx, now } = call;
  await requireOnPiece(call, pieceId, "piece.write");
  const piece = await lockPiece(tx, pieceId);
  decide(piece, { kind: "write" }, "student", now);
  const { parts, sets } = await readAsked(tx, pieceId);
  const part = parts.find((p) => p.id === partId);
  const question = sets
    .find((s) => s.partId === partId)
    ?.questions.find((q) => q.id === questionId);
  if (!part || !question) throw new NotFound();
  if (part.show !== "at once") throw new Refused("Right and wrong are shown later for this work.");
  const answer = readAnswer(question, unsigned(pieceId, question, input));
  if (!isGiven(answer)) throw new Refused("Give an answer first.");
  const tries = (await readTries(tx, pieceId)).filter(
    (t) => t.partId === partId && t.questionId === questionId,
  );
  if (tries.at(-1)?.verdict.state === "right") throw new Refused("This is right already.");
  if (part.tries !== null && tries.length >= part.tries)
    throw new Refused(
      part.tries === 1
        ? "There is one try, and it was used."
        : `All ${part.tries} tries were used.`,
    );
  const verdict = judge(question, answer);
  const number = tries.length + 1;
  await tx`
    insert into answer_try (piece_id, part_id, question_id, number, answer, verdict, tried_at)
    values (${pieceId}, ${partId}, ${questionId}, ${number}, ${tx.json(answer as never)}, ${tx.json(verdict as never)}, ${now})`;
  await recordEvent(call, {
    handOutId: piece.handOutId,
    pieceId,
    kind: "tried an answer",
    detail: { questionId, number },
  });
  return {
    ...shownVerdict(verdict),
    triesUsed: number,
    triesLeft: part.tries === null ? null : part.tries - number,
  };
}

/** Answers beside the key, for the section's teachers. */
export function answerSheets(
  { parts, sets }: { parts: readonly Part[]; sets: readonly AskedSet[] },
  answers: Answers,
  tries: readonly Try[],
  judgements: readonly Judged[] = [],
): AnswerSheet[] {
  return sets.map(({ partId, name, questions }): AnswerSheet => {
    const lines = questions.map((question): AnswerSheet["lines"][number] => {
      const answer = answers[partId]?.[question.id] ?? null;
      const verdict = judged(question, answer, pointsSaid(judgements, partId, question), undefined);
      return {
        by: verdict.by,
        questionId: question.id,
        text: question.text,
        kind: question.kind,
        state: verdict.state,
        points: verdict.points,
        possible: toDecimal(question.points),
        note: verdict.note,
        rows: rowsOf(question, answer, verdict),
        tries: tries.filter((t) => t.partId === partId && t.questionId === question.id).length,
      };
    });
    const sum = (values: readonly (string | null)[]) =>
      values.reduce((total, v) => total.plus(v ?? 0), new Big(0)).toString();
    return {
      partId,
      name,
      show: parts.find((p) => p.id === partId)!.show,
      lines,
      points: sum(lines.map((l) => l.points)),
      possible: sum(lines.map((l) => l.possible)),
      waiting: lines.filter((l) => l.state === "for the teacher").length,
    };
  });
}

const NOTHING = "(nothing)";

/** An answer in words, on one line. */
export function sayGiven(question: Question, answer: Answer): string {
  if (!isGiven(answer)) return "(no answer)";
  const rows = rowsOf(question, answer);
  if (question.kind === "several choices")
    return rows
      .filter((r) => r.given === "chosen")
      .map((r) => r.label)
      .join(" · ");
  return rows.map((r) => [r.label, r.given].filter(Boolean).join(" ")).join(" · ");
}

/** Each part of an answer beside what the key has there. */
export function rowsOf(
  question: Question,
  answer: Answer,
  verdict: Verdict = judge(question, answer),
): AnswerSheet["lines"][number]["rows"] {
  const text = (choices: readonly Choice[], id: string | undefined) =>
    choices.find((c) => c.id === id)?.text ?? NOTHING;
  const single = (given: string, key: string) => [
    {
      label: "",
      given: given || NOTHING,
      key,
      same: verdict.state === "nothing given" ? false : verdict.state === "right",
    },
  ];
  switch (question.kind) {
    case "one choice":
      return single(
        answer === null ? "" : text(question.choices, String(answer)),
        text(question.choices, question.right),
      );
    case "several choices": {
      const given = (answer ?? []) as string[];
      return question.choices.map(({ id, text: label }) => ({
        label,
        given: given.includes(id) ? "chosen" : "not chosen",
        key: question.right.includes(id) ? "chosen" : "not chosen",
        same: given.includes(id) === question.right.includes(id),
      }));
    }
    case "short text":
      return single(String(answer ?? ""), question.accepted.join(" · "));
    case "number":
      return single(
        String(answer ?? ""),
        [question.value, question.unit, question.tolerance ? `± ${question.tolerance}` : ""]
          .filter(Boolean)
          .join(" "),
      );
    case "matching": {
      const given = (answer ?? {}) as Record<string, string>;
      return question.left.map(({ id, text: label }) => ({
        label,
        given: text(question.right, given[id]),
        key: text(question.right, question.pairs[id]),
        same: given[id] === question.pairs[id],
      }));
    }
    case "ordering": {
      const given = (answer ?? []) as string[];
      return question.items.map((item, n) => ({
        label: `${n + 1}.`,
        given: text(question.items, given[n]),
        key: item.text,
        same: given[n] === item.id,
      }));
    }
    case "free text":
      return [{ label: "", given: String(answer ?? "") || NOTHING, key: "", same: null }];
  }
}
