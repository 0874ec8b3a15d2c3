import type { Day } from "../time/zone";
import { planPeople } from "./planPeople";
import type { Roster, RosterTerm } from "./roster";
import type { CurrentRoster, RosterPlan, Counts, Area, Planning } from "./rosterPlan";
import { AREAS } from "./rosterPlan";

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
  const planning: Planning = { wanted, current, plan, note };
  planTerms(planning);
  planPeople(planning, peopleStay);
  planSections(planning);
  knowTheSchool(planning);
  planEnrolments(planning);
  planTeachers(planning);
  if (wanted.complete) planLeaving(planning, today);
  else planNamedLeaving(planning, today);
  planGuardians(planning);
  return plan;
}

function planTerms({ wanted, current, plan, note }: Planning): void {
  for (const term of wanted.terms) {
    const found = current.terms.find(
      (t) =>
        (term.sourceId !== null && (t.sourceId ?? t.id) === term.sourceId) ||
        (t.sourceId === null && t.name === term.name && t.startsOn === term.startsOn),
    );
    if (found) plan.known.terms.set(term.ref, found.id);
    if (found && isSameTerm(found, term)) plan.counts.terms.unchanged += 1;
    else {
      const own = found?.sourceId === null && found.id === term.sourceId;
      plan.terms.push({ id: found?.id ?? null, term: own ? { ...term, sourceId: null } : term });
      note("terms", found ? "changed" : "new", `${term.name}, ${term.startsOn} to ${term.endsOn}`);
    }
  }
}

const isSameTerm = (found: CurrentRoster["terms"][number], term: RosterTerm): boolean =>
  found.name === term.name &&
  found.startsOn === term.startsOn &&
  found.endsOn === term.endsOn &&
  (found.sourceId ?? found.id) === term.sourceId;

