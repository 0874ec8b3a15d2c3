import { fold } from "@/core/text/finding";
import { lastDayOf, type Ends } from "@/core/views/ribbon";
import { noSchoolBecause, teachingWeek, termOn } from "@/core/time/term";
import { sayAlmanacDate, sayTime } from "@/core/time/words";
import { addDays, dayOf, weekdayOf } from "@/core/time/zone";
import type { MastheadView, OfficeView, RibbonView } from "@/core/views/overviewViews";
import { requireKind } from "../access/standing";
import { readCalendar } from "../calendar/calendar";
import type { ReadCall } from "../call";
import { readSettings } from "../marking/desk/setting";

/** What the masthead says: the date as an almanac writes it, and the teaching week. */
export async function mastheadView(call: ReadCall): Promise<MastheadView> {
  const { db, who, now } = call;
  const today = dayOf(now, who.zone);
  const [[school], { calendar }, { letters = "on", guides = [] }] = await Promise.all([
    db<{ name: string }[]>`select name from school where id = ${who.schoolId}`,
    readCalendar(db, who.schoolId),
    readSettings(call),
  ]);
  const term = termOn(today, calendar.terms);
  const week = term && teachingWeek(today, term, calendar);
  return {
    day: sayAlmanacDate(today),
    week: sayWeek(term, week),
    school: school!.name,
    name: who.name,
    kind: who.kind,
    keepsSchool: who.keepsSchool ?? false,
    letters,
    guides,
  };
}

function sayWeek(term: { name: string } | null | undefined, week: number | null | undefined) {
  if (!term) return "between terms";
  return week ? `week ${week} of the ${term.name} term` : `${term.name} term, no school this week`;
}

const DAYS_BACK = 14;
const DAYS_AHEAD = 21;

/** The first and the last day of the ribbon: this week and next, or two weeks back and three ahead. */
export function ribbonDays(today: string, long: boolean): { first: string; last: string } {
  if (long) return { first: addDays(today, -DAYS_BACK), last: addDays(today, DAYS_AHEAD) };
  const monday = addDays(today, 1 - weekdayOf(today));
  return { first: monday, last: addDays(monday, 13) };
}

/** The ribbon of days with a lane per section. Indexes: section_teacher_person, hand_out_section. */
export async function ribbonView(
  { db, who, now }: ReadCall,
  { long }: { long: boolean } = { long: false },
): Promise<RibbonView> {
  requireKind(who, "teacher");
  const today = dayOf(now, who.zone);
  const { first, last } = ribbonDays(today, long);
  const [{ calendar }, rows] = await Promise.all([
    readCalendar(db, who.schoolId),
    db<
      {
        sectionId: string;
        section: string;
        handOutId: string | null;
        title: string;
        opens: string;
        due: string;
        closes: string | null;
        promised: string | null;
        goesBack: string | null;
      }[]
    >`
      select
        section.id as section_id, section.name as section, hand_out.id as hand_out_id, full_title(assignment.emoji, assignment.number, assignment.title) as title,
        (hand_out.opens_at at time zone ${who.zone})::date as opens, (hand_out.due_at at time zone ${who.zone})::date as due,
        (hand_out.closes_at at time zone ${who.zone})::date as closes, (hand_out.promised_at at time zone ${who.zone})::date as promised,
        (going.goes_at at time zone ${who.zone})::date as goes_back
      from section_teacher
      join section on section.id = section_teacher.section_id
      join course on course.id = section.course_id
      left join hand_out on hand_out.section_id = section.id and hand_out.withdrawn_at is null
        and (hand_out.opens_at at time zone ${who.zone})::date <= ${last}
        and (greatest(hand_out.due_at, hand_out.closes_at, hand_out.promised_at) at time zone ${who.zone})::date >= ${first}
      left join assignment on assignment.id = hand_out.assignment_id
      left join lateral (
        select min(batch.goes_at) as goes_at
        from piece
        join hand_back_batch_piece of_batch on of_batch.piece_id = piece.id and of_batch.waits
        join hand_back_batch batch on batch.id = of_batch.batch_id
        where piece.hand_out_id = hand_out.id
      ) going on true
      where section_teacher.person_id = ${who.id}
      order by course.name, section.name, hand_out.due_at`,
  ]);
  const length = 1 + (Date.parse(last) - Date.parse(first)) / 86_400_000;
  const days = Array.from({ length }, (_, n) => addDays(first, n)).map((day) => {
    return {
      day,
      label: day.slice(8).replace(/^0/, ""),
      weekday: "MTWTFSS"[weekdayOf(day) - 1]!,
      today: day === today,
      closed: noSchoolBecause(day, calendar),
    };
  });
  const index = (day: string) => Math.round((Date.parse(day) - Date.parse(first)) / 86_400_000);
  const lanes: RibbonView["lanes"] = [];
  for (const row of rows) {
    let lane = lanes.find((l) => l.sectionId === row.sectionId);
    if (!lane) lanes.push((lane = { sectionId: row.sectionId, section: row.section, lines: [] }));
    if (!row.handOutId) continue;
    const line = {
      from: index(row.opens),
      due: index(row.due),
      closes: row.closes ? index(row.closes) : null,
      promised: row.promised ? index(row.promised) : null,
      goesBack: row.goesBack ? index(row.goesBack) : null,
    };
    lane.lines.push({
      handOutId: row.handOutId,
      title: row.title,
      ...line,
      row: firstFreeRow(lane.lines, line.from),
    });
  }
  return { days, lanes, long };
}

