import type { BankComment } from "../comments/schema";
import type { Decision } from "../marks/edits";
import type { Mark } from "../marks/schema";
import type { PieceState } from "../pieces/life";
import type { RichDoc } from "../text/richDoc";
import type { Comparison } from "../text/compare";
import type { SelfAssessment } from "../handouts/plan";
import type { Picks, Rubric } from "../rubrics/rubric";
import type { SectionNotes } from "./sectionNoteViews";
import type { ClipView } from "./voiceViews";
import type { AnswerSheet, ItemView, PartView, Room, WorkState } from "./workViews";

/** What pages and routes hand out: plain objects, never table rows. Times are in words, and as ISO instants where code needs them. */

/** Everything a moon needs. */
export type MoonView = {
  state: PieceState;
  round: number;
  late: boolean;
  missing: boolean;
  excused: boolean;
};

export type RequestState = "open" | "done" | "settled" | "asked again";

/** A mark as it was handed back, with what the student did about it. */
export type AnsweredMark = Omit<Mark, "start" | "end"> & {
  /** The round it was made in. */
  round: number;
  /** Where it stands in the text shown; null: it is not on the text, or its words are gone. */
  at: { start: number; end: number } | null;
  /** What it stood on is not in the work shown. */
  gone: boolean;
  request: RequestState | null;
  decision: Decision | null;
  messages: MessageView[];
};

/** `checkpoint`: the number of the checkpoint it is about. */
export type MessageView = {
  id: string;
  clipId: string | null;
  author: string;
  mine: boolean;
  body: string;
  when: string;
  checkpoint: number | null;
};

export type Receipt = {
  code: string;
  version: number;
  round: number;
  handedInAt: string;
  exactly: string;
  /** Pressed without a connection: the device's time, and whether it counts. */ pressed: {
    exactly: string;
    counts: boolean;
  } | null;
  lateness: string;
  late: boolean;
  words: number;
  sha256: string;
  files: { name: string; size: number; sha256: string }[];
};
export type CheckedReceipt = {
  pieceId: string;
  student: string;
  title: string;
  section: string;
  receipt: Receipt;
};

/** A student's own piece, whole. */
export type PieceView = {
  id: string;
  title: string;
  instructions: RichDoc;
  section: string;
  course: string;
  teacher: string;
  expects: "work" | "nothing";
  moon: MoonView;
  round: number;
  due: { words: string; iso: string; lateness: string | null };
  closes: string | null;
  promised: string | null;
  points: string | null;
  mayTakeBack: boolean;
  materials: MaterialView[];
  selfAssessment: SelfAssessment | null;
  wordGoal: { least: number | null; most: number | null };
  /** The teacher may read the work before it is handed in. */
  openBefore: boolean;
  notices: { words: string; when: string }[];
  late: string | null;
  roundsRule: string | null;
  rubric: { name: string; rubric: Rubric } | null;
  /** The sentence that says why the text cannot be changed now; null: it can. */
  locked: string | null;
  takeBackRefused: string | null;
  work: WorkState;
  /** What is asked, in order, and what is there of it beside the writing. */
  parts: PartView[];
  items: ItemView[];
  room: Room;
  checkpoints: { id: string; number: number; round: number; when: string; words: number }[];
  /** It closed before anything was handed in; it can be asked to be opened again. */
  mayAskToReopen: boolean;
  receipts: Receipt[];
  cameBack: CameBackView[];
  marks: AnsweredMark[];
  /** The files that marks stand on, as they were handed in. */
  markedItems: ItemView[];
  openRequests: number;
  thread: MessageView[];
  rounds: { number: number; words: string }[];
  zone: string;
  /** The voices of its marks, its thread and its instructions. */
  clips: ClipView[];
  /** What was said to all the students of this hand-out. */
  toClass: SectionNotes;
  /** The instructions, spoken. */
  voice: string | null;
  /** How long a spoken reply may be, in seconds. */
  replySeconds: number;
  /** The teacher wants texts to be read aloud to this student. */
  aloud: boolean;
};