function planSections({ wanted, current, plan, note }: Planning): void {
  for (const section of wanted.sections) {
    const found = current.sections.find(
      (s) => section.sourceId !== null && (s.sourceId ?? s.id) === section.sourceId,
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
}

/** A plain table names sections that exist by their ids; a delta names them, and people, by those of the records. */
function knowTheSchool({ current, plan: { known } }: Planning): void {
  for (const { id, sourceId } of current.sections)
    for (const ref of [id, sourceId])
      if (ref && !known.sections.has(ref)) known.sections.set(ref, id);
  for (const { id, sourceId } of current.people)
    if (!known.people.has(sourceId ?? id)) known.people.set(sourceId ?? id, id);
}

/** Who in which section, in words; by refs of the file and by ids of the school alike. */
function wordsOf({ wanted, current }: Planning): (sectionRef: string, personRef: string) => string {
  const people = new Map([
    ...current.people.map((p) => [p.id, p.name] as const),
    ...wanted.people.map((p) => [p.ref, p.name] as const),
  ]);
  const sections = new Map([
    ...current.sections.map((s) => [s.id, s.name] as const),
    ...wanted.sections.map((s) => [s.ref, s.name] as const),
  ]);
  return (sectionRef, personRef) =>
    `${people.get(personRef) ?? personRef} in ${sections.get(sectionRef) ?? sectionRef}`;
}

/** Section and person by the school's ids, as one key. */
const knownKey = ({ known }: RosterPlan, pair: { sectionRef: string; personRef: string }) =>
  `${known.sections.get(pair.sectionRef)} ${known.people.get(pair.personRef)}`;

function planEnrolments(planning: Planning): void {
  const { wanted, current, plan, note } = planning;
  const words = wordsOf(planning);
  const now = new Map(current.enrolments.map((e) => [`${e.sectionId} ${e.personId}`, e]));
  for (const enrolment of wanted.enrolments) {
    const { sectionRef, personRef, leftOn } = enrolment;
    const found = now.get(knownKey(plan, enrolment));
    if (!found) {
      plan.enrolments.add.push(enrolment);
      note("enrolments", "new", words(sectionRef, personRef));
      continue;
    }
    const joinedOn = enrolment.joinedOn ?? found.joinedOn;
    if (joinedOn === found.joinedOn && leftOn === found.leftOn) {
      plan.counts.enrolments.unchanged += 1;
      continue;
    }
    const { sectionId, personId } = found;
    plan.enrolments.change.push({ ...enrolment, joinedOn, sectionId, personId });
    const since = found.leftOn ? "back again" : `from ${enrolment.joinedOn}`;
    const said = leftOn ? `until ${leftOn}` : since;
    note("enrolments", "changed", `${words(sectionRef, personRef)}: ${said}`);
  }
}

function planTeachers(planning: Planning): void {
  const { wanted, current, plan, note } = planning;
  const words = wordsOf(planning);
  const now = new Set(current.teachers.map((t) => `${t.sectionId} ${t.personId}`));
  const owned = new Set(current.teachers.filter((t) => t.owner).map((t) => t.sectionId));
  for (const teacher of wanted.teachers) {
    // Who owns a section can be changed in Almanac: a file does not change it back.
    if (now.has(knownKey(plan, teacher))) plan.counts.teachers.unchanged += 1;
    else {
      // A section has one owner, who is not put aside by a file.
      const owner = teacher.owner && !owned.has(plan.known.sections.get(teacher.sectionRef) ?? "");
      plan.teachers.add.push({ ...teacher, owner });
      const as = owner ? "owner" : "co-teacher";
      note("teachers", "new", `${words(teacher.sectionRef, teacher.personRef)}, ${as}`);
    }
  }
}

/** Where the file is complete: who no longer stands in a section that it speaks of leaves it. */
function planLeaving(planning: Planning, today: Day): void {
  const { wanted, current, plan, note } = planning;
  const words = wordsOf(planning);
  const spokenOf = [
    ...wanted.sections.map((s) => s.ref),
    ...wanted.enrolments.map((e) => e.sectionRef),
  ];
  const covered = new Set(spokenOf.flatMap((ref) => plan.known.sections.get(ref) ?? []));
  const stays = new Set(wanted.enrolments.map((e) => knownKey(plan, e)));
  for (const { sectionId, personId, leftOn } of current.enrolments) {
    const hasLeft = leftOn !== null && leftOn <= today;
    if (!covered.has(sectionId) || stays.has(`${sectionId} ${personId}`) || hasLeft) continue;
    plan.enrolments.end.push({ sectionId, personId });
    note("enrolments", "gone", `${words(sectionId, personId)}: leaves today`);
  }
  if (wanted.teachers.length === 0) return;
  const teaches = new Set(wanted.teachers.map((t) => knownKey(plan, t)));
  for (const { sectionId, personId, owner } of current.teachers) {
    if (!covered.has(sectionId) || owner || teaches.has(`${sectionId} ${personId}`)) continue;
    plan.teachers.remove.push({ sectionId, personId });
    note("teachers", "gone", words(sectionId, personId));
  }
}

/** Who leaves because a file of changes says so; the owner of a section stays until another is named. */
function planNamedLeaving(planning: Planning, today: Day): void {
  const { wanted, current, plan, note } = planning;
  const words = wordsOf(planning);
  const leaves = new Set(
    (wanted.leaving ?? []).map(({ sectionRef, personRef }) => {
      const section = sectionRef === null ? "" : plan.known.sections.get(sectionRef);
      return `${section} ${plan.known.people.get(personRef)}`;
    }),
  );
  const isNamed = (sectionId: string, personId: string) =>
    leaves.has(`${sectionId} ${personId}`) || leaves.has(` ${personId}`);
  for (const { sectionId, personId, leftOn } of current.enrolments) {
    if (!isNamed(sectionId, personId) || (leftOn !== null && leftOn <= today)) continue;
    plan.enrolments.end.push({ sectionId, personId });
    note("enrolments", "gone", `${words(sectionId, personId)}: leaves today`);
  }
  for (const { sectionId, personId, owner } of current.teachers) {
    if (owner || !isNamed(sectionId, personId)) continue;
    plan.teachers.remove.push({ sectionId, personId });
    note("teachers", "gone", words(sectionId, personId));
  }
}

function planGuardians({ wanted, current, plan, note }: Planning): void {
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
