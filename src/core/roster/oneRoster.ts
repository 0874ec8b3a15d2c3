import { parseTable, writeTable } from "../formats/table";
import { addDays, type Day } from "../time/zone";
import type { PersonKind } from "../access/access";
import {
  MANIFEST_FILES,
  MANIFEST_STATES,
  ONE_ROSTER,
  ONE_ROSTER_FILES,
  STATUSES,
  type OneRosterFile,
} from "./oneRosterBinding";
import {
  EMPTY_ROSTER,
  isEmail,
  sortNameOf,
  type ReadRoster,
  type Roster,
  type RosterProblem,
} from "./roster";

type Row = { number: number; get: (column: string) => string };
type Files = Record<OneRosterFile, Row[]>;

/**
 * Reads the files of a OneRoster 1.2 CSV package as a roster. Nothing is guessed: a row that breaks the
 * binding, or points at something that is not there, is a problem with its file, row and column, and
 * the whole package is then not applied.
 *
 * End dates are the first day after (exclusive), as the binding has them.
 *
 * @param texts the package's files by name
 */
export function readOneRoster(texts: ReadonlyMap<string, string>): ReadRoster {
  const problems: RosterProblem[] = [];
  const notes: string[] = [];
  const states = readManifest(texts.get("manifest.csv"), problems);
  const files = {} as Files;
  for (const file of ONE_ROSTER_FILES)
    files[file] = readFile(
      file,
      texts.get(file),
      states.get(file.replace(".csv", "")),
      problems,
      notes,
    );
  for (const name of texts.keys())
    if (name !== "manifest.csv" && !ONE_ROSTER_FILES.includes(name as OneRosterFile))
      notes.push(`${name} is not needed and was not read.`);
  if (problems.length > 0) return { roster: EMPTY_ROSTER, problems, notes };
  checkReferences(files, problems);
  const roster = toRoster(files, problems, notes);
  roster.complete = states.get("enrollments") !== "delta";
  return { roster, problems, notes };
}

function readManifest(text: string | undefined, problems: RosterProblem[]): Map<string, string> {
  const states = new Map<string, string>();
  const wrong = (row: number | null, column: string | null, words: string) =>
    problems.push({ file: "manifest.csv", row, column, words });
  if (text === undefined) {
    wrong(
      null,
      null,
      "The package has no manifest.csv at its top; it is what makes it a OneRoster package.",
    );
    return states;
  }
  for (const { number, cells } of parseTable(text).rows.slice(1)) {
    const [name = "", value = ""] = cells.map((c) => c.trim());
    if (name === "oneroster.version" && !/^1\.2/.test(value))
      wrong(
        number,
        "value",
        `The package is OneRoster ${value || "without a version"}; Almanac reads 1.2.`,
      );
    if (!name.startsWith("file.")) continue;
    if (!(MANIFEST_STATES as readonly string[]).includes(value))
      wrong(
        number,
        "value",
        `${name} is “${value.slice(0, 30)}”; it can be absent, bulk or delta.`,
      );
    states.set(name.slice(5), value);
  }
  if (states.size === 0) wrong(null, null, "It names no files (properties such as file.users).");
  return states;
}

