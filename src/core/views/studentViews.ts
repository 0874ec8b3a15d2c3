import type { CourseCategory, CourseScore, CourseWeek } from "../figures/course";
import type { SentLetter } from "./letterViews";
import type { SheetLine } from "./overviewViews";

/** Over all that came back: requests, and how many rounds it took until it was handed back for good. */
export type OverTime = {
  asked: number;
  settled: number;
  open: number;
  again: number;
  back: number;
  rounds: string | null;
};
/** A comment of the bank that came on several pieces; `since`: so many pieces came back without it afterwards. */
export type AgainAndAgain = { text: string; pieces: number; last: string; since: number };

/** A section, whole and student by student. */
export type SectionOverTime = {
  all: OverTime;
  students: (OverTime & { studentId: string; student: string })[];
  comments: AgainAndAgain[];
  /** By the week in which pieces were due. */ weeks: (CourseWeek & { week: string })[];
};

/** One student across a teacher's sections, for a meeting. */
export type StudentPage = {
  student: string;
  studentId: string;
  sections: { id: string; name: string; course: string }[];
  lines: (SheetLine & { title: string; section: string; handOutId: string; due: string })[];
  overTime: OverTime;
  /** What was scored and told, over the term. */
  course: { scores: (CourseScore & { day: string })[]; categories: CourseCategory[] };
  comments: AgainAndAgain[];
  talk: { pieceId: string; title: string; author: string; body: string; when: string }[];
  /** To them or about them, with what came back. */ letters: SentLetter[];
  /** The teachers' own; never printed, and in nothing a student or guardian can fetch. */
  notes: { author: string; body: string; when: string; section: string }[];
};
