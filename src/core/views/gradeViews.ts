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
};

/** The terms in which a section has work, and the one that is looked at. */
export type GradeTerms = { terms: string[]; term: string | null };