/** A material as a student has it; `own`: their own copy of a file, which they can change. */
export type MaterialView = {
  id: string;
  kind: "file" | "link" | "text";
  title: string;
  href: string | null;
  doc: RichDoc | null;
  own: { uploadId: string; when: string | null } | null;
};
export type CopyView = { materialId: string; title: string; uploadId: string; when: string | null };

export type CameBackView = {
  round: number;
  outcome: "final" | "revise";
  overall: string;
  score: string | null;
  deduction: string | null;
  rubric: {
    name: string;
    lines: { criterion: string; level: string; descriptor: string; points: string }[];
  } | null;
  by: string;
  when: string;
  nextDue: string | null;
};

/** A line of My work. */
export type WorkItem = {
  pieceId: string;
  title: string;
  section: string;
  moon: MoonView;
  due: string;
  dueDay: string;
  lateness: string | null;
  openRequests: number;
  news: string | null;
  score: string | null;
  sectionId: string;
  /** The last word on the whole, where it came back. */
  overall: string | null;
};
export type WorkView = {
  sections: { id: string; name: string }[];
  /** New since the visit before this one. */ fresh: {
    since: string | null;
    lines: { pieceId: string; title: string; words: string; when: string }[];
  };
  needsYou: WorkItem[];
  dueByDay: { day: string; items: WorkItem[] }[];
  waiting: WorkItem[];
  finished: WorkItem[];
};

/** A mark in a teacher's draft. */
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
    code: string;
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
  checkpoints: { id: string; number: number; round: number; when: string; words: number }[];
  /** The student's own copies of files. */
  copies: CopyView[];
  self: string | null;
  rubric: { name: string; rubric: Rubric } | null;
  picks: Picks;
  /** What can be typed as a score, for example. */
  scoreHint: string | null;
  /** No further round can be opened. */
  lastRound: boolean;
  overall: string;
  scoreTyped: string;
  scoreWords: string | null;
  revision: number;
  /** Why the score differs from the rubric's sum. */
  scoreReason: string;
  marks: DraftMark[];
  /** The voices of its marks, its thread and its instructions. */
  clips: ClipView[];
  /** How long a voice note may be, in seconds. */
  voiceSeconds: number;
  earlier: EarlierMark[];
  comparison: Comparison | null;
  thread: MessageView[];
  handedBack: (CameBackView & { seen: string | null; changedSince: boolean }) | null;
  mayHandBack: boolean;
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

/** An earlier hand-in as it was, and what changed from it to the one on the Desk. */
export type VersionShown = {
  id: string;
  round: number;
  when: string;
  doc: RichDoc;
  items: ItemView[];
  comparison: Comparison | null;
};

export const PIECE_FLAGS = ["away", "unfinished", "on paper"] as const;
export type PieceFlag = (typeof PIECE_FLAGS)[number];
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
  sortName: string;
  handOut: string;
  handOutId: string;
  section: string;
  moon: MoonView;
  drafted: boolean;
  handedInAt: string | null;
};

/** `seconds`: what this teacher spent on each piece of the pile that they have read. */
export type DeskQueue = { items: QueueItem[]; seconds: number[] };

/** What a teacher can set for themselves; the database lists the same. */
export const SETTINGS = ["desk.keys", "desk.stamps", "desk.order", "desk.place", "aloud"] as const;
export type SettingName = (typeof SETTINGS)[number];

/** `favourite`, `mine`: of the one who reads. */
export type CommentView = BankComment & {
  id: string;
  usedCount: number;
  lastUsed: string | null;
  revision: number;
  mine: boolean;
  owner: string;
};
/** How comments were used, for suggestions; by comment. */
export type CommentUses = Record<string, { here: number; on: string[]; days: number | null }>;

/** A student's piece in a row of pieces looked at for one criterion, or one question. */
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
/** Whom a judgement touched: what their answers earned by the key and earn now, and whether a score followed. */
export type Touched = {
  pieceId: string;
  student: string;
  before: string;
  after: string;
  score: "followed" | "looks different" | "none";
}[];

/** Who else is at a piece, and whether what one has is still what is there. */
export type Here = { others: string[]; stamp: string; lastBy: string | null };

// ---- overviews ----------------------------------------------------------------------------------

