import { shorten } from "../text/shorten";
import type { PersonKind } from "../access/access";
import type { Files, KnownSchool, Reading, Row } from "./oneRosterReading";
import { faultsIn, list, isActive } from "./oneRosterReading";
import type { OneRosterFile } from "./oneRosterBinding";
import type { Day } from "../time/zone";
import { type Roster, isEmail, sortNameOf, type RosterPerson } from "./roster";

export const KINDS: Record<string, PersonKind> = {
  student: "student",
  teacher: "teacher",
  guardian: "guardian",
  parent: "guardian",
  relative: "guardian",
  siteAdministrator: "office",
  systemAdministrator: "office",
};

/** A day of the calendar; 31 February is none, though a clock would make 3 March of it. */
const isRealDay = (text: string): boolean =>
  /^\d{4}-\d\d-\d\d$/.test(text) && new Date(`${text}T00:00:00Z`).toJSON()?.slice(0, 10) === text;

/** The first and last day that two columns name, the last one exclusive; either may be empty. */
export function readDays(
  file: OneRosterFile,
  row: Row,
  [first, last]: readonly [string, string],
  reading: Reading,
): (Day | null)[] {
  const wrong = faultsIn(reading, file);
  return [first, last].map((column) => {
    const text = row.get(column).slice(0, 10);
    if (!text) return null;
    if (isRealDay(text)) return text;
    const words = `“${shorten(row.get(column), 30)}” is not a date such as 2026-09-08.`;
    wrong(row.number, column, words);
    return null;
  });
}

export function readPeople(
  files: Files,
  roster: Roster,
  reading: Reading,
  { people: knownPeople }: KnownSchool,
): void {
  const roles = new Map<string, string>();
  for (const row of files["roles.csv"].filter(isActive))
    if (row.get("roleType") === "primary" || !roles.has(row.get("userSourcedId")))
      roles.set(row.get("userSourcedId"), row.get("role"));
  const known: Known = { email: new Map(), username: new Map() };
  const users = files["users.csv"].filter((r) => isActive(r) && r.get("enabledUser") !== "false");
  let without = 0;
  for (const row of users) {
    const id = row.get("sourcedId");
    const kind = roles.has(id) ? KINDS[roles.get(id)!] : knownPeople.get(id)?.kind;
    if (kind) addPerson(row, kind, roster, { ...reading, known });
    else without += 1;
  }
  if (without > 0)
    reading.notes.push(
      `${without} ${without === 1 ? "user has" : "users have"} no role that Almanac knows (student, teacher, guardian, office) and ${without === 1 ? "was" : "were"} left out.`,
    );
  const kinds = new Map(roster.people.map((p) => [p.ref, p.kind]));
  const pairs = new Map(roster.guardians.map((g) => [`${g.guardianRef} ${g.studentRef}`, g]));
  roster.guardians = [...pairs.values()].filter(
    (g) => kinds.get(g.guardianRef) === "guardian" && kinds.get(g.studentRef) === "student",
  );
}

/** What a row of users.csv says of a person's names and addresses. */
export function namesFrom(
  get: (column: string) => string,
): Pick<RosterPerson, "name" | "called" | "sortName" | "email" | "schoolName"> {
  const given = get("preferredGivenName") || get("givenName");
  const written = get("preferredFamilyName") || get("familyName");
  // Both are asked for, so that who has one name has it twice.
  const family = written === given ? "" : written;
  return {
    name: `${given} ${family}`.trim(),
    called: given || family,
    sortName: sortNameOf(given, family),
    email: get("email").toLowerCase() || null,
    schoolName: get("username").toLowerCase() || null,
  };
}

/** Who is to leave: rows that are to be deleted, and people who are no longer enabled. */
export function leavingIn(files: Files): NonNullable<Roster["leaving"]> {
  const people = files["users.csv"]
    .filter((row) => !isActive(row) || row.get("enabledUser") === "false")
    .map((row) => ({ sectionRef: null, personRef: row.get("sourcedId") }));
  const enrolments = files["enrollments.csv"]
    .filter((row) => !isActive(row))
    .map((row) => ({ sectionRef: row.get("classSourcedId"), personRef: row.get("userSourcedId") }));
  return [...people, ...enrolments];
}

/** In which row each address and login stands. */
type Known = Record<"email" | "username", Map<string, number>>;

