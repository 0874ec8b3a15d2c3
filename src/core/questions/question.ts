import { Invalid } from "../refusals";

/**
 * Questions with their key. A question's text is plain; its id stays with it through versions of the set,
 * so that answers given to an earlier version are still found.
 */
export const QUESTION_KINDS = [
  "one choice",
  "several choices",
  "short text",
  "number",
  "matching",
  "ordering",
  "free text",
] as const;
export type QuestionKind = (typeof QUESTION_KINDS)[number];

export type Choice = { id: string; text: string };
type Base = { id: string; text: string; /** Decimal text; what it is worth. */ points: string };

export type Question =
  | (Base & { kind: "one choice"; choices: Choice[]; right: string })
  | (Base & { kind: "several choices"; choices: Choice[]; right: string[] })
  /** Accepted variants; what makes no difference is the teacher's choice. */
  | (Base & {
      kind: "short text";
      accepted: string[];
      exactCase: boolean;
      exactAccents: boolean;
      exactSpaces: boolean;
    })
  /** `tolerance` is absolute in the key's unit, or per cent of the value where it ends with "%". */
  | (Base & { kind: "number"; value: string; unit: string; tolerance: string })
  | (Base & { kind: "matching"; left: Choice[]; right: Choice[]; pairs: Record<string, string> })
  /** The items in their right order; students see them in another. */
  | (Base & { kind: "ordering"; items: Choice[] })
  | (Base & { kind: "free text"; lines: number });

/** What a student gave; null: nothing. One choice and texts are text, several choices and orders lists, pairs a map. */
export type Answer = string | string[] | Record<string, string> | null;
export type Answers = Record<string, Record<string, Answer>>;

/** A question as the student has it: without its key. */
export type AskedQuestion = Base & {
  kind: QuestionKind;
  choices: Choice[];
  right: Choice[];
  lines: number;
  unit: boolean;
};

/** The name under which a student has a choice; it tells nothing of when and in which order choices were made. */
export type Sign = (choiceId: string) => string;

/**
 * The question without anything that gives the key away. Choices go under their signs, and what has to be
 * ordered or paired stands in the order of those: the same for one student each time, and any order as likely as
 * any other, the right one among them.
 */
export function askedQuestion(question: Question, sign: Sign): AskedQuestion {
  const signed = (choices: readonly Choice[]) =>
    choices.map(({ id, text }): Choice => ({ id: sign(id), text }));
  const mixed = (choices: readonly Choice[]) =>
    signed(choices).sort((a, b) => (a.id < b.id ? -1 : 1));
  const base = {
    id: question.id,
    text: question.text,
    points: question.points,
    kind: question.kind,
    choices: [] as Choice[],
    right: [] as Choice[],
    lines: 3,
    unit: false,
  };
  switch (question.kind) {
    case "one choice":
    case "several choices":
      return { ...base, choices: signed(question.choices) };
    case "matching":
      return { ...base, choices: signed(question.left), right: mixed(question.right) };
    case "ordering":
      return { ...base, choices: mixed(question.items) };
    case "number":
      return { ...base, unit: question.unit !== "" };
    case "free text":
      return { ...base, lines: question.lines };
    default:
      return base;
  }
}

/** An answer with every choice's name changed. @example renamed({ a: "b" }, (id) => id + "1") // { a1: "b1" } */
export function renamed(answer: Answer, name: (id: string) => string): Answer {
  if (Array.isArray(answer)) return answer.map(name);
  if (typeof answer !== "object" || answer === null) return answer;
  return Object.fromEntries(
    Object.entries(answer).map(([l, r]) => [name(l), r === "" ? r : name(r)]),
  );
}

/** All choices of a question, whatever they are there for. */
export function choicesOf(question: Question): readonly Choice[] {
  switch (question.kind) {
    case "one choice":
    case "several choices":
      return question.choices;
    case "matching":
      return [...question.left, ...question.right];
    case "ordering":
      return question.items;
    default:
      return [];
  }
}

/** Whether anything was given. @example isGiven({}) // false */
export function isGiven(answer: Answer | undefined): boolean {
  if (answer === null || answer === undefined) return false;
  if (typeof answer === "string") return answer.trim() !== "";
  return Array.isArray(answer) ? answer.length > 0 : Object.values(answer).some(Boolean);
}

const MOST = { questions: 200, choices: 30, text: 4000, short: 400, free: 20_000 };

