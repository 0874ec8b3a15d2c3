import { shorten } from "../text/shorten";
import { parseTable } from "../formats/table";
import { addDays } from "../time/zone";
import {
  MANIFEST_STATES,
  ONE_ROSTER,
  ONE_ROSTER_FILES,
  STATUSES,
  type OneRosterFile,
} from "./oneRosterBinding";
import { emptyRoster, type ReadRoster, type Roster } from "./roster";
import {
  EMPTY_SCHOOL,
  faultsIn,
  isActive,
  list,
  type Files,
  type KnownSchool,
  type Reading,
  type Row,
} from "./oneRosterReading";
import { leavingIn, readDays, readEnrolments, readPeople } from "./oneRosterPeople";

/**
 * Reads the files of a OneRoster 1.2 CSV package as a roster. Nothing is guessed: a row that breaks the
 * binding, or points at something that is not there, is a problem with its file, row and column, and
 * the whole package is then not applied.
 *
 * End dates are the first day after (exclusive), as the binding has them.
 *
 * A file may be a delta: only what changed, with rows that are to be deleted. It may then point at what the school has
 * already, and files that nothing changed in may be left out; nobody leaves but who is named.
 *
 * @param texts the package's files by name
 * @param known what the school has, for deltas
 */
export function readOneRoster(
  texts: ReadonlyMap<string, string>,
  known: KnownSchool = EMPTY_SCHOOL,
): ReadRoster {
  const reading: Reading = { problems: [], notes: [] };
  const states = readManifest(texts.get("manifest.csv"), reading);
  const files = {} as Files;
  const isDelta = [...states.values()].includes("delta");
  for (const file of ONE_ROSTER_FILES) {
    const state = states.get(file.replace(".csv", "")) ?? (isDelta ? "absent" : undefined);
    if (!(isDelta && state === "absent"))
      files[file] = readFile(file, texts.get(file), state, reading);
    else files[file] = [];
  }
  for (const name of texts.keys())
    if (name !== "manifest.csv" && !ONE_ROSTER_FILES.includes(name as OneRosterFile))
      reading.notes.push(`${name} is not needed and was not read.`);
  if (reading.problems.length > 0) return { roster: emptyRoster(), ...reading };
  checkReferences(files, reading, isDelta ? known : null);
  const roster = toRoster(files, reading, known);
  roster.complete = states.get("enrollments") === "bulk";
  return { roster, ...reading };
}

function readManifest(text: string | undefined, reading: Reading): Map<string, string> {
  const states = new Map<string, string>();
  const wrong = faultsIn(reading, "manifest.csv");
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
        `${name} is “${shorten(value, 30)}”; it can be absent, bulk or delta.`,
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
  reading: Reading,
): Row[] {
  const wrong = faultsIn(reading, file);
  const declared = state === "bulk" || state === "delta";
  if (text === undefined) {
    if (declared) wrong(null, null, "The manifest names this file, but it is not in the package.");
    else if (file !== "orgs.csv")
      wrong(null, null, "This file is needed and is not in the package.");
    return [];
  }
  if (!declared) {
    reading.notes.push(`${file} is in the package but absent in its manifest, so it was not read.`);
    return [];
  }
  const table = parseTable(text);
  for (const fault of table.faults) wrong(null, null, fault);
  const [head = { cells: [] }, ...body] = table.rows;
  const names = head.cells.map((c) => c.trim());
  if (table.separator !== "," && names.length > 1)
    reading.notes.push(
      `${file} is separated by ${table.separator === "\t" ? "tabs" : "semicolons"}, not commas; it was read all the same.`,
    );
  if (!hasColumns(file, names, reading)) return [];
  const at = new Map(names.map((name, n) => [name, n]));
  const ids = new Map<string, number>();
  return body.map(({ number, cells }) => {
    const get = (column: string) => (at.has(column) ? (cells[at.get(column)!] ?? "").trim() : "");
    const row = { number, get };
    checkRow(file, row, reading);
    const id = get("sourcedId");
    if (ids.has(id))
      wrong(number, "sourcedId", `The id ${shorten(id, 60)} stands in row ${ids.get(id)} already.`);
    ids.set(id, number);
    return row;
  });
}

type Binding = {
  columns: readonly string[];
  required: readonly string[];
  words: Record<string, readonly string[]>;
};

function hasColumns(file: OneRosterFile, names: readonly string[], reading: Reading): boolean {
  const { columns, required } = ONE_ROSTER[file] as Binding;
  const missing = required.filter((name) => !names.includes(name));
  if (missing.length > 0) {
    const words = `The column ${missing.join(", ")} is missing.`;
    faultsIn(reading, file)(1, missing[0]!, words);
    return false;
  }
  const extra = names.filter(
    (name) => name && !columns.includes(name) && !name.startsWith("metadata."),
  );
  if (extra.length > 0)
    reading.notes.push(
      `${file}: the columns ${extra.slice(0, 6).join(", ")} are not part of the binding and were not read.`,
    );
  return true;
}

