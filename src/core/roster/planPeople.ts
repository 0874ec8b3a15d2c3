import { namesFrom } from "./oneRosterPeople";
import { nameColumns } from "./writeOneRoster";
import type { RosterPerson } from "./roster";
import type { CurrentRoster, Planning } from "./rosterPlan";

const FIELDS = ["sourceId", "name", "called", "sortName", "email", "schoolName"] as const;
const FIELD_WORDS: Record<(typeof FIELDS)[number], string> = {
  sourceId: "id in the records",
  name: "name",
  called: "called",
  sortName: "filed under",
  email: "e-mail",
  schoolName: "school name",
};

type CurrentPerson = CurrentRoster["people"][number];

export function planPeople(planning: Planning, peopleStay: boolean): void {
  const { wanted, plan, note } = planning;
  const find = finderOf(planning.current.people);
  for (const person of wanted.people) {
    const { found, clash, column } = find(person);
    const why = clash ? sayClash(person, clash, column) : sayOtherKind(person, found);
    if (why) {
      const file = person.sourceId ? "users.csv" : "table";
      plan.problems.push({ file, row: null, column: clash ? column : "role", words: why });
      continue;
    }
    if (!found) {
      plan.people.push({ id: null, person });
      const address = person.email ? ` (${person.email})` : "";
      note("people", "new", `${person.name}, ${person.kind}${address}`);
      continue;
    }
    plan.known.people.set(person.ref, found.id);
    const merged = isOwn(person, found) ? mergeOwn(person, found) : mergePerson(person, found);
    const differing = FIELDS.filter((field) => (found[field] ?? null) !== (merged[field] ?? null));
    if (peopleStay || differing.length === 0) {
      plan.counts.people.unchanged += 1;
      continue;
    }
    plan.people.push({ id: found.id, person: merged });
    const said = differing.map(
      (f) => `${FIELD_WORDS[f]} ${found[f] ?? "none"} → ${merged[f] ?? "none"}`,
    );
    note("people", "changed", `${found.name}: ${said.join(", ")}`);
  }
}

type Found = {
  found: CurrentPerson | undefined;
  /** Another person of the school who has the address or the school name. */
  clash: CurrentPerson | undefined;
  column: "email" | "username";
};

function finderOf(people: CurrentRoster["people"]): (person: RosterPerson) => Found {
  const by = (key: "sourceId" | "email" | "schoolName") =>
    new Map(people.flatMap((p) => (p[key] ? [[p[key].toLowerCase(), p] as const] : [])));
  // What was made here has no id of the records, and is written out under its own.
  const bySource = new Map(people.map((p) => [p.sourceId ?? p.id, p] as const));
  const [byEmail, byLogin] = [by("email"), by("schoolName")];
  return (person) => {
    const mail = byEmail.get(person.email?.toLowerCase() ?? "");
    const login = byLogin.get(person.schoolName?.toLowerCase() ?? "");
    // An address or a school name finds someone only where the records' ids do not say otherwise.
    const unclaimed = (other: CurrentPerson | undefined) =>
      other?.sourceId === null ? other : undefined;
    const byMail = person.sourceId === null ? mail : unclaimed(mail);
    const found = bySource.get(person.sourceId ?? "") ?? byMail ?? unclaimed(login);
    const clash = [mail, login].find((other) => other && other !== found);
    return { found, clash, column: clash && mail === clash ? "email" : "username" };
  };
}

function sayClash(person: RosterPerson, clash: CurrentPerson, column: Found["column"]): string {
  const what =
    column === "email" ? `e-mail address ${person.email}` : `school name ${person.schoolName}`;
  return `${person.name} has the ${what}, which belongs to ${clash.name} in this school.`;
}

function sayOtherKind(person: RosterPerson, found: CurrentPerson | undefined): string | null {
  if (!found || found.kind === person.kind) return null;
  return `${person.name} is a ${found.kind} in this school and a ${person.kind} in the file.`;
}

/** Written out by Almanac itself under its own id, for want of one of the records. */
const isOwn = (person: RosterPerson, found: CurrentPerson): boolean =>
  found.sourceId === null && person.sourceId === found.id;

/** What was changed in a roster written out here; all else is as it is, also what the format has no place for. */
function mergeOwn(person: RosterPerson, found: CurrentPerson): RosterPerson {
  const { id: _, ...kept } = found;
  const columns: Record<string, string> = nameColumns({ ...found, ref: found.id });
  const written = namesFrom((column) => columns[column] ?? "");
  const changed = (Object.keys(written) as (keyof typeof written)[]).filter(
    (field) => written[field] !== person[field],
  );
  return {
    ...kept,
    ref: person.ref,
    ...Object.fromEntries(changed.map((field) => [field, person[field]])),
  };
}

/** A plain table knows only a name and an address: it never takes away what the records told. */
function mergePerson(person: RosterPerson, found: CurrentPerson): RosterPerson {
  if (person.sourceId !== null) return person;
  const { sourceId, schoolName, called, sortName, name } = found;
  const kept = sameName(name, person.name) ? { called, sortName, name } : {};
  return { ...person, sourceId, schoolName, ...kept };
}

const sameName = (a: string, b: string) =>
  a.normalize("NFC").toLowerCase() === b.normalize("NFC").toLowerCase();
