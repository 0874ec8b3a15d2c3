import { parseTable, type TableRow } from "../formats/table";
import {
  EMPTY_ROSTER,
  isEmail,
  sortNameOf,
  splitName,
  type ReadRoster,
  type Roster,
  type RosterPerson,
  type RosterProblem,
} from "./roster";

const HEADS: Record<string, RegExp> = {
  name: /^(name|student|student name|full name|pupil)$/i,
  given: /^(first name|given name|givenname|first)$/i,
  family: /^(last name|family name|familyname|surname|last)$/i,
  email: /^(e-?mail|e-?mail address|mail|address)$/i,
  section: /^(section|class|group|classname|class name)$/i,
  role: /^(role|kind|type|function|position)$/i,
  called: /^(called|known as|preferred name|preferred first name|nickname)$/i,
};

/** What people write in a role column. */
const ROLES: readonly [RegExp, "student" | "teacher"][] = [
  [/^(students?|pupils?|learners?|s|)$/i, "student"],
  [/^(teachers?|staff|tutors?|instructors?|co-?teachers?|teaching assistants?|t)$/i, "teacher"],
];

export type PlainOptions = {
  /** What to call the file in messages. */
  file: string;
  /** Sections that exist, by name; a plain table cannot make one, having no course. */
  sections: readonly { ref: string; name: string }[];
  /** The section every row is for, when the table is pasted on its page; a section column is then not needed. */
  only?: string;
  complete: boolean;
};

/**
 * Reads a plain table of students: name (or given and family name), e-mail, section. With a head row
 * the columns can stand in any order, and may say what someone is called and who is a teacher; without one they are
 * taken in that order.
 */
export function readPlainRoster(text: string, options: PlainOptions): ReadRoster {
  const problems: RosterProblem[] = [];
  const notes: string[] = [];
  const { rows, faults } = parseTable(text);
  for (const words of faults) problems.push({ file: options.file, row: null, column: null, words });
  if (rows.length === 0)
    problems.push({
      file: options.file,
      row: null,
      column: null,
      words: "There is nothing in this table.",
    });
  const columns = columnsOf(rows[0]?.cells ?? [], Boolean(options.only));
  const body = columns.head ? rows.slice(1) : rows;
  for (const name of columns.extra)
    notes.push(`The column “${name}” is not needed and was not read.`);
  if (columns.missing.length > 0 && rows.length > 0) {
    problems.push({
      file: options.file,
      row: 1,
      column: null,
      words: `The table needs a column for ${columns.missing.join(" and ")}.`,
    });
    return { roster: EMPTY_ROSTER, problems, notes };
  }
  const roster: Roster = {
    ...EMPTY_ROSTER,
    people: [],
    enrolments: [],
    sections: [],
    complete: options.complete,
  };
  const seen = new Map<string, { name: string; row: number }>();
  const placed = new Set<string>();
  for (const row of body) readRow(row, { columns, options, roster, problems, notes, seen, placed });
  return { roster, problems, notes };
}

type Columns = {
  head: boolean;
  at: Partial<Record<keyof typeof HEADS, number>>;
  missing: string[];
  extra: string[];
};

function columnsOf(first: readonly string[], sectionKnown: boolean): Columns {
  const at: Columns["at"] = {};
  const extra: string[] = [];
  first.forEach((cell, n) => {
    const found = Object.keys(HEADS).find(
      (key) => HEADS[key]!.test(cell.trim()) && at[key] === undefined,
    );
    if (found) at[found] = n;
    else if (cell.trim()) extra.push(cell.trim());
  });
  const head = Object.keys(at).length > 0 && !first.some((cell) => isEmail(cell.trim()));
  if (!head)
    return {
      head,
      at: { name: 0, email: 1, ...(sectionKnown ? {} : { section: 2 }) },
      missing: [],
      extra: [],
    };
  const missing = [
    ...(at.name === undefined && at.given === undefined ? ["the name"] : []),
    ...(at.email === undefined ? ["the e-mail address"] : []),
    ...(at.section === undefined && !sectionKnown ? ["the section"] : []),
  ];
  return { head, at, missing, extra };
}

type Reading = {
  columns: Columns;
  options: PlainOptions;
  roster: Roster;
  problems: RosterProblem[];
  notes: string[];
  seen: Map<string, { name: string; row: number }>;
  placed: Set<string>;
};

