import type { PieceFlag } from "../pieces/flags";
import type { Outcome } from "../handingBack/outcome";
import type { Mark } from "../marks/schema";
import type { ReturnedFile } from "../rounds/cameBack";
import type { RichDoc } from "../text/richDoc";
import type { Comparison } from "../text/compare";
import type { Picks, Rubric } from "../rubrics/rubric";
import type { ClipView } from "./voiceViews";
import type { CheckpointLine, AnswerSheet, ItemView } from "./workViews";
import type {
  MoonView,
  AnsweredMark,
  MessageView,
  CopyView,
  CameBackView,
  ScoreChangeView,
  TypedScoreView,
} from "./views";

/** What the Desk shows: a piece with its draft of feedback, the pile, and ways across pieces. */

export type DraftMark = Mark & {
  by: string;
  commentId: string | null;
  againOf: string | null;
  revision: number;
};

export type EarlierMark = AnsweredMark & { ruling: "settled" | "again" | null };

export type DeskPiece = {
  id: string;
  student: string;
  called: string;
  title: string;
  section: string;
  sectionId: string;
  moon: MoonView;
  round: number;
  points: string | null;
  due: string;
  handedIn: {
    words: string;
    lateness: string;
    late: boolean;
    pressed: { exactly: string; counts: boolean } | null;
    /** Null while the piece is read without its name. */ code: string | null;
  } | null;
  versionId: string | null;
  versionCount: number;
  words: number;
  doc: RichDoc | null;
  /** Words of the unfinished copy, where nothing is handed in. */
  unfinished: string | null;
  /** The unfinished text itself, where the student knows that the teacher may read it before hand-in. */
  unfinishedDoc: RichDoc | null;
  /** Files, in order; of unfinished work only where the student knows that it may be read. */
  items: ItemView[];
  parts: { id: string; label: string; kind: string }[];
  sheets: AnswerSheet[];
  checkpoints: CheckpointLine[];
  /** The student's own copies of files. */
  copies: CopyView[];
  self: string | null;
  /** What the student says was changed since the last round; "" where nothing was said. */
  changes: string;
  /** What came back in each round, with its score. */
  rounds: { round: number; outcome: "final" | "revise"; score: string | null; when: string }[];
  /** How the score that counts comes about from those of the rounds; null with fewer than two. */
  finalWords: string | null;
  rubric: { name: string; rubric: Rubric } | null;
  picks: Picks;
  /** What can be typed as a score, for example. */
  scoreHint: string | null;
  /** What a score is typed out of; null where it is a letter, a level, a share: nobody types "8 of 10" there. */
  scoreOf: string | null;
  /** No further round can be opened. */
  lastRound: boolean;
  overall: string;
  scoreTyped: string;
  scoreWords: string | null;
  revision: number;
  /** Why the score differs from the rubric's sum. */
  scoreReason: string;
  /** Where a score that was handed back was changed after, with who, when and why. */
  scoreChanges: ScoreChangeView[];
  /** Scores as they were typed, here or in the Ledger. */ typedScores: TypedScoreView[];
  marks: DraftMark[];
  /** The voices of its marks, its thread and its instructions. */
  clips: ClipView[];
  /** How long a voice note may be, in seconds. */
  voiceSeconds: number;
  earlier: EarlierMark[];
  comparison: Comparison | null;
  thread: MessageView[];
  threadClosed: boolean;
  /** What was said about single marks of this round, with their words. */
  markTalk: { markId: string; quote: string; said: string; messages: MessageView[] }[];
  handedBack: (CameBackView & { seen: string | null; changedSince: boolean }) | null;
  mayHandBack: boolean;
  /** What the draft says will happen to the piece; null: nothing yet. */
  outcome: Outcome | null;
  /** It goes back by itself at a time. */
  goes: { batchId: string; words: string } | null;
  /** Files that go back with the draft. */
  returned: ReturnedFile[];
  /** Where the feedback is, in the words of every list. */
  standing: string;
  suggestedDue: string;
  lastBy: string | null;
  handOutId: string;
  studentId: string | null;
  /** Names are hidden until it is handed back. */
  anonymous: boolean;
  flag: PieceFlag | null;
  privateNotes: PrivateNote[];
  /** The task as the student has it, and what was given with it. */
  task: {
    instructions: RichDoc;
    voice: string | null;
    materials: { title: string; href: string | null; doc: RichDoc | null }[];
  };
  /** Earlier hand-ins, to look at and compare with: the newest first. */
  versions: { id: string; number: number; round: number; when: string; words: number }[];
  /** The student's other work that came back, the newest first. */
  otherWork: {
    pieceId: string;
    title: string;
    score: string | null;
    overall: string;
    when: string;
  }[];
  /** Changes whenever anything of the draft does. */
  stamp: string;
};

export type VersionShown = {
  id: string;
  round: number;
  when: string;
  doc: RichDoc;
  items: ItemView[];
  sheets: AnswerSheet[];
  comparison: Comparison | null;
};

export type PrivateNote = {
  id: string;
  about: "piece" | "student";
  by: string;
  mine: boolean;
  body: string;
  when: string;
  files: { id: string; name: string; href: string }[];
};

export type QueueItem = {
  pieceId: string;
  student: string;
  /** Null while the piece is read without its name. */ studentId: string | null;
  sortName: string;
  handOut: string;
  handOutId: string;
  section: string;
  moon: MoonView;
  drafted: boolean;
  handedInAt: string | null;
};

export type DeskQueue = { items: QueueItem[]; seconds: number[] };

/** What a teacher can set for themselves; the database lists the same. */
export const SETTINGS = [
  "desk.keys",
  "desk.stamps",
  "desk.order",
  "desk.place",
  "desk.hold",
  "desk.strip",
  "desk.margin",
  "letters",
  "aloud",
  "guides",
] as const;

export type SettingName = (typeof SETTINGS)[number];

export type AcrossLine = {
  pieceId: string;
  student: string;
  moon: MoonView;
  text: string;
  /** The words that marks about this criterion stand on. */ passages: {
    start: number;
    end: number;
    body: string;
  }[];
  picks: Picks;
  revision: number;
  locked: string | null;
};

export type AcrossCriterion = {
  handOut: string;
  section: string;
  rubric: { name: string; rubric: Rubric };
  /** The one gone through. */ criterionId: string;
  lines: AcrossLine[];
};

export type QuestionGroups = {
  partId: string;
  questionId: string;
  number: number;
  text: string;
  kind: string;
  possible: string;
  key: string;
  groups: {
    key: string;
    shown: string;
    also: string[];
    state: AnswerSheet["lines"][number]["state"];
    keyPoints: string | null;
    points: string | null;
    given: { pieceId: string; student: string; own: string | null; excepted: boolean }[];
  }[];
};

export type AcrossQuestions = { handOut: string; section: string; questions: QuestionGroups[] };

export type Touched = {
  pieceId: string;
  student: string;
  before: string;
  after: string;
  score: "followed" | "looks different" | "none";
}[];

export type Here = { others: string[]; stamp: string; lastBy: string | null };
