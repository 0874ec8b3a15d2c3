import type { PersonKind } from "../access/access";
import type { Day } from "../time/zone";

/**
 * A school's people and classes as a file tells them, whatever its format. Things refer to each other
 * by `ref`, which is unique within the file.
 */
export type RosterPerson = {
  ref: string;
  /** The records system's own id, kept so that the same person is found again; null in a plain table. */
  sourceId: string | null;
  kind: PersonKind;
  name: string;
  called: string;
  sortName: string;
  email: string | null;
  schoolName: string | null;
};
export type RosterTerm = {
  ref: string;
  sourceId: string | null;
  name: string;
  startsOn: Day;
  endsOn: Day;
};
export type RosterSection = {
  ref: string;
  sourceId: string | null;
  name: string;
  course: string;
  courseSourceId: string | null;
  /** Null: the term the school is in. */ termRef: string | null;
};
export type RosterTeacher = { sectionRef: string; personRef: string; owner: boolean };
export type RosterEnrolment = {
  sectionRef: string;
  personRef: string;
  /** Null: not said. */ joinedOn: Day | null;
  leftOn: Day | null;
};
export type RosterGuardian = { guardianRef: string; studentRef: string };

export type Roster = {
  terms: RosterTerm[];
  people: RosterPerson[];
  sections: RosterSection[];
  teachers: RosterTeacher[];
  enrolments: RosterEnrolment[];
  guardians: RosterGuardian[];
  /** Who leaves, where a file names it: a section (null: all of theirs) and a person. */
  leaving?: { sectionRef: string | null; personRef: string }[];
  /** Whether what is not in it is gone; otherwise it only adds. */
  complete: boolean;
};

/** What is wrong, where a person can find it: the file, the row as counted in it (1 is the head), the column. */
export type RosterProblem = {
  file: string;
  row: number | null;
  column: string | null;
  words: string;
};
export type ReadRoster = { roster: Roster; problems: RosterProblem[]; notes: string[] };

/** A new one each time: what is read is put into it. */
export const emptyRoster = (): Roster => ({
  terms: [],
  people: [],
  sections: [],
  teachers: [],
  enrolments: [],
  guardians: [],
  complete: false,
});

/** @example sayPlace({ file: "users.csv", row: 12, column: "email" }) // "users.csv, row 12, email" */
export function sayPlace({
  file,
  row,
  column,
}: Pick<RosterProblem, "file" | "row" | "column">): string {
  return [file, row === null ? "" : `row ${row}`, column ?? ""].filter(Boolean).join(", ");
}

export const sayProblem = (problem: RosterProblem): string =>
  `${sayPlace(problem)}: ${problem.words}`;

/** By the family name, as rosters are kept; a person of one name is filed under it. @example sortNameOf("Aoife", "Ní Bhriain") // "Ní Bhriain, Aoife" */
export const sortNameOf = (given: string, family: string): string =>
  [family, given].filter(Boolean).join(", ");

/** Splits a whole name: all but the first word is the family name. Common practice, no source; a records system knows better. */
export function splitName(name: string): { given: string; family: string } {
  const comma = /^([^,]+),\s*(.+)$/.exec(name);
  if (comma) return { given: comma[2]!.trim(), family: comma[1]!.trim() };
  const [given = "", ...rest] = name.trim().split(/\s+/);
  return { given, family: rest.join(" ") };
}

export const isEmail = (text: string): boolean =>
  /^[^\s@<>(),;:"]+@[^\s@<>(),;:"]+\.[^\s@<>(),;:".]+$/.test(text) && text.length <= 254;
