import type { SheetLine } from "./overviewViews";

/** One student across a teacher's sections, for a meeting. */
export type StudentPage = {
  student: string;
  sections: { name: string; course: string }[];
  lines: (SheetLine & { title: string; section: string; handOutId: string; due: string })[];
  /** Over all that came back: requests, and how many rounds it took until it was handed back for good. */
  overTime: {
    asked: number;
    settled: number;
    open: number;
    again: number;
    back: number;
    rounds: string | null;
  };
  /** Comments of the bank that came on several pieces; `since`: so many pieces came back without it afterwards. */
  comments: { text: string; pieces: number; last: string; since: number }[];
  talk: { pieceId: string; title: string; author: string; body: string; when: string }[];
  /** The teachers' own; never printed, and in nothing a student or guardian can fetch. */
  notes: { author: string; body: string; when: string; section: string }[];
};
