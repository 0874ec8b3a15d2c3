import { shorten } from "../text/shorten";
import { freeName, nameIn, signInName } from "./plainNames";
import { parseTable, type TableRow } from "../formats/table";
import {
  emptyRoster,
  isEmail,
  sortNameOf,
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
  course: /^(course|subject|course name)$/i,
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
  /** Sections of this term, by name; one that is not among them is made where a column says its course. */
  sections: readonly { ref: string; name: string; course: string }[];
  /** The section every row is for, when the table is pasted on its page; a section column is then not needed. */
  only?: string;
  complete: boolean;
};

/**
 * Reads a plain table of students: name (or given and family name), e-mail, section. With a head row
 * the columns can stand in any order, and may say what someone is called, who is a teacher, and the course of a
 * section that is to be made; without one they are taken in that order. A table without sections adds people alone. A
 * list pasted into one section may be names alone: each gets a name to sign in with.
 */
export function readPlainRoster(text: string, options: PlainOptions): ReadRoster {
  const problems: RosterProblem[] = [];
  const notes: string[] = [];
  const { rows: found, faults } = parseTable(text);
  const rows = options.only ? namesInOne(found) : found;
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
    return { roster: emptyRoster(), problems, notes };
  }
  const roster: Roster = {
    ...emptyRoster(),
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

/** A list of "Family, Given" is one column, though a comma stands in it. */
function namesInOne(rows: readonly TableRow[]): readonly TableRow[] {
  const pairs = rows.every(({ cells }) => cells.length <= 2);
  const isHead = rows[0]?.cells.some((cell) =>
    Object.values(HEADS).some((h) => h.test(cell.trim())),
  );
  if (!pairs || isHead || rows.some(({ cells }) => cells.join(" ").includes("@"))) return rows;
  return rows.map((row) => ({ ...row, cells: [row.cells.map((cell) => cell.trim()).join(", ")] }));
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
    ...(at.email === undefined && !sectionKnown ? ["the e-mail address"] : []),
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
  const { columns, options, problems } = reading;
  const cell = (key: string) => {
    const at = columns.at[key];
    return at === undefined ? "" : (cells[at] ?? "").replace(/\s+/g, " ").trim();
  };
  const wrong = (column: string, words: string) =>
    void problems.push({ file: options.file, row: number, column, words });
  const { given, family, name } = nameIn(cell);
  const email = cell("email").toLowerCase();
  const kind = ROLES.find(([says]) => says.test(cell("role")))?.[1];
  const named = sectionIn(cell, reading);
  const fault =
    faultOfRole(kind, cell("role"), options) ??
    faultIn({ name, email, addressNeeded: !options.only }) ??
    (typeof named === "object" && named ? named.fault : null);
  if (fault) return wrong(...fault);
  place(reading, number, {
    sectionRef: named as string | null,
    person: { kind: kind!, name, given, family, email, called: cell("called") || given || name },
  });
}

type Placing = {
  sectionRef: string | null;
  person: Pick<RosterPerson, "kind" | "name" | "called"> & {
    given: string;
    family: string;
    email: string;
  };
};

/** Takes up a row that can be read: the person once, and once in each section. */
function place(reading: Reading, row: number, { sectionRef, person }: Placing): void {
  const { options, roster, problems, notes, seen, placed } = reading;
  const { name, email, kind } = person;
  const ref = email || freeName(signInName(name), seen);
  const before = seen.get(ref);
  if (before && before.name !== name) {
    const words = `${email} stands for ${before.name} in row ${before.row} and for ${name} here.`;
    return void problems.push({ file: options.file, row, column: "e-mail", words });
  }
  if (placed.has(`${ref} ${sectionRef}`))
    return void notes.push(
      `${options.file}, row ${row}: ${name} stands in this section twice; once counts.`,
    );
  placed.add(`${ref} ${sectionRef}`);
  if (!before) roster.people.push(personOf({ ref, ...person }));
  seen.set(ref, { name, row: before?.row ?? row });
  if (sectionRef) putInto(roster, kind as "student" | "teacher", { sectionRef, personRef: ref });
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
  ref,
  given,
  family,
  email,
  ...who
}: Pick<RosterPerson, "ref" | "kind" | "name" | "called"> & {
  given: string;
  family: string;
  email: string;
}): RosterPerson => ({
  ...{ ref, sourceId: null, email: email || null, schoolName: email ? null : ref },
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
    return ["role", `“${shorten(role, 40)}” is no role of a table: it has students and teachers.`];
  return kind === "teacher" && only
    ? ["role", "Students alone are pasted here. The owner of the section adds teachers."]
    : null;
}

/**
 * The section a row is for; null where the table speaks of none. Looked for among those of this term, by its course
 * too where the row says one; where there is none of that name its course must be said, and it is made.
 */
function sectionIn(
  cell: (key: string) => string,
  { columns, options, roster }: Reading,
): string | null | { fault: [string, string] } {
  if (options.only) return options.only;
  if (columns.at.section === undefined) return null;
  const [name, course] = [cell("section"), cell("course")];
  if (name === "") return { fault: ["section", "The section is missing."] };
  const same = (a: string, b: string) => a.toLowerCase() === b.toLowerCase();
  const known = [...options.sections, ...roster.sections].filter(
    (s) => same(s.name, name) && (course === "" || same(s.course, course)),
  );
  if (known.length === 1) return known[0]!.ref;
  const said = `“${shorten(name, 60)}”`;
  if (known.length > 1) {
    const courses = known.map((s) => s.course).join(" and ");
    return {
      fault: [
        "section",
        `There is more than one section ${said} in this term, of ${courses}. Add a column “course” that says which.`,
      ],
    };
  }
  if (course === "")
    return {
      fault: [
        "section",
        `There is no section ${said} in this term. Add a column “course” to have it made.`,
      ],
    };
  const ref = `new section ${course} / ${name}`;
  roster.sections.push({
    ...{ ref, name, course },
    ...{ sourceId: null, courseSourceId: null, termRef: null },
  });
  return ref;
}

/** The column that is at fault, and why; null for a row that can be read. */
function faultIn({
  name,
  email,
  addressNeeded,
}: {
  name: string;
  email: string;
  addressNeeded: boolean;
}): [string, string] | null {
  if (!name || !signInName(name)) return ["name", "The name is missing."];
  if (!email && addressNeeded)
    return ["e-mail", `${name} has no e-mail address; it is how the same student is known again.`];
  if (email && !isEmail(email))
    return ["e-mail", `“${shorten(email, 60)}” is not an e-mail address.`];
  return null;
}