function checkRow(file: OneRosterFile, { number, get }: Row, reading: Reading): void {
  const { required, words } = ONE_ROSTER[file] as Binding;
  const wrong = faultsIn(reading, file);
  for (const column of required)
    if (get(column) === "") wrong(number, column, "It is empty, and must not be.");
  for (const [column, allowed] of Object.entries(words))
    if (get(column) && !allowed.includes(get(column)))
      wrong(
        number,
        column,
        `“${shorten(get(column), 40)}” is not one of ${allowed.filter(Boolean).join(", ")}.`,
      );
  if (!(STATUSES as readonly string[]).includes(get("status")))
    wrong(number, "status", `“${shorten(get("status"), 40)}” is neither active nor tobedeleted.`);
}

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

/** Files of which the school keeps no rows to look a pointer up in. */
const NOT_KEPT: readonly OneRosterFile[] = ["orgs.csv", "courses.csv"];

/** Whether a delta may point at it: the school has it, or keeps nothing of its kind. */
function isKnown(known: KnownSchool, file: OneRosterFile, id: string): boolean {
  if (NOT_KEPT.includes(file)) return true;
  if (file === "users.csv") return known.people.has(id);
  return file === "classes.csv" ? known.sections.has(id) : known.terms.has(id);
}

/** @param known for a delta: what the school has already */
function checkReferences(files: Files, reading: Reading, known: KnownSchool | null): void {
  const ids = Object.fromEntries(
    ONE_ROSTER_FILES.map((file) => [
      file,
      new Map(files[file].map((row) => [row.get("sourcedId"), row])),
    ]),
  ) as Record<OneRosterFile, Map<string, Row>>;
  for (const [file, column, to] of POINTERS) {
    const wrong = faultsIn(reading, file);
    for (const row of files[file]) {
      const lost = list(row.get(column)).filter(
        (id) => !ids[to].has(id) && !(known && isKnown(known, to, id)),
      );
      for (const id of lost) wrong(row.number, column, `There is no ${shorten(id, 60)} in ${to}.`);
    }
  }
  for (const file of ["orgs.csv", "academicSessions.csv"] as const) {
    const wrong = faultsIn(reading, file);
    for (const row of files[file]) {
      const circle = circleAbove(row, ids[file]);
      if (circle)
        wrong(
          row.number,
          "parentSourcedId",
          `Its parents run in a circle (${circle.slice(0, 4).join(" → ")}).`,
        );
    }
  }
}

/** The ids from a row up to where its parents come round again; null where they end. */
function circleAbove(row: Row, byId: ReadonlyMap<string, Row>): string[] | null {
  const path = new Set<string>();
  for (let id = row.get("sourcedId"); id; id = byId.get(id)?.get("parentSourcedId") ?? "") {
    if (path.has(id)) return [...path];
    path.add(id);
  }
  return null;
}

function toRoster(files: Files, reading: Reading, known: KnownSchool): Roster {
  const roster: Roster = {
    terms: readTerms(files, reading),
    people: [],
    sections: [],
    teachers: [],
    enrolments: [],
    guardians: [],
    complete: true,
  };
  const courses = new Map(
    files["courses.csv"].map((row) => [row.get("sourcedId"), row.get("title")]),
  );
  for (const row of files["classes.csv"].filter(isActive)) {
    roster.sections.push({
      ref: row.get("sourcedId"),
      sourceId: row.get("sourcedId"),
      name: row.get("title"),
      course:
        courses.get(row.get("courseSourcedId")) ??
        known.sections.get(row.get("sourcedId"))?.course ??
        row.get("courseSourcedId"),
      courseSourceId: row.get("courseSourcedId"),
      termRef: list(row.get("termSourcedIds"))[0] ?? null,
    });
  }
  readPeople(files, roster, reading, known);
  readEnrolments(files, roster, reading, known);
  const leaving = leavingIn(files);
  if (leaving.length > 0) roster.leaving = leaving;
  return roster;
}

function readTerms(files: Files, reading: Reading): Roster["terms"] {
  const sessions = files["academicSessions.csv"].filter(isActive);
  const parents = new Set(sessions.map((row) => row.get("parentSourcedId")));
  const used = new Set(
    files["classes.csv"].filter(isActive).flatMap((row) => list(row.get("termSourcedIds"))),
  );
  // The year that holds the terms is no term of its own, unless classes meet in it.
  const isTerm = (row: Row) => {
    const id = row.get("sourcedId");
    return used.has(id) || (!parents.has(id) && row.get("type") !== "gradingPeriod");
  };
  return sessions.flatMap((row): Roster["terms"] => {
    const columns = ["startDate", "endDate"] as const;
    const [startsOn, ends] = readDays("academicSessions.csv", row, columns, reading);
    if (!startsOn || !ends) return [];
    if (ends <= startsOn)
      faultsIn(reading, "academicSessions.csv")(
        row.number,
        "endDate",
        `It ends (${ends}) before it has begun (${startsOn}).`,
      );
    const id = row.get("sourcedId");
    const term = { ref: id, sourceId: id, name: row.get("title"), startsOn };
    return isTerm(row) ? [{ ...term, endsOn: addDays(ends, -1) }] : [];
  });
}