/** The lowest row whose lines have all ended before `from`; a day is left between two lines. */
function firstFreeRow(lines: readonly (Ends & { row: number })[], from: number): number {
  for (let row = 0; ; row += 1) {
    const free = lines
      .filter((line) => line.row === row)
      .every((line) => lastDayOf(line) + 1 < Math.max(0, from));
    if (free) return row;
  }
}

/** So many sections are listed at a time; the others are found by their words. */
const SECTIONS_LISTED = 60;

type SectionRow = { id: string; name: string; course: string; owner: string };

/**
 * The office's page: the school in numbers, its sections, and what happened last. No student writing.
 *
 * @param asked what the sections listed have in their name, course or owner; "": anything
 */
export async function officeView(call: ReadCall, asked = ""): Promise<OfficeView> {
  const { db, who, now } = call;
  requireKind(who, "office");
  const [[school], counts, sections, events] = await Promise.all([
    db<{ name: string }[]>`select name from school where id = ${who.schoolId}`,
    db<
      { what: string; count: number }[]
    >`select kind as what, count(*)::int as count from person where school_id = ${who.schoolId} group by kind order by kind`,
    db<SectionRow[]>`
      select section.id, section.name, course.name as course, coalesce(owner.name, 'nobody yet') as owner
      from course
      join section on section.course_id = course.id
      left join section_teacher on section_teacher.section_id = section.id and section_teacher.role = 'owner'
      left join person owner on owner.id = section_teacher.person_id
      where course.school_id = ${who.schoolId}
      order by course.name, section.name`,
    db<{ at: Date; who: string; what: string }[]>`
      select event.at, actor.name as who,
        concat_ws(' · ', event.kind, coalesce(event.detail->>'name', event.detail->>'title', work.title), work.section, student.name) as what
      from event
      join person actor on actor.id = event.actor_id
      left join piece on piece.id = event.piece_id
      left join person student on student.id = piece.student_id
      left join lateral (
        select assignment.title, section.name as section
        from hand_out
        join assignment on assignment.id = hand_out.assignment_id
        join section on section.id = hand_out.section_id
        where hand_out.id = event.hand_out_id
      ) work on true
      where event.school_id = ${who.schoolId}
      order by event.id desc
      limit 30`,
  ]);
  const wanted = fold(asked.trim());
  const found = sections.filter(({ name, course, owner }) =>
    fold(`${name} ${course} ${owner}`).includes(wanted),
  );
  return {
    school: school!.name,
    counts,
    sections: await countStudents(call, found.slice(0, SECTIONS_LISTED)),
    found: found.length,
    courses: [...new Set(sections.map(({ course }) => course))],
    events: events.map((e) => ({ when: sayTime(e.at, now, who.zone), who: e.who, what: e.what })),
  };
}

/** Index: enrolment's key. */
async function countStudents(
  { db }: ReadCall,
  sections: readonly SectionRow[],
): Promise<OfficeView["sections"]> {
  const rows = await db<{ id: string; students: number }[]>`
    select section_id as id, count(*)::int as students
    from enrolment
    where section_id = any(${sections.map(({ id }) => id)}) and left_on is null
    group by section_id`;
  const counted = new Map(rows.map(({ id, students }) => [id, students]));
  return sections.map(({ id, ...section }) => ({ ...section, students: counted.get(id) ?? 0 }));
}
