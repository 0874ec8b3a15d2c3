import type { Person } from "../call";
import type { Db } from "../db/connection";

/**
 * The comments that a teacher may read and use: their own, those shared with a course they teach a section
 * of, and those shared with the teachers of their school. Only the owner changes one.
 */
export function mayUse(db: Db, who: Person) {
  return db`(
    comment.deleted_at is null and (
      comment.owner_id = ${who.id}
      or (comment.share = 'school' and exists (select from person owner where owner.id = comment.owner_id and owner.school_id = ${who.schoolId}))
      or (comment.share = 'course' and exists (
        select
        from section_teacher
        join section on section.id = section_teacher.section_id
        where section.course_id = comment.course_id and section_teacher.person_id = ${who.id}
      ))
    )
  )`;
}

/** The courses a teacher teaches a section of: those a comment can be shared with. */
export async function readCourses(db: Db, who: Person): Promise<{ id: string; name: string }[]> {
  return db<{ id: string; name: string }[]>`
    select distinct course.id, course.name
    from section_teacher
    join section on section.id = section_teacher.section_id
    join course on course.id = section.course_id
    where section_teacher.person_id = ${who.id}
    order by course.name`;
}