function readRow({ number, cells }: TableRow, reading: Reading): void {
  const { columns, options, roster, problems, notes, seen, placed } = reading;
  const cell = (key: string) => {
    const at = columns.at[key];
    return at === undefined ? "" : (cells[at] ?? "").replace(/\s+/g, " ").trim();
  };
  const wrong = (column: string, words: string) =>
    void problems.push({ file: options.file, row: number, column, words });
  const { given, family, name } = nameIn(cell);
  const email = cell("email").toLowerCase();
  const sectionRef = options.only ?? sectionNamed(cell("section"), options);
  const kind = ROLES.find(([says]) => says.test(cell("role")))?.[1];
  const fault =
    faultOfRole(kind, cell("role"), options) ??
    faultIn({ name, email, section: cell("section"), sectionRef });
  if (fault) return wrong(...fault);
  const before = seen.get(email);
  if (before && before.name !== name)
    return wrong(
      "e-mail",
      `${email} stands for ${before.name} in row ${before.row} and for ${name} here.`,
    );
  if (placed.has(`${email} ${sectionRef}`))
    return void notes.push(
      `${options.file}, row ${number}: ${name} stands in this section twice; once counts.`,
    );
  placed.add(`${email} ${sectionRef}`);
  const called = [cell("called"), given, name].find(Boolean)!;
  if (!before) roster.people.push(personOf({ kind: kind!, name, called, given, family, email }));
  seen.set(email, { name, row: before?.row ?? number });
  putInto(roster, kind!, { sectionRef: sectionRef!, personRef: email });
}

function putInto(
  roster: Roster,
  kind: "student" | "teacher",
  place: { sectionRef: string; personRef: string },
): void {
  if (kind === "student")
    return void roster.enrolments.push({ ...place, joinedOn: null, leftOn: null });
  // The first that is named owns the section, where nobody does yet.
  const owner = !roster.teachers.some((t) => t.sectionRef === place.sectionRef);
  roster.teachers.push({ ...place, owner });
}

const personOf = ({
  given,
  family,
  email,
  ...who
}: Pick<RosterPerson, "kind" | "name" | "called"> & {
  given: string;
  family: string;
  email: string;
}): RosterPerson => ({
  ...{ ref: email, sourceId: null, email, schoolName: null },
  ...who,
  sortName: sortNameOf(given, family),
});

/** Why the role of a row cannot be taken. */
function faultOfRole(
  kind: "student" | "teacher" | undefined,
  role: string,
  { only }: PlainOptions,
): [string, string] | null {
  if (!kind)
    return ["role", `“${role.slice(0, 40)}” is no role of a table: it has students and teachers.`];
  return kind === "teacher" && only
    ? ["role", "Students alone are pasted here. The owner of the section adds teachers."]
    : null;
}

/** A name in one column ("Family, Given" too) or in two. */
function nameIn(cell: (key: string) => string): { given: string; family: string; name: string } {
  const whole = cell("name");
  const parts = whole ? splitName(whole) : { given: cell("given"), family: cell("family") };
  // Someone of one name has it in both columns, where a form asked for both.
  const family = parts.family === parts.given ? "" : parts.family;
  const joined = [parts.given, family].filter(Boolean).join(" ");
  return { ...parts, family, name: whole.includes(",") || !whole ? joined : whole };
}

const sectionNamed = (name: string, { sections }: PlainOptions) =>
  sections.find((s) => s.name.toLowerCase() === name.toLowerCase())?.ref;

type Told = { name: string; email: string; section: string; sectionRef: string | undefined };

/** The column that is at fault, and why; null for a row that can be read. */
function faultIn({ name, email, section, sectionRef }: Told): [string, string] | null {
  if (!name) return ["name", "The name is missing."];
  if (!email)
    return ["e-mail", `${name} has no e-mail address; it is how the same student is known again.`];
  if (!isEmail(email)) return ["e-mail", `“${email.slice(0, 60)}” is not an e-mail address.`];
  if (sectionRef) return null;
  return [
    "section",
    section
      ? `There is no section “${section.slice(0, 60)}” in this term.`
      : "The section is missing.",
  ];
}
