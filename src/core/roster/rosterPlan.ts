import type { Day } from "../time/zone";
import type {
  RosterTerm,
  RosterPerson,
  RosterSection,
  RosterTeacher,
  RosterEnrolment,
  RosterProblem,
  Roster,
} from "./roster";

/** What the school has now; ids are the database's. */
export type CurrentRoster = {
  terms: (Omit<RosterTerm, "ref"> & { id: string })[];
  people: (Omit<RosterPerson, "ref"> & { id: string })[];
  sections: (Omit<RosterSection, "ref" | "termRef"> & {
    id: string;
    courseId: string;
    termId: string;
  })[];
  teachers: { sectionId: string; personId: string; owner: boolean }[];
  enrolments: { sectionId: string; personId: string; joinedOn: Day; leftOn: Day | null }[];
  guardians: { guardianId: string; studentId: string }[];
};

export const AREAS = [
  "terms",
  "people",
  "sections",
  "teachers",
  "enrolments",
  "guardians",
] as const;

export type Area = (typeof AREAS)[number];
export type ChangeLine = { area: Area; what: "new" | "changed" | "gone"; words: string };
export type Counts = Record<
  Area,
  { new: number; changed: number; gone: number; unchanged: number }
>;

/** Each list holds what has to be written; `id` is null for what is new. */
export type RosterPlan = {
  terms: { id: string | null; term: RosterTerm }[];
  people: { id: string | null; person: RosterPerson }[];
  sections: { id: string | null; section: RosterSection }[];
  teachers: { add: RosterTeacher[]; remove: { sectionId: string; personId: string }[] };
  enrolments: {
    add: RosterEnrolment[];
    change: (RosterEnrolment & { sectionId: string; personId: string })[];
    end: { sectionId: string; personId: string }[];
  };
  guardians: { guardianRef: string; studentRef: string }[];
  /** From a ref of the file to the id it has in the school already. */
  known: { people: Map<string, string>; sections: Map<string, string>; terms: Map<string, string> };
  lines: ChangeLine[];
  counts: Counts;
  problems: RosterProblem[];
};

type Note = (area: Area, what: "new" | "changed" | "gone", words: string) => void;
export type Planning = { wanted: Roster; current: CurrentRoster; plan: RosterPlan; note: Note };
