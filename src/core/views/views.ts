import type { SentFile } from "../threads/message";
import type { BankComment } from "../comments/schema";
import type { Decision } from "../marks/edits";
import type { Mark } from "../marks/schema";
import type { PieceState } from "../pieces/life";
import type { RichDoc } from "../text/richDoc";
import type { SelfAssessment } from "../handouts/plan";
import type { ReturnedFile } from "../rounds/cameBack";
import type { Picks, Rubric } from "../rubrics/rubric";
import type { ForReaders, PieceLooks } from "./lookViews";
import type { SectionNotes } from "./sectionNoteViews";
import type { ClipView } from "./voiceViews";
import type { CheckpointLine, ItemView, PartView, Room, WorkState } from "./workViews";

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
  /** Its words are gone: what stood around them, and where it could be put in the text shown; null: nowhere. */
  lost?: { left: string; right: string; likely: { start: number; end: number } | null };
  /** Who said it in a look or on a display; absent: the teacher, in what was handed back. */ from?: string;
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
  files: SentFile[];
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
  pieceId: string | null;
  student: string;
  title: string;
  section: string;
  receipt: Receipt;
};

/** `reason`: for teachers alone; empty to students. */
/** A score as it was typed into a draft; "": taken away. */
export type TypedScoreView = { round: number; typed: string; by: string; when: string };

export type ScoreChangeView = {
  round: number;
  words: string;
  rose: boolean;
  by: string;
  when: string;
  reason: string;
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
  /** It was taken off, or the hand-out withdrawn: to be read and fetched, and nothing more. */
  takenOff: boolean;
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
  checkpoints: CheckpointLine[];
  /** It closed before anything was handed in; it can be asked to be opened again. */
  mayAskToReopen: boolean;
  receipts: Receipt[];
  cameBack: CameBackView[];
  marks: AnsweredMark[];
  /** The files that marks stand on, as they were handed in. */
  markedItems: ItemView[];
  openRequests: number;
  /** Where a score that was handed back was changed after. */ scoreChanges: ScoreChangeView[];
  thread: MessageView[];
  /** A teacher closed it: it is read, not written in. */ threadClosed: boolean;
  rounds: { number: number; words: string }[];
  zone: string;
  /** The voices of its marks, its thread and its instructions. */
  clips: ClipView[];
  /** What was said to all the students of this hand-out. */
  toClass: SectionNotes;
  /** Looks that were asked for, and whom to ask. */
  looks: PieceLooks;
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
    /** The whole of it as it was then, and the levels that were chosen. */
    whole: Rubric;
    picks: Picks;
  } | null;
  by: string;
  when: string;
  nextDue: string | null;
  /** What is said of the round it opens: in words, and the parts that are to be worked on (none: all). */
  asked: { words: string[]; parts: string[] };
  /** Files that came back with it. */
  files: ReturnedFile[];
};

/** One round as it came back, on the version its marks were made on. */
export type RoundView = {
  round: number;
  back: CameBackView;
  /** When that version was handed in; null where nothing was. */
  handedIn: string | null;
  doc: RichDoc;
  items: ItemView[];
  /** Of these the files that marks stand on. */
  markedItems: string[];
  marks: AnsweredMark[];
  clips: ClipView[];
};

/** A line of My work. */

export type WorkItem = {
  pieceId: string;
  /** Something came back that was not looked at. */ unseen: boolean;
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
  /** Begun, and taken off since: still theirs to read. */
  takenOff: { pieceId: string; title: string; section: string; when: string }[];
  sections: { id: string; name: string }[];
  /** New since the visit before this one. */ fresh: {
    since: string | null;
    lines: { pieceId: string; title: string; words: string; when: string }[];
  };
  /** Letters that were not read. */ letters: number;
  /** What classmates ask and show. */ forReaders: ForReaders;
  needsYou: WorkItem[];
  dueByDay: { day: string; items: WorkItem[] }[];
  waiting: WorkItem[];
  finished: WorkItem[];
};

/** A mark in a teacher's draft. */

/** An earlier hand-in as it was, and what changed from it to the one on the Desk. */

/** `seconds`: what this teacher spent on each piece of the pile that they have read. */

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

/** Whom a judgement touched: what their answers earned by the key and earn now, and whether a score followed. */

/** Who else is at a piece, and whether what one has is still what is there. */

/** One hand-out's share in a pile. */

/** The ribbon: days from two weeks back to three ahead, and a lane per section. */
