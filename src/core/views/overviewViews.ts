import type { RichDoc } from "../text/richDoc";
import type { MoonView } from "./views";

/** What shows many pieces at once: Today, sections, sheets, the Ledger, the week sheet, the office. */

export const PILES = ["new", "again", "late", "drafted", "questions", "awaited"] as const;
export type PileKind = (typeof PILES)[number];

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
  /** Checkpoints that nobody has said a word to; `pieceId` is the one that waits longest. */
  checkpoints: {
    handOutId: string;
    title: string;
    section: string;
    count: number;
    pieceId: string;
  }[];
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
  /** A teacher whose own school it is: the office's pages are theirs too. */
  keepsSchool: boolean;
};

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
      /** When some of it goes back by itself. */ goesBack: number | null;
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
  /** Null: not given to this student, or (`takenOff`) taken off again. */
  moons: { pieceId: string | null; moon: MoonView | null; takenOff?: boolean }[];
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
  /** For acts on it from this list; it leads to the Desk only where `onDesk`. */
  pieceId: string;
  /** False: it is read without its name just now, and no name leads to it. */
  onDesk: boolean;
  student: string;
  moon: MoonView;
  state: string;
  handedIn: string | null;
  lateness: string | null;
  openRequests: number;
  settledRequests: number;
  /** Checkpoints sent in this round, while nothing of it is in. */
  checkpoints: number;
  score: string | null;
  /** Something is written that was not handed back. */ drafted: boolean;
  /** Where its feedback is, in plain words; "" where there is none. */ feedback: string;
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
  mayHandBack: boolean;
  /** "handed back Tue 14:05, read by 19 of 24"; null where nothing was. */
  readBy: string | null;
  /** Acts of handing back that wait, or went today. */
  going: { batchId: string; words: string; pieces: number; waits: boolean }[];
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
    /** By column: it was given to this student and taken off again. */
    takenOff: boolean[];
    cells: ({ pieceId: string | null; score: string | null; moon: MoonView } | null)[];
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
