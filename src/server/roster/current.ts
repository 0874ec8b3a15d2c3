import type { CurrentRoster } from "@/core/roster/rosterPlan";
import type { Roster } from "@/core/roster/roster";
import type { Db } from "../db/connection";

/** What the school has, in the shape that a file is compared with. */
export async function currentRoster(db: Db, schoolId: string): Promise<CurrentRoster> {
  const [terms, people, sections, teachers, enrolments, guardians] = await Promise.all([
    db<
      CurrentRoster["terms"]
    >`select id, source_id, name, starts_on, ends_on from term where school_id = ${schoolId} order by starts_on`,
    db<
      CurrentRoster["people"]
    >`select id, source_id, kind, name, called, sort_name, email, school_name from person where school_id = ${schoolId} order by sort_name, id`,
    db<CurrentRoster["sections"]>`
      select section.id, section.source_id, section.name, course.name as course, course.source_id as course_source_id, course.id as course_id, course.term_id
      from section
      join course on course.id = section.course_id
      where course.school_id = ${schoolId}
      order by course.name, section.name`,
    db<CurrentRoster["teachers"]>`
      select section_teacher.section_id, person_id, role = 'owner' as owner
      from section_teacher
      join section on section.id = section_teacher.section_id
      join course on course.id = section.course_id
      where course.school_id = ${schoolId}`,
    db<CurrentRoster["enrolments"]>`
      select enrolment.section_id, student_id as person_id, joined_on, left_on
      from enrolment
      join section on section.id = enrolment.section_id
      join course on course.id = section.course_id
      where course.school_id = ${schoolId}`,
    db<CurrentRoster["guardians"]>`
      select guardian_id, student_id
      from guardianship
      join person on person.id = guardian_id
      where person.school_id = ${schoolId}`,
  ]);
  return {
    terms: [...terms],
    people: [...people],
    sections: [...sections],
    teachers: [...teachers],
    enrolments: [...enrolments],
    guardians: [...guardians],
  };
}

/**
 * The school as a roster to be written out. Ids of the records system are kept; what was made here goes
 * out under Almanac's own id.
 */
export function rosterOf(current: CurrentRoster): Roster {
  const person = new Map(current.people.map((p) => [p.id, p.sourceId ?? p.id]));
  const section = new Map(current.sections.map((s) => [s.id, s.sourceId ?? s.id]));
  const term = new Map(current.terms.map((t) => [t.id, t.sourceId ?? t.id]));
  return {
    terms: current.terms.map((t) => ({ ...t, ref: term.get(t.id)! })),
    people: current.people.map((p) => ({ ...p, ref: person.get(p.id)! })),
    sections: current.sections.map((s) => ({
      ref: section.get(s.id)!,
      sourceId: s.sourceId,
      name: s.name,
      course: s.course,
      courseSourceId: s.courseSourceId ?? s.courseId,
      termRef: term.get(s.termId)!,
    })),
    teachers: current.teachers.map((t) => ({
      sectionRef: section.get(t.sectionId)!,
      personRef: person.get(t.personId)!,
      owner: t.owner,
    })),
    enrolments: current.enrolments.map((e) => ({
      sectionRef: section.get(e.sectionId)!,
      personRef: person.get(e.personId)!,
      joinedOn: e.joinedOn,
      leftOn: e.leftOn,
    })),
    guardians: current.guardians.map((g) => ({
      guardianRef: person.get(g.guardianId)!,
      studentRef: person.get(g.studentId)!,
    })),
    complete: true,
  };
}
