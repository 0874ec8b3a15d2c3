import { schoolDayFrom } from "@/core/time/term";
import { addDays, dayOf } from "@/core/time/zone";
import { requireOnSection } from "../access/standing";
import type { ReadCall } from "../call";

/** Where the form begins: due at 16:00 in a week, promised back a week after that, both on school days. */
export async function suggestDates({ db, who, now }: ReadCall, sectionId: string): Promise<{ section: string; students: number; due: string; promised: string }> {
  await requireOnSection(db, who, sectionId, "section.handOut");
  const [[section], closures] = await Promise.all([
    db<{ section: string; students: number }[]>`
      select name as section, (select count(*)::int from enrolment where section_id = section.id and left_on is null) as students
      from section
      where id = ${sectionId}`,
    db<{ name: string; startsOn: string; endsOn: string }[]>`select name, starts_on, ends_on from closure where school_id = ${who.schoolId}`,
  ]);
  const today = dayOf(now, who.zone);
  return { ...section!, due: `${schoolDayFrom(addDays(today, 7), closures)}T16:00`, promised: `${schoolDayFrom(addDays(today, 14), closures)}T16:00` };
}
