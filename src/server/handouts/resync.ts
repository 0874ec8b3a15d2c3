import type { Call } from "../call";
import { syncPieces } from "./pieces";

/** After the school's days have changed: extra time in school days is worked out again for what is not due yet. */
export async function resyncSchool(call: Call): Promise<void> {
  const { tx, who, now } = call;
  const sections = await tx<{ sectionId: string }[]>`
    select distinct section_group.section_id
    from section_group
    join section on section.id = section_group.section_id
    join course on course.id = section.course_id
    join hand_out on hand_out.section_id = section.id and hand_out.due_at > ${now}
    where course.school_id = ${who.schoolId} and section_group.extra_amount is not null`;
  for (const { sectionId } of sections) await syncPieces(call, sectionId);
}
