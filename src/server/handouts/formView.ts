import type { HandOutFormView } from "@/core/views/handOutViews";
import type { ExtraTime } from "@/core/handouts/extraTime";
import { possibleOf, type Rubric } from "@/core/rubrics/rubric";
import type { LatePolicy } from "@/core/scores/latePolicy";
import { addDays, dayOf, instantToWall } from "@/core/time/zone";
import { requireKind } from "../access/standing";
import { readCalendar, readMeetings } from "../calendar/calendar";
import { owedBy } from "../life/owed";
import type { ReadCall } from "../call";

/** How far ahead the load of a day is known to the form. */
const DAYS_AHEAD = 200;

/** All that the page "Hand out" needs to check as one types: sections with their students, groups and lessons, the calendar, and what is due already. */
export async function handOutFormView({ db, who, now }: ReadCall): Promise<HandOutFormView> {
  requireKind(who, "teacher");
  const today = dayOf(now, who.zone);
  const sections = await db<
    { id: string; name: string; course: string; late: LatePolicy; categories: string[] }[]
  >`
    select
      section.id, section.name, course.name as course, section.late_policy as late,
      coalesce((select array_agg(category.name order by category.position) from category where category.section_id = section.id), '{}') as categories
    from section_teacher
    join section on section.id = section_teacher.section_id
    join course on course.id = section.course_id
    where section_teacher.person_id = ${who.id} and section_teacher.may_hand_back
    order by course.name, section.name`;
  const ids = sections.map((s) => s.id);
  const [{ calendar, dayEnds }, meetings, students, groups, dues, rubrics, sets] =
    await Promise.all([
      readCalendar(db, who.schoolId),
      readMeetings(db, ids),
      db<{ sectionId: string; id: string; name: string }[]>`
      select enrolment.section_id, person.id, person.name
      from enrolment
      cross join lateral (select id, name, sort_name from person where person.id = enrolment.student_id offset 0) person
      where enrolment.section_id = any(${ids}) and enrolment.joined_on <= ${today}::date and (enrolment.left_on is null or enrolment.left_on > ${today}::date)
      order by person.sort_name, person.id`,
      db<
        {
          sectionId: string;
          id: string;
          name: string;
          extraAmount: number | null;
          extraUnit: ExtraTime["unit"] | null;
          members: string[];
        }[]
      >`
      select section_id, id, name, extra_amount, extra_unit, coalesce((select array_agg(student_id::text) from group_member where group_id = section_group.id), '{}') as members
      from section_group
      where section_id = any(${ids})
      order by name`,
      // Days only: what another teacher gave stays between them and the student.
      db<{ studentId: string; days: string[] }[]>`
      select student.id as student_id, array_agg(to_char(owed.due at time zone ${who.zone}, 'YYYY-MM-DD') order by owed.due) as days
      from (select distinct student_id as id from enrolment where section_id = any(${ids})) student
      cross join lateral (${owedBy(db, db`student.id`)}) owed
      where owed.due > ${now} and owed.due < (${addDays(today, DAYS_AHEAD)}::date)
      group by student.id`,
      db<{ id: string; name: string; content: Rubric }[]>`
      select distinct on (line_id) id, name, content
      from rubric
      where owner_id = ${who.id} and deleted_at is null
      order by line_id, version desc`,
      db<{ id: string; name: string; questions: number }[]>`
      select distinct on (line_id) id, name, jsonb_array_length(questions) as questions
      from question_set
      where owner_id = ${who.id} and deleted_at is null
      order by line_id, version desc`,
    ]);
  return {
    now: instantToWall(now, who.zone),
    zone: who.zone,
    calendar,
    dayEnds,
    sections: sections.map((section) => ({
      ...section,
      meetings: meetings.get(section.id) ?? [],
      students: students
        .filter((s) => s.sectionId === section.id)
        .map(({ id, name }) => ({ id, name })),
      groups: groups
        .filter((g) => g.sectionId === section.id)
        .map((g) => ({
          id: g.id,
          name: g.name,
          members: g.members,
          extra: g.extraAmount === null ? null : { amount: g.extraAmount, unit: g.extraUnit! },
        })),
    })),
    dueDays: Object.fromEntries(dues.map((d) => [d.studentId, d.days])),
    sets: [...sets].sort((a, b) => a.name.localeCompare(b.name)),
    rubrics: rubrics
      .map(({ id, name, content }) => ({
        id,
        name,
        possible: possibleOf(content),
        rubric: content,
      }))
      .sort((a, b) => a.name.localeCompare(b.name)),
  };
}
