import type { Language } from "../language/languages";
import type { LetterKeys } from "../desk/settings";
import type { PieceFlag } from "../pieces/flags";
import type { Meeting } from "../time/lessons";
import type { OverTime } from "./studentViews";
import type { Findable } from "../search/search";
import type { RichDoc } from "../text/richDoc";
import type { MoonView } from "./views";

/** What shows many pieces at once: Today, sections, sheets, the Ledger, the week sheet, the office. */

type NamedHandOut = { handOutId: string; title: string; section: string };

/** What waits, fitted into a teacher's free time. */
export type ReadingPlanView = {
  sittings: {
    day: string;
    from: string;
    to: string;
    reads: (NamedHandOut & { pieces: number; minutes: number })[];
  }[];
  outlooks: (NamedHandOut & {
    pieces: number;
    promised: string | null;
    broken: boolean;
    /** The day on which all of it is read; null: not within the plan. */ done: string | null;
    /** Pieces that are not read by the promise. */ late: number;
    minutesShort: number;
    /** A promise that would be kept, as wall-clock time. */ better: string | null;
  })[];
  times: Meeting[];
  /** They were typed; else they are what is free between lessons. */ own: boolean;
  /** Some of the minutes are guessed: the pace is not known yet. */ guessed: boolean;
  /** Promises of this term that came due. */ kept: { kept: number; of: number };
};

/** Something found by a few letters, and where it is. */
export type FoundView = Findable;

export const PILES = ["new", "again", "late", "drafted", "questions", "awaited"] as const;
export type PileKind = (typeof PILES)[number];

export type Pile = { kind: PileKind; count: number };

/** What is counted on a line of Today. */
export const LINE_COUNTS = [
  "new",
  "again",
  "late",
  "drafted",
  "questions",
  "checkpoints",
  "answers",
  "shown",
] as const;
export type LineCount = (typeof LINE_COUNTS)[number];

/** A hand-out of which something waits for the teacher. */
export type TodayLine = {
  handOutId: string;
  title: string;
  section: string;
  /** Pieces by pile, questions, checkpoints nobody said a word to, answers to the class, and what was said of shown work. */
  counts: Record<LineCount, number>;
  /** The piece whose checkpoint waits longest. */ checkpointPieceId: string | null;
  /** Since when the oldest of it waits. */ oldest: string | null;
  /** Where something of what was promised is not back. */ promised: string | null;
  broken: boolean;
  /** To read what is in, at this teacher's own pace; null: not known yet. */ minutes:
    number | null;
};

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
  /** The most pressing first. */ lines: TodayLine[];
  handOuts: HandOutSummary[];
  sheet: { time: string; what: string; href: string }[];
  /** Answers to letters that nobody has read. */ letters: number;
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
  /** What single letters do as keys. */ letters: LetterKeys;
  /** The screens a teacher was told of; of others there is nothing to tell. */ guides: string[];
};

export type RibbonView = {
  /** Two weeks back and three ahead, instead of this week and next. */ long: boolean;
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
  /** A teacher's word on it; null also where names are hidden. */ flag: PieceFlag | null;
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
  /** It came back, and its student has not looked since. */ unread: boolean;
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
  /** Requests and rounds of all its pieces. */ overTime: OverTime;
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

/** A piece that waits for its teacher. */
export type TickLine = {
  pieceId: string;
  student: string;
  handOut: string;
  handOutId: string;
  section: string;
  moon: MoonView;
  /** Feedback is begun on it. */ drafted: boolean;
  /** In words; null: not in, or read without its name. */ came: string | null;
  isIn: boolean;
  /** Its student asked something. */ asks: boolean;
};

export type WeekLine = {
  title: string;
  section: string;
  due: string;
  state: string;
  moon: MoonView;
  /** That the student was told. */ score: string | null;
  /** When it came back, where that was in this week. */ back: string | null;
};

/** What a teacher wrote to the guardian in this week. */
export type WeekLetter = {
  id: string;
  from: string;
  when: string;
  subject: string;
  body: string;
  unread: boolean;
};

export type WeekChild = { id: string; name: string; lines: WeekLine[]; letters: WeekLetter[] };

export type WeekView = {
  language: Language;
  /** From Monday to Sunday, in words. */ words: string;
  /** The week that is now. */ present: boolean;
  /** The Mondays of the weeks before and after; null: there is none to see. */ earlier:
    string | null;
  later: string | null;
  children: WeekChild[];
  /** Whether the sheet is said by mail at the end of the week. */ mail: {
    on: boolean;
    address: string | null;
  };
};

export type OfficeView = {
  school: string;
  counts: { what: string; count: number }[];
  /** Those that are listed, of those that were found. */ sections: {
    name: string;
    course: string;
    owner: string;
    students: number;
  }[];
  found: number;
  /** All there are. */ courses: string[];
  events: { when: string; who: string; what: string }[];
};