function readFile(
  file: OneRosterFile,
  text: string | undefined,
  state: string | undefined,
  problems: RosterProblem[],
  notes: string[],
): Row[] {
  const wrong = (row: number | null, column: string | null, words: string) =>
    problems.push({ file, row, column, words });
  const declared = state === "bulk" || state === "delta";
  if (text === undefined) {
    if (declared) wrong(null, null, "The manifest names this file, but it is not in the package.");
    else if (file !== "orgs.csv")
      wrong(null, null, "This file is needed and is not in the package.");
    return [];
  }
  if (!declared)
    return (
      notes.push(`${file} is in the package but absent in its manifest, so it was not read.`),
      []
    );
  const { columns, required, words } = ONE_ROSTER[file] as {
    columns: readonly string[];
    required: readonly string[];
    words: Record<string, readonly string[]>;
  };
  const table = parseTable(text);
  for (const fault of table.faults) wrong(null, null, fault);
  const [head, ...body] = table.rows;
  const names = head?.cells.map((c) => c.trim()) ?? [];
  const at = new Map(names.map((name, n) => [name, n]));
  if (table.separator !== "," && names.length > 1)
    notes.push(
      `${file} is separated by ${table.separator === "\t" ? "tabs" : "semicolons"}, not commas; it was read all the same.`,
    );
  const missing = required.filter((name) => !at.has(name));
  if (missing.length > 0)
    return (wrong(1, missing[0]!, `The column ${missing.join(", ")} is missing.`), []);
  const extra = names.filter(
    (name) => name && !columns.includes(name) && !name.startsWith("metadata."),
  );
  if (extra.length > 0)
    notes.push(
      `${file}: the columns ${extra.slice(0, 6).join(", ")} are not part of the binding and were not read.`,
    );
  const ids = new Map<string, number>();
  return body.map(({ number, cells }) => {
    const get = (column: string) => (at.has(column) ? (cells[at.get(column)!] ?? "").trim() : "");
    for (const column of required)
      if (get(column) === "") wrong(number, column, "It is empty, and must not be.");
    for (const [column, allowed] of Object.entries(words))
      if (get(column) && !allowed.includes(get(column)))
        wrong(
          number,
          column,
          `“${get(column).slice(0, 40)}” is not one of ${allowed.filter(Boolean).join(", ")}.`,
        );
    if (!(STATUSES as readonly string[]).includes(get("status")))
      wrong(number, "status", `“${get("status").slice(0, 40)}” is neither active nor tobedeleted.`);
    const first = ids.get(get("sourcedId"));
    if (first !== undefined)
      wrong(
        number,
        "sourcedId",
        `The id ${get("sourcedId").slice(0, 60)} stands in row ${first} already.`,
      );
    ids.set(get("sourcedId"), number);
    return { number, get };
  });
}

const list = (text: string): string[] =>
  text
    .split(",")
    .map((id) => id.trim())
    .filter(Boolean);

/** Which columns point where. Agents may point at each other's family, sessions and schools may have a parent. */
const POINTERS: [OneRosterFile, string, OneRosterFile][] = [
  ["orgs.csv", "parentSourcedId", "orgs.csv"],
  ["academicSessions.csv", "parentSourcedId", "academicSessions.csv"],
  ["courses.csv", "orgSourcedId", "orgs.csv"],
  ["courses.csv", "schoolYearSourcedId", "academicSessions.csv"],
  ["classes.csv", "courseSourcedId", "courses.csv"],
  ["classes.csv", "schoolSourcedId", "orgs.csv"],
  ["classes.csv", "termSourcedIds", "academicSessions.csv"],
  ["users.csv", "agentSourcedIds", "users.csv"],
  ["roles.csv", "userSourcedId", "users.csv"],
  ["roles.csv", "orgSourcedId", "orgs.csv"],
  ["enrollments.csv", "classSourcedId", "classes.csv"],
  ["enrollments.csv", "userSourcedId", "users.csv"],
  ["enrollments.csv", "schoolSourcedId", "orgs.csv"],
];

function checkReferences(files: Files, problems: RosterProblem[]): void {
  const ids = Object.fromEntries(
    ONE_ROSTER_FILES.map((file) => [
      file,
      new Map(files[file].map((row) => [row.get("sourcedId"), row])),
    ]),
  ) as Record<OneRosterFile, Map<string, Row>>;
  for (const [file, column, to] of POINTERS) {
    for (const row of files[file]) {
      for (const id of list(row.get(column)))
        if (!ids[to].has(id))
          problems.push({
            file,
            row: row.number,
            column,
            words: `There is no ${id.slice(0, 60)} in ${to}.`,
          });
    }
  }
  for (const file of ["orgs.csv", "academicSessions.csv"] as const) {
    for (const row of files[file]) {
      const path = new Set<string>();
      for (
        let id = row.get("sourcedId");
        id;
        id = ids[file].get(id)?.get("parentSourcedId") ?? ""
      ) {
        if (path.has(id)) {
          problems.push({
            file,
            row: row.number,
            column: "parentSourcedId",
            words: `Its parents run in a circle (${[...path].slice(0, 4).join(" → ")}).`,
          });
          break;
        }
        path.add(id);
      }
    }
  }
}

