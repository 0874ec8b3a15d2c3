import type { PersonKind } from "../access/access";
import type { OneRosterFile } from "./oneRosterBinding";
import type { RosterProblem } from "./roster";

export type Row = { number: number; get: (column: string) => string };
export type Files = Record<OneRosterFile, Row[]>;

/** What the school has already, by the ids of the records (its own, where they have none): a delta may point at it. */
export type KnownSchool = {
  people: ReadonlyMap<string, { kind: PersonKind; name: string }>;
  sections: ReadonlyMap<string, { course: string }>;
  terms: ReadonlySet<string>;
};

export const EMPTY_SCHOOL: KnownSchool = {
  people: new Map(),
  sections: new Map(),
  terms: new Set(),
};

/** What is found wrong, and what the office should know, while a package is read. */
export type Reading = { problems: RosterProblem[]; notes: string[] };

/** Says what is wrong in one file. */
export const faultsIn =
  ({ problems }: Reading, file: string) =>
  (row: number | null, column: string | null, words: string): void =>
    void problems.push({ file, row, column, words });
export const list = (text: string): string[] =>
  text
    .split(",")
    .map((id) => id.trim())
    .filter(Boolean);
export const isActive = (row: Row) => row.get("status") !== "tobedeleted";
