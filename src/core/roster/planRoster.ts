import type { Day } from "../time/zone";
import type {
  Roster,
  RosterEnrolment,
  RosterPerson,
  RosterProblem,
  RosterSection,
  RosterTeacher,
  RosterTerm,
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

/**
 * What a file would change, compared with what the school has: the same file a second time changes
 * nothing. People are found by the records system's id, then by e-mail address, then by school name.
 *
 * Nobody is ever deleted. Where the file is complete, students who no longer stand in one of its
 * sections leave it (today), and teachers who no longer do are taken off; what they did stays.
 *
 * @param peopleStay nobody the school knows is changed: a teacher's table puts people into a section and
 *   does not rename them
 */
export function planRoster(
  wanted: Roster,
  current: CurrentRoster,
  today: Day,
  { peopleStay = false } = {},
): RosterPlan {
  const counts = Object.fromEntries(
    AREAS.map((area) => [area, { new: 0, changed: 0, gone: 0, unchanged: 0 }]),
  ) as Counts;
  const plan: RosterPlan = {
    terms: [],
    people: [],
    sections: [],
    teachers: { add: [], remove: [] },
    enrolments: { add: [], change: [], end: [] },
    guardians: [],
    known: { people: new Map(), sections: new Map(), terms: new Map() },
    lines: [],
    counts,
    problems: [],
  };
  const note = (area: Area, what: "new" | "changed" | "gone", words: string) => {
    counts[area][what] += 1;
    plan.lines.push({ area, what, words });
  };
  planTerms(wanted, current, plan, note);
  planPeople(wanted, current, plan, note, peopleStay);
  planSections(wanted, current, plan, note);
  planEnrolments(wanted, current, plan, note, today);
  planGuardians(wanted, current, plan, note);
  return plan;
}

type Note = (area: Area, what: "new" | "changed" | "gone", words: string) => void;

function planTerms(wanted: Roster, current: CurrentRoster, plan: RosterPlan, note: Note): void {
  for (const term of wanted.terms) {
    const found = current.terms.find(
      (t) =>
        (term.sourceId !== null && t.sourceId === term.sourceId) ||
        (t.sourceId === null && t.name === term.name && t.startsOn === term.startsOn),
    );
    if (found) plan.known.terms.set(term.ref, found.id);
    const same =
      found &&
      found.name === term.name &&
      found.startsOn === term.startsOn &&
      found.endsOn === term.endsOn &&
      found.sourceId === term.sourceId;
    if (same) plan.counts.terms.unchanged += 1;
    else {
      plan.terms.push({ id: found?.id ?? null, term });
      note("terms", found ? "changed" : "new", `${term.name}, ${term.startsOn} to ${term.endsOn}`);
    }
  }
}

const FIELDS = ["sourceId", "name", "called", "sortName", "email", "schoolName"] as const;
const FIELD_WORDS: Record<(typeof FIELDS)[number], string> = {
  sourceId: "id in the records",
  name: "name",
  called: "called",
  sortName: "filed under",
  email: "e-mail",
  schoolName: "school name",
};

function planPeople(
  wanted: Roster,
  current: CurrentRoster,
  plan: RosterPlan,
  note: Note,
  peopleStay: boolean,
): void {
  const bySource = new Map(current.people.filter((p) => p.sourceId).map((p) => [p.sourceId!, p]));
  const byEmail = new Map(
    current.people.filter((p) => p.email).map((p) => [p.email!.toLowerCase(), p]),
  );
  const byLogin = new Map(
    current.people.filter((p) => p.schoolName).map((p) => [p.schoolName!.toLowerCase(), p]),
  );
  for (const person of wanted.people) {
    const mail = person.email ? byEmail.get(person.email.toLowerCase()) : undefined;
    const login = person.schoolName ? byLogin.get(person.schoolName.toLowerCase()) : undefined;
    const found =
      (person.sourceId ? bySource.get(person.sourceId) : undefined) ??
      (mail && (mail.sourceId === null || person.sourceId === null) ? mail : undefined) ??
      (login && login.sourceId === null ? login : undefined);
    const clash = [mail, login].find((other) => other && other !== found);
    if (clash) {
      plan.problems.push({
        file: person.sourceId ? "users.csv" : "table",
        row: null,
        column: mail === clash ? "email" : "username",
        words: `${person.name} has the ${mail === clash ? `e-mail address ${person.email}` : `school name ${person.schoolName}`}, which belongs to ${clash.name} in this school.`,
      });
      continue;
    }
    if (found && found.kind !== person.kind) {
      plan.problems.push({
        file: person.sourceId ? "users.csv" : "table",
        row: null,
        column: "role",
        words: `${person.name} is a ${found.kind} in this school and a ${person.kind} in the file.`,
      });
      continue;
    }
    if (found) plan.known.people.set(person.ref, found.id);
    // A plain table knows only a name and an address: it never takes away what the records told.
    const merged =
      found && person.sourceId === null
        ? {
            ...person,
            sourceId: found.sourceId,
            schoolName: found.schoolName,
            ...(sameName(found.name, person.name)
              ? { called: found.called, sortName: found.sortName, name: found.name }
              : {}),
          }
        : person;
    const differing =
      found && !peopleStay
        ? FIELDS.filter((field) => (found[field] ?? null) !== (merged[field] ?? null))
        : [];
    if (found && differing.length === 0) plan.counts.people.unchanged += 1;
    else {
      plan.people.push({ id: found?.id ?? null, person: merged });
      note(
        "people",
        found ? "changed" : "new",
        found
          ? `${found.name}: ${differing.map((f) => `${FIELD_WORDS[f]} ${found[f] ?? "none"} → ${merged[f] ?? "none"}`).join(", ")}`
          : `${person.name}, ${person.kind}${person.email ? ` (${person.email})` : ""}`,
      );
    }
  }
}

const sameName = (a: string, b: string) =>
  a.normalize("NFC").toLowerCase() === b.normalize("NFC").toLowerCase();

function planSections(wanted: Roster, current: CurrentRoster, plan: RosterPlan, note: Note): void {
  for (const section of wanted.sections) {
    const found = current.sections.find(
      (s) => s.sourceId !== null && s.sourceId === section.sourceId,
    );
    if (found) plan.known.sections.set(section.ref, found.id);
    if (found && found.name === section.name && found.course === section.course)
      plan.counts.sections.unchanged += 1;
    else {
      plan.sections.push({ id: found?.id ?? null, section });
      note(
        "sections",
        found ? "changed" : "new",
        found
          ? `${found.course}, ${found.name} → ${section.course}, ${section.name}`
          : `${section.name} (${section.course})`,
      );
    }
  }
  // A plain table names sections that exist: their refs are their ids.
  for (const { id } of current.sections)
    if (!plan.known.sections.has(id)) plan.known.sections.set(id, id);
}

function planEnrolments(
  wanted: Roster,
  current: CurrentRoster,
  plan: RosterPlan,
  note: Note,
  today: Day,
): void {
  const people = new Map([
    ...current.people.map((p) => [p.id, p.name] as const),
    ...wanted.people.map((p) => [p.ref, p.name] as const),
  ]);
  const sections = new Map([
    ...current.sections.map((s) => [s.id, s.name] as const),
    ...wanted.sections.map((s) => [s.ref, s.name] as const),
  ]);
  const words = (sectionRef: string, personRef: string) =>
    `${people.get(personRef) ?? personRef} in ${sections.get(sectionRef) ?? sectionRef}`;
  const now = new Map(current.enrolments.map((e) => [`${e.sectionId} ${e.personId}`, e]));
  const kept = new Set<string>();
  const covered = new Set(
    [...wanted.sections.map((s) => s.ref), ...wanted.enrolments.map((e) => e.sectionRef)].flatMap(
      (ref) => plan.known.sections.get(ref) ?? [],
    ),
  );
  for (const enrolment of wanted.enrolments) {
    const [sectionId, personId] = [
      plan.known.sections.get(enrolment.sectionRef),
      plan.known.people.get(enrolment.personRef),
    ];
    const found = sectionId && personId ? now.get(`${sectionId} ${personId}`) : undefined;
    if (found) kept.add(`${sectionId} ${personId}`);
    if (!found) {
      plan.enrolments.add.push(enrolment);
      note("enrolments", "new", words(enrolment.sectionRef, enrolment.personRef));
    } else if (
      (enrolment.joinedOn ?? found.joinedOn) !== found.joinedOn ||
      enrolment.leftOn !== found.leftOn
    ) {
      plan.enrolments.change.push({
        ...enrolment,
        joinedOn: enrolment.joinedOn ?? found.joinedOn,
        sectionId: sectionId!,
        personId: personId!,
      });
      note(
        "enrolments",
        "changed",
        `${words(enrolment.sectionRef, enrolment.personRef)}: ${enrolment.leftOn ? `until ${enrolment.leftOn}` : found.leftOn ? "back again" : `from ${enrolment.joinedOn}`}`,
      );
    } else plan.counts.enrolments.unchanged += 1;
  }
  const teaching = new Set(
    wanted.teachers.map(
      (t) => `${plan.known.sections.get(t.sectionRef)} ${plan.known.people.get(t.personRef)}`,
    ),
  );
  const teachesNow = new Map(current.teachers.map((t) => [`${t.sectionId} ${t.personId}`, t]));
  for (const teacher of wanted.teachers) {
    const found = teachesNow.get(
      `${plan.known.sections.get(teacher.sectionRef)} ${plan.known.people.get(teacher.personRef)}`,
    );
    // Who owns a section can be changed in Almanac: a file does not change it back.
    if (found) plan.counts.teachers.unchanged += 1;
    else {
      plan.teachers.add.push(teacher);
      note(
        "teachers",
        "new",
        `${words(teacher.sectionRef, teacher.personRef)}, ${teacher.owner ? "owner" : "co-teacher"}`,
      );
    }
  }
  if (!wanted.complete) return;
  for (const enrolment of current.enrolments) {
    const key = `${enrolment.sectionId} ${enrolment.personId}`;
    if (
      !covered.has(enrolment.sectionId) ||
      kept.has(key) ||
      (enrolment.leftOn !== null && enrolment.leftOn <= today)
    )
      continue;
    plan.enrolments.end.push({ sectionId: enrolment.sectionId, personId: enrolment.personId });
    note("enrolments", "gone", `${words(enrolment.sectionId, enrolment.personId)}: leaves today`);
  }
  if (wanted.teachers.length === 0) return;
  for (const teacher of current.teachers) {
    if (
      !covered.has(teacher.sectionId) ||
      teacher.owner ||
      teaching.has(`${teacher.sectionId} ${teacher.personId}`)
    )
      continue;
    plan.teachers.remove.push({ sectionId: teacher.sectionId, personId: teacher.personId });
    note("teachers", "gone", words(teacher.sectionId, teacher.personId));
  }
}

function planGuardians(wanted: Roster, current: CurrentRoster, plan: RosterPlan, note: Note): void {
  const now = new Set(current.guardians.map((g) => `${g.guardianId} ${g.studentId}`));
  const names = new Map(wanted.people.map((p) => [p.ref, p.name]));
  for (const pair of wanted.guardians) {
    if (
      now.has(
        `${plan.known.people.get(pair.guardianRef)} ${plan.known.people.get(pair.studentRef)}`,
      )
    )
      plan.counts.guardians.unchanged += 1;
    else {
      plan.guardians.push(pair);
      note("guardians", "new", `${names.get(pair.guardianRef)} for ${names.get(pair.studentRef)}`);
    }
  }
}