const KINDS: Record<string, PersonKind> = {
  student: "student",
  teacher: "teacher",
  guardian: "guardian",
  parent: "guardian",
  relative: "guardian",
  siteAdministrator: "office",
  systemAdministrator: "office",
};

function toRoster(files: Files, problems: RosterProblem[], notes: string[]): Roster {
  const roster: Roster = {
    terms: [],
    people: [],
    sections: [],
    teachers: [],
    enrolments: [],
    guardians: [],
    complete: true,
  };
  const active = (row: Row) => row.get("status") !== "tobedeleted";
  const day = (file: string, row: Row, column: string): Day | null => {
    const text = row.get(column).slice(0, 10);
    if (!text) return null;
    if (/^\d{4}-\d\d-\d\d$/.test(text) && !Number.isNaN(Date.parse(text))) return text;
    problems.push({
      file,
      row: row.number,
      column,
      words: `“${row.get(column).slice(0, 30)}” is not a date such as 2026-09-08.`,
    });
    return null;
  };
  const sessions = files["academicSessions.csv"].filter(active);
  const parents = new Set(sessions.map((row) => row.get("parentSourcedId")));
  const used = new Set(
    files["classes.csv"].filter(active).flatMap((row) => list(row.get("termSourcedIds"))),
  );
  for (const row of sessions) {
    const [startsOn, ends] = [
      day("academicSessions.csv", row, "startDate"),
      day("academicSessions.csv", row, "endDate"),
    ];
    if (startsOn && ends && ends <= startsOn)
      problems.push({
        file: "academicSessions.csv",
        row: row.number,
        column: "endDate",
        words: `It ends (${ends}) before it has begun (${startsOn}).`,
      });
    const id = row.get("sourcedId");
    // The year that holds the terms is no term of its own, unless classes meet in it.
    if (
      startsOn &&
      ends &&
      (used.has(id) || (!parents.has(id) && row.get("type") !== "gradingPeriod"))
    )
      roster.terms.push({
        ref: id,
        sourceId: id,
        name: row.get("title"),
        startsOn,
        endsOn: addDays(ends, -1),
      });
  }
  const courses = new Map(
    files["courses.csv"].map((row) => [row.get("sourcedId"), row.get("title")]),
  );
  for (const row of files["classes.csv"].filter(active)) {
    roster.sections.push({
      ref: row.get("sourcedId"),
      sourceId: row.get("sourcedId"),
      name: row.get("title"),
      course: courses.get(row.get("courseSourcedId")) ?? "",
      courseSourceId: row.get("courseSourcedId"),
      termRef: list(row.get("termSourcedIds"))[0] ?? null,
    });
  }
  readPeople(files, roster, problems, notes, active);
  readEnrolments(files, roster, problems, notes, active, day);
  return roster;
}

