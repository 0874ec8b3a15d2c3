import type { GradeCategory, GradeColumn, GradeEntry } from "../grades/grade";
import type { GradeRules } from "../grades/rules";

/** All that one student's grade in a section and a term comes from: it is computed where it is shown. */
export type GradeSource = {
  sectionId: string;
  section: string;
  course: string;
  /** Null: no term is known, so all work counts. */ term: string | null;
  rules: GradeRules;
  categories: GradeCategory[];
  columns: (GradeColumn & { due: string })[];
  student: { id: string; name: string };
  entries: GradeEntry[];
  /** Since when it stands, where the term's grades were frozen. */ frozen: FrozenView | null;
};

/** A grade that was frozen: changes of scores move it no more; corrections have a reason, the newest first. */
export type FrozenView = {
  by: string;
  on: string;
  corrections: { from: string; to: string; reason: string; by: string; on: string }[];
  /** For teachers: what the scores would make now, where that is another grade. */ now:
    string | null;
};

/** The terms in which a section has work, and the one that is looked at. */
export type GradeTerms = { terms: string[]; term: string | null };
