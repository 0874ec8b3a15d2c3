import type { CategoryShows } from "../ledger/shows";
import type { GradeRules, GradeScale } from "../grades/rules";
import type { ClassToSignIn } from "./accountViews";
import type { ExtraTime } from "../handouts/extraTime";
import type { LatePolicy } from "../scores/latePolicy";
import type { Rubric } from "../rubrics/rubric";
import type { Meeting } from "../time/lessons";
import type { SchoolCalendar } from "../time/term";
import type { ClassAnswers } from "../sectionNotes/sectionNote";
import type { ChangeLine, Counts } from "../roster/rosterPlan";

/** Views of handing out, classes and the calendar; see views.ts for the rest. */
export type FormSection = {
  id: string;
  name: string;
  course: string;
  late: LatePolicy;
  categories: string[];
  meetings: Meeting[];
  students: { id: string; name: string }[];
  groups: { id: string; name: string; members: string[]; extra: ExtraTime | null }[];
};
export type RubricChoice = { id: string; name: string; possible: string; rubric: Rubric };
export type HandOutFormView = {
  /** Wall-clock time of the school. */
  now: string;
  zone: string;
  calendar: SchoolCalendar;
  dayEnds: string;
  sections: FormSection[];
  /** Per student the days on which other work is due. */
  dueDays: Record<string, string[]>;
  rubrics: RubricChoice[];
  /** Sets of questions on the Shelf. */
  sets: { id: string; name: string; questions: number }[];
};

export type UploadView = { id: string; name: string; mediaType: string; size: number };

/** How a teacher's section is set up: its people, times, groups, and what holds for all its hand-outs. */
export type SectionSetUp = {
  id: string;
  name: string;
  course: string;
  term: { name: string; startsOn: string; endsOn: string };
  mayChange: boolean;
  /** Null: passwords are not this teacher's to give. */
  toSignIn: ClassToSignIn | null;
  today: string;
  meetings: (Meeting & { id: string })[];
  teachers: { id: string; name: string; role: "owner" | "co-teacher"; mayHandBack: boolean }[];
  students: {
    id: string;
    name: string;
    email: string | null;
    joinedOn: string;
    leftOn: string | null;
    /** Texts are read aloud to them unless they switch it off. */ readAloud: boolean;
    groups: string[];
  }[];
  /** How long a voice note and a student's reply may be. */
  voiceSeconds: number;
  replySeconds: number;
  /** Whether students answer to the class. */
  classAnswers: ClassAnswers;
  groups: {
    id: string;
    name: string;
    extra: ExtraTime | null;
    members: string[];
    revision: number;
  }[];
  late: LatePolicy;
  categories: {
    id: string;
    name: string;
    weight: string;
    drop: number;
    /** When students see the scores of its columns on paper. */ shows: CategoryShows;
  }[];
  gradeRules: GradeRules;
  /** Scales of the school, to be taken over. */ gradeScales: GradeScale[];
};

export type RosterReport = {
  counts: Counts;
  /** The first of them; `counts` says how many there are. */
  lines: ChangeLine[];
  problems: { where: string; words: string }[];
  problemCount: number;
  notes: string[];
  encoding: string | null;
};
export type RosterRunView = {
  id: string;
  name: string;
  state: "checked" | "applying" | "applied" | "failed";
  report: RosterReport;
  progress: string;
  changes: number;
  when: string;
  by: string;
};

export type CalendarDay = {
  day: string;
  inMonth: boolean;
  today: boolean;
  closed: string | null;
  week: number | null;
};
export type CalendarItem = {
  handOutId: string;
  title: string;
  sectionId: string;
  section: string;
  day: string;
  clock: string;
  what: "due" | "opens" | "closes" | "promised";
  students: number;
  mayMove: boolean;
};
/** Load: how many things the students of a section have due on a day, at most; from two on it is shown. */
export type CalendarView = {
  title: string;
  month: string;
  previous: string;
  next: string;
  weeks: CalendarDay[][];
  items: CalendarItem[];
  loads: { day: string; students: number; most: number }[];
  sections: { id: string; name: string }[];
  meetsOn: number[];
};
export type TermView = {
  term: string;
  previous: string | null;
  next: string | null;
  weeks: { week: number | null; from: string; closed: string[]; items: CalendarItem[] }[];
};

export type SchoolCalendarView = {
  meetsOn: number[];
  dayEnds: string;
  terms: {
    id: string;
    name: string;
    startsOn: string;
    endsOn: string;
    used: number;
    imported: boolean;
  }[];
  closures: { id: string; name: string; startsOn: string; endsOn: string; source: string | null }[];
};
export type ClosureImportLine = {
  key: string;
  name: string;
  startsOn: string;
  endsOn: string;
  allDay: boolean;
  recurring: boolean;
  what: "new" | "changed" | "unchanged";
};
export type ClosureImport = {
  source: string;
  lines: ClosureImportLine[];
  gone: { id: string; name: string; startsOn: string }[];
  faults: string[];
  notes: string[];
  /** Time zones the file names and nobody knows: what they mean is asked. */
  unknownZones: string[];
  applied: number;
};
export type FeedView = { path: string | null; alarmMinutes: number | null };

export type RubricView = {
  id: string;
  name: string;
  version: number;
  rubric: Rubric;
  possible: string;
  revision: number;
  usedIn: number;
  scoredWith: number;
};
export type ShelfAssignment = {
  handOutId: string;
  title: string;
  course: string;
  sections: string[];
  due: string;
  archived: boolean;
  withdrawn: boolean;
};
export type ShelfView = {
  drafts: { id: string; title: string; sections: string[]; when: string; kept: boolean }[];
  assignments: ShelfAssignment[];
  files: (UploadView & { when: string; usedIn: number })[];
  rubrics: RubricView[];
};
