import type { SchoolCalendar } from "@/core/time/term";
import type { Meeting } from "@/core/time/lessons";
import type { Db } from "../db/connection";

export type SchoolDays = { calendar: SchoolCalendar; dayEnds: string };

/** The school's calendar: its weekdays, terms and closures. Indexes: term_school, closure_school. */
export async function readCalendar(db: Db, schoolId: string): Promise<SchoolDays> {
  const [[school], terms, closures] = await Promise.all([
    db<
      { meetsOn: number[]; dayEnds: string }[]
    >`select meets_on, day_ends from school where id = ${schoolId}`,
    db<
      { name: string; startsOn: string; endsOn: string }[]
    >`select name, starts_on, ends_on from term where school_id = ${schoolId} order by starts_on`,
    db<
      { name: string; startsOn: string; endsOn: string }[]
    >`select name, starts_on, ends_on from closure where school_id = ${schoolId} order by starts_on`,
  ]);
  return {
    calendar: { meetsOn: school!.meetsOn.map(Number), terms: [...terms], closures: [...closures] },
    dayEnds: school!.dayEnds,
  };
}

/** When sections meet in the week, by section. */
export async function readMeetings(
  db: Db,
  sectionIds: readonly string[],
): Promise<Map<string, Meeting[]>> {
  const rows = await db<(Meeting & { sectionId: string })[]>`
    select section_id, weekday, starts, ends
    from meeting
    where section_id = any(${sectionIds as string[]})
    order by weekday, starts`;
  const found = new Map<string, Meeting[]>(sectionIds.map((id) => [id, []]));
  for (const { sectionId, weekday, starts, ends } of rows)
    found.get(sectionId)?.push({ weekday: Number(weekday), starts, ends });
  return found;
}
