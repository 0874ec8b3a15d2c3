import type { Part, ShowTime } from "../handouts/parts";
import type { ItemKind, Limits, Used } from "../items/kinds";
import type { Answers, AskedQuestion, Question } from "../questions/question";
import type { Verdict } from "../questions/judge";
import type { RichDoc } from "../text/richDoc";

/** Views of a student's work in all its kinds, for both sides. */

/** A file of a piece and how it is shown; `why` says why it is not (yet). */
export type ItemView = {
  id: string;
  partId: string;
  kind: ItemKind;
  name: string;
  size: number;
  sha256: string;
  pages: number | null;
  seconds: number | null;
  width: number | null;
  height: number | null;
  original: string;
  still: string | null;
  /** It was made from a photo that can be gone back to. */
  madeFrom: string | null;
  /** It stands in the writing, where the text names it. */ inText: boolean;
  state: "ready" | "being made" | "not shown";
  why: string | null;
  view: { as: "picture" | "pages" | "text" | "sound" | "film"; href: string } | null;
};

/** A part as the student has it; questions come without their key. */
export type PartView = Part & {
  questions: {
    name: string;
    asked: AskedQuestion[];
    /** By question, where it may be shown. */ verdicts: Record<string, ShownVerdict>;
    triesUsed: Record<string, number>;
  } | null;
};
/** What the student is told of an answer: how it is; the key only where the teacher shows it, when all is over. */
export type ShownVerdict = Pick<Verdict, "state" | "points" | "note"> & {
  /** Each part of the answer with what the key has there. */
  rows?: AnswerLine["rows"];
};

export type WorkState = { doc: RichDoc; answers: Answers; revision: number; saved: string | null };
export type Room = { limits: Limits; used: Used };

/** Answers beside the key, for the teacher: question by question, part by part. */
export type AnswerLine = {
  /** Whose judgement the points are. */
  by: "key" | "teacher";
  questionId: string;
  text: string;
  kind: string;
  state: Verdict["state"];
  points: string | null;
  possible: string;
  note: string;
  /** Each part of the answer with what the key has there. */
  rows: { label: string; given: string; key: string; same: boolean | null }[];
  tries: number;
};
export type AnswerSheet = {
  partId: string;
  name: string;
  show: ShowTime;
  lines: AnswerLine[];
  points: string;
  possible: string;
  waiting: number;
};

/** `look`: what was asked with it. */
export type CheckpointLine = {
  id: string;
  number: number;
  round: number;
  when: string;
  words: number;
  look: { id: string; question: string } | null;
};

export type CheckpointView = {
  id: string;
  number: number;
  round: number;
  when: string;
  words: number;
  doc: RichDoc;
  items: ItemView[];
  sheets: AnswerSheet[];
  text: string;
};

export type QuestionSetView = {
  id: string;
  name: string;
  version: number;
  questions: Question[];
  revision: number;
  usedIn: number;
};