function readPeople(
  files: Files,
  roster: Roster,
  problems: RosterProblem[],
  notes: string[],
  active: (row: Row) => boolean,
): void {
  const roles = new Map<string, string>();
  for (const row of files["roles.csv"].filter(active))
    if (row.get("roleType") === "primary" || !roles.has(row.get("userSourcedId")))
      roles.set(row.get("userSourcedId"), row.get("role"));
  const [emails, logins] = [new Map<string, number>(), new Map<string, number>()];
  let without = 0;
  for (const row of files["users.csv"].filter(active)) {
    if (row.get("enabledUser") === "false") continue;
    const id = row.get("sourcedId");
    const kind = KINDS[roles.get(id) ?? ""];
    if (!kind) {
      without += 1;
      continue;
    }
    const email = row.get("email").toLowerCase();
    if (email && !isEmail(email))
      problems.push({
        file: "users.csv",
        row: row.number,
        column: "email",
        words: `“${email.slice(0, 60)}” is not an e-mail address.`,
      });
    const login = row.get("username").toLowerCase();
    for (const [value, known, column] of [
      [email, emails, "email"],
      [login, logins, "username"],
    ] as const) {
      if (value && known.has(value))
        problems.push({
          file: "users.csv",
          row: row.number,
          column,
          words: `${value.slice(0, 60)} stands in row ${known.get(value)} already.`,
        });
      if (value) known.set(value, row.number);
    }
    const given = row.get("preferredGivenName") || row.get("givenName");
    const family = row.get("preferredFamilyName") || row.get("familyName");
    roster.people.push({
      ref: id,
      sourceId: id,
      kind,
      name: `${given} ${family}`.trim(),
      called: given || family,
      sortName: sortNameOf(given, family),
      email: email || null,
      schoolName: login || null,
    });
    if (kind === "guardian")
      for (const child of list(row.get("agentSourcedIds")))
        roster.guardians.push({ guardianRef: id, studentRef: child });
    if (kind === "student")
      for (const agent of list(row.get("agentSourcedIds")))
        roster.guardians.push({ guardianRef: agent, studentRef: id });
  }
  if (without > 0)
    notes.push(
      `${without} ${without === 1 ? "user has" : "users have"} no role that Almanac knows (student, teacher, guardian, office) and ${without === 1 ? "was" : "were"} left out.`,
    );
  const kinds = new Map(roster.people.map((p) => [p.ref, p.kind]));
  const pairs = new Map(roster.guardians.map((g) => [`${g.guardianRef} ${g.studentRef}`, g]));
  roster.guardians = [...pairs.values()].filter(
    (g) => kinds.get(g.guardianRef) === "guardian" && kinds.get(g.studentRef) === "student",
  );
}

function readEnrolments(
  files: Files,
  roster: Roster,
  problems: RosterProblem[],
  notes: string[],
  active: (row: Row) => boolean,
  day: (file: string, row: Row, column: string) => Day | null,
): void {
  const people = new Map(roster.people.map((p) => [p.ref, p]));
  const sections = new Set(roster.sections.map((s) => s.ref));
  const owners = new Map<string, string>();
  const seen = new Map<string, number>();
  let dropped = 0;
  for (const row of files["enrollments.csv"].filter(active)) {
    const [sectionRef, personRef, role] = [
      row.get("classSourcedId"),
      row.get("userSourcedId"),
      row.get("role"),
    ];
    const person = people.get(personRef);
    if (!sections.has(sectionRef) || !person) {
      dropped += 1;
      continue;
    }
    if (role !== "student" && role !== "teacher") continue;
    if (person.kind !== role) {
      problems.push({
        file: "enrollments.csv",
        row: row.number,
        column: "role",
        words: `${person.name} is enrolled as a ${role} but is a ${person.kind} in roles.csv.`,
      });
      continue;
    }
    const before = seen.get(`${sectionRef} ${personRef}`);
    if (before !== undefined) {
      problems.push({
        file: "enrollments.csv",
        row: row.number,
        column: "userSourcedId",
        words: `${person.name} is in this class already (row ${before}).`,
      });
      continue;
    }
    seen.set(`${sectionRef} ${personRef}`, row.number);
    const [joinedOn, leftOn] = [
      day("enrollments.csv", row, "beginDate"),
      day("enrollments.csv", row, "endDate"),
    ];
    if (joinedOn && leftOn && leftOn < joinedOn)
      problems.push({
        file: "enrollments.csv",
        row: row.number,
        column: "endDate",
        words: `It ends (${leftOn}) before it has begun (${joinedOn}).`,
      });
    if (role === "student") roster.enrolments.push({ sectionRef, personRef, joinedOn, leftOn });
    else {
      const first = row.get("primary") === "true" && !owners.has(sectionRef);
      if (first) owners.set(sectionRef, personRef);
      roster.teachers.push({ sectionRef, personRef, owner: first });
    }
  }
  // A class whose teachers are none of them marked as primary belongs to the first named.
  for (const teacher of roster.teachers)
    if (!owners.has(teacher.sectionRef))
      owners.set(teacher.sectionRef, ((teacher.owner = true), teacher.personRef));
  for (const section of roster.sections)
    if (!owners.has(section.ref))
      notes.push(
        `${section.name} (${section.course}) has no teacher in the package; the office can name one.`,
      );
  if (dropped > 0)
    notes.push(`${dropped} enrolments of people or classes that are ending were left out.`);
}

