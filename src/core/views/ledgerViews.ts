import type { LedgerLayout } from "../ledger/layout";
import type { CellWork } from "../ledger/cell";
import type { Shows } from "../ledger/shows";
import type { Scale } from "../scores/scales";
import type { PrivateNote } from "./deskViews";
import type { MoonView, TypedScoreView } from "./views";

export type LedgerColumn = {
  handOutId: string;
  /** What was handed out: the same in all sections that it went to. */ assignmentId: string;
  title: string;
  due: string;
  /** The day at the school, YYYY-MM-DD. */ dueOn: string;
  possible: string | null;
  /** Category, and whether it counts. */ about: string;
  /** "" where it has none. */ category: string;
  /** What its group is called, where columns are grouped. */ group?: string;
  /** In CSS pixels, where a teacher made it wider or narrower. */ width?: number | null;
  scale: Scale;
  /** Nothing is handed in here: work on paper, or in class. */ onPaper: boolean;
  /** When students see its scores, where it is on paper. */ shows: {
    when: Shows;
    from: string | null;
    on: string | null;
  };
  /** Sections side by side: what the column is in each that has it, by the section's id. */
  parts?: Readonly<Record<string, LedgerColumn>>;
};

/** What is written beside a cell: how many private notes, and whether there is a word to the student. */
export type CellNoted = { kept: number; toStudent: boolean };

export type LedgerCell = {
  /** Null: it is read without its name, and nothing can be typed here. */ pieceId: string | null;
  work: CellWork;
  /** As it counts, of what was handed back. */ score: string | null;
  /** What is typed and not handed back as it stands, as it is shown; empty: the score is taken away. */
  draft: string | null;
  /** Null: nothing is written beside it. */ noted: CellNoted | null;
  moon: MoonView;
};

export type LedgerRow = {
  /** The row's own, and its grade's: a student who is in two sections has two. */ key: string;
  studentId: string;
  /** Where sections stand side by side: whose row it is. */ section?: { id: string; name: string };
  student: string;
  /** What students are sorted by: the family name first. */ sortName: string;
  /** By column: it was given to this student and taken off again. */ takenOff: boolean[];
  cells: (LedgerCell | null)[];
};

export type LedgerView = {
  section: { id: string; name: string; course: string };
  columns: LedgerColumn[];
  rows: LedgerRow[];
};

/** A grade as the Ledger shows it: rounded, with the name of its step. */
export type LedgerGrade = {
  percent: string | null;
  name: string | null;
  /** Frozen, and what the scores would make now, where that is another grade. */ frozen?: {
    now: string | null;
  };
};
/** By the key of the row, which is the student's id where one section stands alone. */
export type LedgerGrades = Readonly<Record<string, LedgerGrade>>;

/** The Ledger with its grades and the term they are of. */
export type LedgerWithGrades = LedgerView & {
  grades: LedgerGrades;
  term: string | null;
  /** Those in which something is due here. */ terms: string[];
  /** Who looks may set up the section, or excuse and hand back. */ may: {
    handOut: boolean;
    except: boolean;
    handBack: boolean;
    setUp: boolean;
  };
  categories: string[];
  /** Since when the term's grades are frozen. */ frozen: { by: string; on: string } | null;
  /** When frozen grades of the term were opened again, and why; the newest first. */
  opened: { by: string; on: string; reason: string }[];
  /** The day it is, at the school. */ today: string;
  /** The sections that stand side by side; none where one stands alone. */
  parts?: { id: string; name: string; terms: number }[];
};

/** The Ledger as a teacher has laid it out for themselves. */
export type LedgerPage = LedgerWithGrades & {
  layout: LedgerLayout;
  /** Every column in the teacher's order, hidden or not. */
  all: { handOutId: string; title: string; due: string }[];
};

/**
 * What is written beside a cell: to the student (the overall note of the draft), and by teachers for themselves; and the
 * scores as they were typed.
 */
export type CellNotes = {
  note: string;
  revision: number;
  kept: PrivateNote[];
  typedScores: TypedScoreView[];
};

/** What became of one cell that was sent. */
export type SavedCell = { pieceId: string; cell: LedgerCell } & (
  | { outcome: "saved" }
  | { outcome: "refused"; why: string }
  /** It was changed elsewhere since it was read: `cell` is what stands there. */
  | { outcome: "conflict"; by: string }
);
export type SavedCells = {
  cells: SavedCell[];
  /** The grades of the students whose cells these are. */ grades: LedgerGrades;
};