/** Faults of a set by the question's place, in words. */
export function checkQuestions(questions: readonly Question[]): Record<string, string> {
  const faults: Record<string, string> = {};
  if (questions.length === 0) faults.questions = "Write at least one question.";
  if (questions.length > MOST.questions)
    faults.questions = `A set has ${MOST.questions} questions at most.`;
  questions.forEach((question, n) => {
    const why = faultOf(question);
    if (why) faults[`questions[${n}]`] = why;
  });
  return faults;
}

function faultOf(question: Question): string | null {
  if (!question.text.trim()) return "Write the question.";
  if (question.text.length > MOST.text) return `A question has ${MOST.text} characters at most.`;
  if (!/^\d{1,4}([.,]\d{1,2})?$/.test(question.points))
    return "Points are a number such as 1 or 0.5.";
  return faultOfKey(question);
}

function few(choices: readonly Choice[]): string | null {
  if (choices.filter((c) => c.text.trim()).length < 2) return "Give at least two to choose from.";
  if (choices.some((c) => !c.text.trim())) return "One of them is empty.";
  return choices.length > MOST.choices ? `There are ${MOST.choices} at most.` : null;
}

const isPaired = ({ left, right, pairs }: Extract<Question, { kind: "matching" }>) =>
  left.every((l) => right.some((r) => r.id === pairs[l.id]));

function faultOfNumber({ value, tolerance }: Extract<Question, { kind: "number" }>): string | null {
  if (!isDecimal(value)) return "The right number is missing, or is not a number.";
  return tolerance === "" || isDecimal(tolerance.replace(/\s*%$/, ""))
    ? null
    : "The tolerance is a number, or per cent (5%).";
}

/** What is wrong with what there is to choose from and with what is right. */
function faultOfKey(question: Question): string | null {
  switch (question.kind) {
    case "one choice":
      return (
        few(question.choices) ??
        (question.choices.some((c) => c.id === question.right) ? null : "Say which one is right.")
      );
    case "several choices":
      return few(question.choices) ?? (question.right.length > 0 ? null : "Say which are right.");
    case "short text":
      return question.accepted.some((a) => a.trim())
        ? null
        : "Give at least one answer that is right.";
    case "number":
      return faultOfNumber(question);
    case "matching":
      return (
        few(question.left) ??
        few(question.right) ??
        (isPaired(question) ? null : "Give each on the left its partner on the right.")
      );
    case "ordering":
      return few(question.items);
    case "free text":
      return null;
  }
}

/** @example isDecimal("−1,25") // true */
export const isDecimal = (text: string): boolean =>
  /^[-−+]?(\d{1,12}([.,]\d{0,12})?|[.,]\d{1,12})([eE][-+]?\d{1,3})?$/.test(text.trim());

/** Reads what a student sent for one question: of the right shape, not longer than sense, only known choices. @throws Invalid */
export function readAnswer(question: Question, input: unknown): Answer {
  if (input === null || input === undefined) return null;
  switch (question.kind) {
    case "one choice":
      return input === "" ? null : oneOf(question.choices, input);
    case "several choices":
      return someOf(question.choices, input);
    case "ordering":
      return someOf(question.items, input);
    case "matching":
      return readPairs(question, input);
    case "free text":
      return readText(input, MOST.free);
    default:
      return readText(input, MOST.short);
  }
}

const unreadable = () =>
  new Invalid({ answers: "An answer could not be read. What was saved before is safe." });

function readText(value: unknown, most: number): string {
  if (typeof value !== "string" || value.length > most) throw unreadable();
  return value.replace(/\u0000/g, "");
}

function oneOf(choices: readonly Choice[], value: unknown): string {
  if (!choices.some((c) => c.id === value)) throw unreadable();
  return value as string;
}

function someOf(choices: readonly Choice[], value: unknown): string[] {
  if (!Array.isArray(value)) throw unreadable();
  return [...new Set(value.map((id) => oneOf(choices, id)))];
}

function readPairs(
  { left, right }: Extract<Question, { kind: "matching" }>,
  value: unknown,
): Record<string, string> {
  if (typeof value !== "object" || value === null || Array.isArray(value)) throw unreadable();
  return Object.fromEntries(
    Object.entries(value).map(([l, r]) => [oneOf(left, l), r === "" ? "" : oneOf(right, r)]),
  );
}