/** Writes a roster as the files of a OneRoster 1.2 package: every file bulk, what Almanac does not keep absent. */
export function writeOneRoster(
  roster: Roster,
  school: { id: string; name: string },
  year: string,
): Map<string, string> {
  const files = new Map<string, string>();
  const put = (file: OneRosterFile, rows: Record<string, string>[]) => {
    const { columns } = ONE_ROSTER[file];
    files.set(file, writeTable([columns, ...rows.map((row) => columns.map((c) => row[c] ?? ""))]));
  };
  const written = new Set(ONE_ROSTER_FILES.map((f) => f.replace(".csv", "")));
  files.set(
    "manifest.csv",
    writeTable([
      ["propertyName", "value"],
      ["manifest.version", "1.0"],
      ["oneroster.version", "1.2"],
      ...MANIFEST_FILES.map((f) => [`file.${f}`, written.has(f) ? "bulk" : "absent"]),
      ["source.systemName", "Almanac"],
      ["source.systemCode", school.id],
    ]),
  );
  put("orgs.csv", [{ sourcedId: school.id, name: school.name, type: "school" }]);
  put(
    "academicSessions.csv",
    roster.terms.map((t) => ({
      sourcedId: t.ref,
      title: t.name,
      type: "term",
      startDate: t.startsOn,
      endDate: addDays(t.endsOn, 1),
      schoolYear: year,
    })),
  );
  const courses = new Map(roster.sections.map((s) => [s.courseSourceId ?? s.course, s.course]));
  put(
    "courses.csv",
    [...courses].map(([sourcedId, title]) => ({ sourcedId, title, orgSourcedId: school.id })),
  );
  put(
    "classes.csv",
    roster.sections.map((s) => ({
      sourcedId: s.ref,
      title: s.name,
      courseSourcedId: s.courseSourceId ?? s.course,
      classType: "scheduled",
      schoolSourcedId: school.id,
      termSourcedIds: s.termRef ?? "",
    })),
  );
  const agents = new Map<string, string[]>();
  for (const g of roster.guardians)
    agents.set(g.guardianRef, [...(agents.get(g.guardianRef) ?? []), g.studentRef]);
  put(
    "users.csv",
    roster.people.map((p) => {
      const [family = "", given = ""] = p.sortName.split(", ");
      return {
        sourcedId: p.ref,
        enabledUser: "true",
        username: p.schoolName ?? p.email ?? p.ref,
        givenName: given || p.called,
        familyName: given ? family : p.name,
        email: p.email ?? "",
        agentSourcedIds: (agents.get(p.ref) ?? []).join(","),
        primaryOrgSourcedId: school.id,
      };
    }),
  );
  const role = {
    student: "student",
    teacher: "teacher",
    guardian: "guardian",
    office: "siteAdministrator",
  } as const;
  put(
    "roles.csv",
    roster.people.map((p) => ({
      sourcedId: `role-${p.ref}`,
      userSourcedId: p.ref,
      roleType: "primary",
      role: role[p.kind],
      orgSourcedId: school.id,
    })),
  );
  const enrolled = [
    ...roster.teachers.map((t) => ({ ...t, role: "teacher", joinedOn: null, leftOn: null })),
    ...roster.enrolments.map((e) => ({ ...e, role: "student", owner: false })),
  ];
  put(
    "enrollments.csv",
    enrolled.map((e) => ({
      sourcedId: `${e.sectionRef}-${e.personRef}`,
      classSourcedId: e.sectionRef,
      schoolSourcedId: school.id,
      userSourcedId: e.personRef,
      role: e.role,
      primary: String(e.owner),
      beginDate: e.joinedOn ?? "",
      endDate: e.leftOn ?? "",
    })),
  );
  return files;
}