function addPerson(
  row: Row,
  kind: PersonKind,
  roster: Roster,
  reading: Reading & { known: Known },
): void {
  const wrong = faultsIn(reading, "users.csv");
  const id = row.get("sourcedId");
  const email = row.get("email").toLowerCase();
  const login = row.get("username").toLowerCase();
  if (email && !isEmail(email))
    wrong(row.number, "email", `“${shorten(email, 60)}” is not an e-mail address.`);
  const once = (column: keyof Known, value: string) => {
    const first = reading.known[column].get(value);
    if (first !== undefined)
      wrong(row.number, column, `${value.slice(0, 60)} stands in row ${first} already.`);
    if (value) reading.known[column].set(value, row.number);
  };
  once("email", email);
  once("username", login);
  roster.people.push({ ref: id, sourceId: id, kind, ...namesFrom(row.get) });
  const agents = list(row.get("agentSourcedIds"));
  if (kind === "guardian")
    roster.guardians.push(...agents.map((child) => ({ guardianRef: id, studentRef: child })));
  if (kind === "student")
    roster.guardians.push(...agents.map((agent) => ({ guardianRef: agent, studentRef: id })));
}

export function readEnrolments(
  files: Files,
  roster: Roster,
  reading: Reading,
  known: KnownSchool,
): void {
  const people = new Map<string, Enrolled>([
    ...[...known.people].map(([ref, person]) => [ref, { ref, ...person }] as const),
    ...roster.people.map((p) => [p.ref, p] as const),
  ]);
  const sections = new Set([...known.sections.keys(), ...roster.sections.map((s) => s.ref)]);
  const seen = new Map<string, number>();
  const owners = new Map<string, string>();
  let dropped = 0;
  for (const row of files["enrollments.csv"].filter(isActive)) {
    const person = people.get(row.get("userSourcedId"));
    if (!sections.has(row.get("classSourcedId")) || !person) dropped += 1;
    else if (mayEnrol(row, person, seen, reading)) enrol(row, roster, owners, reading);
  }
  // A class whose teachers are none of them marked as primary belongs to the first named.
  for (const teacher of roster.teachers) {
    if (owners.has(teacher.sectionRef)) continue;
    teacher.owner = true;
    owners.set(teacher.sectionRef, teacher.personRef);
  }
  for (const section of roster.sections)
    if (!owners.has(section.ref))
      reading.notes.push(
        `${section.name} (${section.course}) has no teacher in the package; the office can name one.`,
      );
  if (dropped > 0)
    reading.notes.push(`${dropped} enrolments of people or classes that are ending were left out.`);
}

type Enrolled = Pick<RosterPerson, "ref" | "kind" | "name">;

function mayEnrol(
  row: Row,
  person: Enrolled,
  seen: Map<string, number>,
  reading: Reading,
): boolean {
  const role = row.get("role");
  const wrong = faultsIn(reading, "enrollments.csv");
  if (role !== "student" && role !== "teacher") return false;
  if (person.kind !== role) {
    const words = `${person.name} is enrolled as a ${role} but is a ${person.kind} in roles.csv.`;
    wrong(row.number, "role", words);
    return false;
  }
  const key = `${row.get("classSourcedId")} ${person.ref}`;
  const before = seen.get(key);
  if (before !== undefined) {
    const words = `${person.name} is in this class already (row ${before}).`;
    wrong(row.number, "userSourcedId", words);
    return false;
  }
  seen.set(key, row.number);
  return true;
}

function enrol(row: Row, roster: Roster, owners: Map<string, string>, reading: Reading): void {
  const sectionRef = row.get("classSourcedId");
  const personRef = row.get("userSourcedId");
  const days = readDays("enrollments.csv", row, ["beginDate", "endDate"], reading);
  const [joinedOn = null, leftOn = null] = days;
  if (joinedOn && leftOn && leftOn < joinedOn)
    faultsIn(reading, "enrollments.csv")(
      row.number,
      "endDate",
      `It ends (${leftOn}) before it has begun (${joinedOn}).`,
    );
  if (row.get("role") === "student") {
    roster.enrolments.push({ sectionRef, personRef, joinedOn, leftOn });
    return;
  }
  const owner = row.get("primary") === "true" && !owners.has(sectionRef);
  if (owner) owners.set(sectionRef, personRef);
  roster.teachers.push({ sectionRef, personRef, owner });
}
