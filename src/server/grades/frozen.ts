import { sayTime } from "@/core/time/words";
import type { GradeSource } from "@/core/views/gradeViews";
import type { ReadCall } from "../call";
import type { Db } from "../db/connection";

/** A grade as it was frozen, with all that it was made of. */
export type FrozenSum = Pick<GradeSource, "rules" | "categories" | "columns" | "entries"> & {
  percent: string | null;
  name: string | null;
};
export type FrozenGrade = { sum: FrozenSum; reason: string | null; by: string; at: Date };
export type Freeze = {
  id: string;
  by: string;
  at: Date;
  /** By student: what stands first, then what it was before it was corrected. */
  grades: ReadonlyMap<string, FrozenGrade[]>;
};

/**
 * The freeze in force of a section's term, with the grades of some students or of all; null: there is none.
 * Indexes: grade_freeze_in_force, frozen_grade's key.
 */
export async function readFreeze(
  { db, who }: ReadCall,
  {
    sectionId,
    term,
    studentIds = null,
  }: { sectionId: string; term: string | null; studentIds?: readonly string[] | null },
): Promise<Freeze | null> {
  if (term === null) return null;
  const rows = await db<
    {
      id: string;
      by: string;
      at: Date;
      studentId: string | null;
      sum: FrozenSum;
      reason: string | null;
      setBy: string;
      setAt: Date;
    }[]
  >`
    select stands.id, freezer.name as by, stands.frozen_at as at, grade.student_id, grade.sum, grade.reason, setter.name as set_by, grade.set_at
    from grade_freeze stands
    join term on term.id = stands.term_id and term.name = ${term} and term.school_id = ${who.schoolId}
    join person freezer on freezer.id = stands.frozen_by
    left join frozen_grade grade on grade.freeze_id = stands.id
      ${studentIds ? db`and grade.student_id = any(${[...studentIds]})` : db``}
    left join person setter on setter.id = grade.set_by
    where stands.section_id = ${sectionId} and stands.opened_at is null
    order by grade.student_id, grade.number desc`;
  const [first] = rows;
  if (!first) return null;
  const grades = new Map<string, FrozenGrade[]>();
  for (const { studentId, sum, reason, setBy, setAt } of rows)
    if (studentId !== null) {
      const own = grades.get(studentId) ?? [];
      own.push({ sum, reason, by: setBy, at: setAt });
      grades.set(studentId, own);
    }
  return { id: first.id, by: first.by, at: first.at, grades };
}

/** Freezes of a section's term that were opened again, with the reason, the newest first. Index: grade_freeze_section. */
export async function readOpened(
  { db, who, now }: ReadCall,
  { sectionId, term }: { sectionId: string; term: string | null },
): Promise<{ by: string; on: string; reason: string }[]> {
  if (term === null) return [];
  const rows = await db<{ by: string; at: Date; reason: string }[]>`
    select opener.name as by, stands.opened_at as at, stands.opened_reason as reason
    from grade_freeze stands
    join term on term.id = stands.term_id and term.name = ${term} and term.school_id = ${who.schoolId}
    join person opener on opener.id = stands.opened_by
    where stands.section_id = ${sectionId}
    order by stands.opened_at desc
    limit 20`;
  return rows.map(({ by, at, reason }) => ({ by, on: sayTime(at, now, who.zone), reason }));
}

/** The terms of a section whose grades are frozen, the earlier ones first. Index: grade_freeze_section. */
export async function readFrozenTerms(db: Db, sectionId: string): Promise<string[]> {
  const rows = await db<{ name: string }[]>`
    select term.name
    from grade_freeze join term on term.id = grade_freeze.term_id
    where grade_freeze.section_id = ${sectionId} and grade_freeze.opened_at is null
    order by term.starts_on`;
  return rows.map(({ name }) => name);
}