export const PILES = ["new", "again", "late", "drafted", "questions", "awaited"] as const;
export type PileKind = (typeof PILES)[number];

/** One hand-out's share in a pile. */
export type PileShare = {
  handOutId: string;
  title: string;
  section: string;
  count: number;
  oldest: string | null;
  promised: string | null;
  /** The promised date has passed. */ overdue: boolean;
};
export type Pile = { kind: PileKind; count: number; shares: PileShare[] };

export type HandOutSummary = {
  id: string;
  title: string;
  section: string;
  sectionId: string;
  due: string;
  promised: string | null;
  counts: {
    in: number;
    late: number;
    started: number;
    notOpened: number;
    back: number;
    revise: number;
    of: number;
  };
};
export type TodayView = {
  piles: Pile[];
  handOuts: HandOutSummary[];
  sheet: { time: string; what: string; href: string }[];
  /** Answers to the class that wait to be read. */ answers: {
    handOutId: string;
    title: string;
    section: string;
    count: number;
  }[];
  sections: number;
};

export type MastheadView = {
  day: string;
  week: string;
  school: string;
  name: string;
  kind: "teacher" | "student" | "guardian" | "office";
};

/** The ribbon: days from two weeks back to three ahead, and a lane per section. */
export type RibbonView = {
  days: { day: string; label: string; weekday: string; today: boolean; closed: string | null }[];
  lanes: {
    sectionId: string;
    section: string;
    lines: {
      handOutId: string;
      title: string;
      from: number;
      due: number;
      closes: number | null;
      promised: number | null;
      /** Lines that do not overlap share a row. */ row: number;
    }[];
  }[];
};

export type SectionSummary = {
  id: string;
  name: string;
  course: string;
  students: number;
  handOuts: number;
  role: string;
};
export type RosterLine = {
  studentId: string;
  name: string;
  moons: { pieceId: string | null; moon: MoonView | null }[];
};
export type SectionView = {
  id: string;
  name: string;
  course: string;
  teachers: { name: string; role: string }[];
  mayHandOut: boolean;
  handOuts: { id: string; title: string; due: string }[];
  roster: RosterLine[];
};

export type SheetLine = {
  pieceId: string;
  student: string;
  moon: MoonView;
  state: string;
  handedIn: string | null;
  lateness: string | null;
  openRequests: number;
  settledRequests: number;
  score: string | null;
  seen: string | null;
  studentId: string;
  excused: boolean;
  /** Another due time than the hand-out's, and where it comes from. */
  ownDue: { words: string; wall: string; from: "teacher" | "group" } | null;
  version: string | null;
  versionId: string | null;
  left: boolean;
};
export type HandOutSheet = {
  id: string;
  title: string;
  section: string;
  sectionId: string;
  course: string;
  instructions: RichDoc;
  opens: string;
  due: string;
  closes: string | null;
  promised: string | null;
  grace: number;
  points: string | null;
  expects: "work" | "nothing";
  revision: number;
  withdrawn: string | null;
  archived: boolean;
  opensLater: boolean;
  deletable: boolean;
  mayChange: boolean;
  counting: string;
  late: string;
  rounds: string;
  category: string | null;
  wallDue: string;
  versions: { id: string; name: string }[];
  /** Students of the section who do not have it: never given, or taken away. */
  others: { studentId: string; student: string; taken: boolean }[];
  alsoIn: { id: string; section: string }[];
  lines: SheetLine[];
  history: { when: string; who: string; what: string }[];
};

export type LedgerView = {
  section: { id: string; name: string; course: string };
  columns: {
    handOutId: string;
    title: string;
    due: string;
    possible: string | null;
    /** Category, and whether it counts. */ about: string;
  }[];
  rows: {
    studentId: string;
    student: string;
    cells: ({ pieceId: string; score: string | null; moon: MoonView } | null)[];
  }[];
};

export type WeekChild = {
  name: string;
  lines: { title: string; section: string; due: string; state: string; moon: MoonView }[];
};
export type WeekView = { children: WeekChild[] };
export type OfficeView = {
  school: string;
  counts: { what: string; count: number }[];
  sections: { name: string; course: string; owner: string; students: number }[];
  events: { when: string; who: string; what: string }[];
};
