import { uuidv7 } from "uuidv7";
import type { Person } from "../call";
import type { Sql } from "../db/connection";
import { syncPieces } from "./pieces";

/** Any number, but always the same: of several servers one does it. */
const CALENDAR_LOCK = 7_262_002;
/** Days back that are looked at: a server that was off over a weekend makes up for it. */
const DAYS_BACK = 7;

/**
 * Students who were to join or leave a section on a day that has come: what they owe starts, or ends.
 * Run every few minutes; running it again changes nothing.
 *
 * @returns how many sections were gone through
 */
export async function followTheCalendar(sql: Sql, now: Date): Promise<number> {
  return sql.begin(async (tx) => {
    const [lock] = await tx<
      { mine: boolean }[]
    >`select pg_try_advisory_xact_lock(${CALENDAR_LOCK}) as mine`;
    if (!lock!.mine) return 0;
    // Only where something is out of line: a joiner without a piece of work due later, a leaver with one not let go.
    const sections = await tx<(Person & { sectionId: string })[]>`
      select distinct section.id as section_id, owner.id, owner.kind, owner.name, owner.called, owner.school_id, school.time_zone as zone
      from enrolment
      join section on section.id = enrolment.section_id
      join course on course.id = section.course_id
      join school on school.id = course.school_id
      join section_teacher on section_teacher.section_id = section.id and section_teacher.role = 'owner'
      join person owner on owner.id = section_teacher.person_id
      join hand_out on hand_out.section_id = section.id and hand_out.withdrawn_at is null
      left join piece on piece.hand_out_id = hand_out.id and piece.student_id = enrolment.student_id
      cross join lateral (select (${now}::timestamptz at time zone school.time_zone)::date as today, (hand_out.due_at at time zone school.time_zone)::date as due) day
      where (enrolment.joined_on between day.today - ${DAYS_BACK}::int and day.today and piece.id is null and hand_out.audience = 'section'
          and enrolment.joined_on <= day.due and (enrolment.left_on is null or (enrolment.left_on > day.today and enrolment.left_on > day.due)))
        or (enrolment.left_on between day.today - ${DAYS_BACK}::int and day.today and enrolment.left_on <= day.due and piece.id is not null and piece.left_at is null)`;
    for (const { sectionId, ...who } of sections)
      await syncPieces({ tx, db: tx, who, now, newId: uuidv7 }, sectionId);
    return sections.length;
  }) as Promise<number>;
}
