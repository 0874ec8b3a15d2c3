import { sayTitle } from "@/core/handouts/plan";
import { mondayOf, noSchoolBecause, teachingWeek, termOn } from "@/core/time/term";
import { sayDay } from "@/core/time/words";
import { addDays, dayOf, type Day } from "@/core/time/zone";
import type { CalendarItem, CalendarView, TermView } from "@/core/views/handOutViews";
import { requireKind } from "../access/standing";
import { owedBy } from "../life/owed";
import type { ReadCall } from "../call";
import { readCalendar } from "./calendar";

const MONTHS = [
  "January",
  "February",
  "March",
  "April",
  "May",
  "June",
  "July",
  "August",
  "September",
  "October",
  "November",
  "December",
];
const monthOf = (day: Day) => day.slice(0, 7);
const shiftMonth = (month: string, n: number): string => {
  const [year, m] = month.split("-").map(Number) as [number, number];
  const index = year * 12 + (m - 1) + n;
  return `${Math.floor(index / 12)}-${String((index % 12) + 1).padStart(2, "0")}`;
};

/** A month of a teacher's sections: what opens, is due, closes and was promised, and the load a day puts on students. */
export async function monthView(call: ReadCall, asked: string | null): Promise<CalendarView> {
  const { db, who, now } = call;
  requireKind(who, "teacher");
  const today = dayOf(now, who.zone);
  const month = asked && /^20\d\d-(0[1-9]|1[0-2])$/.test(asked) ? asked : monthOf(today);
  const first = mondayOf(`${month}-01`);
  const last = addDays(mondayOf(addDays(`${shiftMonth(month, 1)}-01`, -1)), 6);
  const [{ calendar }, items, loads, sections] = await Promise.all([
    readCalendar(db, who.schoolId),
    readItems(call, first, last),
    readLoads(call, first, last),
    readSections(call),
  ]);
  const weeks: CalendarView["weeks"] = [];
  for (let monday = first; monday <= last; monday = addDays(monday, 7)) {
    weeks.push(
      [0, 1, 2, 3, 4, 5, 6].map((n) => {
        const day = addDays(monday, n);
        const term = termOn(day, calendar.terms);
        return {
          day,
          inMonth: monthOf(day) === month,
          today: day === today,
          closed: noSchoolBecause(day, calendar),
          week:
            n === 0 && term
              ? teachingWeek(day < term.startsOn ? term.startsOn : day, term, calendar)
              : null,
        };
      }),
    );
  }
  return {
    title: `${MONTHS[Number(month.slice(5)) - 1]} ${month.slice(0, 4)}`,
    month,
    previous: shiftMonth(month, -1),
    next: shiftMonth(month, 1),
    weeks,
    items,
    loads,
    sections,
    meetsOn: [...calendar.meetsOn],
  };
}

/** The term, a line a week: what is due when, from its first week to its last. */
export async function termView(call: ReadCall, termName: string | null): Promise<TermView> {
  const { db, who, now } = call;
  requireKind(who, "teacher");
  const { calendar } = await readCalendar(db, who.schoolId);
  const today = dayOf(now, who.zone);
  const term =
    calendar.terms.find((t) => t.name === termName) ??
    termOn(today, calendar.terms) ??
    calendar.terms.find((t) => t.startsOn > today) ??
    calendar.terms.at(-1);
  if (!term) return { term: "", previous: null, next: null, weeks: [] };
  const index = calendar.terms.indexOf(term);
  const items = await readItems(call, mondayOf(term.startsOn), term.endsOn);
  const weeks: TermView["weeks"] = [];
  for (let monday = mondayOf(term.startsOn); monday <= term.endsOn; monday = addDays(monday, 7)) {
    const days = [0, 1, 2, 3, 4, 5, 6].map((n) => addDays(monday, n));
    const closed = [
      ...new Set(
        days.flatMap(
          (day) => calendar.closures.find((c) => c.startsOn <= day && day <= c.endsOn)?.name ?? [],
        ),
      ),
    ];
    const start = days.find((day) => day >= term.startsOn) ?? monday;
    weeks.push({
      week: teachingWeek(start, term, calendar),
      from: sayDay(monday, today),
      closed,
      items: items.filter((i) => i.what === "due" && days.includes(i.day)),
    });
  }
  return {
    term: term.name,
    previous: calendar.terms[index - 1]?.name ?? null,
    next: calendar.terms[index + 1]?.name ?? null,
    weeks,
  };
}

/** Indexes: section_teacher_person, hand_out_section. */
async function readItems({ db, who }: ReadCall, from: Day, to: Day): Promise<CalendarItem[]> {
  const rows = await db<
    (Omit<CalendarItem, "title"> & { title: string; number: number | null; emoji: string | null })[]
  >`
    select
      hand_out.id as hand_out_id, assignment.title, assignment.number, assignment.emoji, section.id as section_id, section.name as section, moment.what,
      to_char(moment.at at time zone ${who.zone}, 'YYYY-MM-DD') as day, to_char(moment.at at time zone ${who.zone}, 'HH24:MI') as clock,
      (select count(*)::int from piece where piece.hand_out_id = hand_out.id and removed_at is null) as students,
      section_teacher.may_hand_back as may_move
    from section_teacher
    join section on section.id = section_teacher.section_id
    join hand_out on hand_out.section_id = section.id and hand_out.withdrawn_at is null
    join assignment on assignment.id = hand_out.assignment_id
    cross join lateral (values (hand_out.due_at, 'due'), (hand_out.opens_at, 'opens'), (hand_out.closes_at, 'closes'), (hand_out.promised_at, 'promised')) as moment(at, what)
    where section_teacher.person_id = ${who.id}
      and (moment.at at time zone ${who.zone})::date between ${from}::date and ${to}::date
    order by moment.at, assignment.title, section.name`;
  return rows.map(({ number, emoji, ...item }) => ({
    ...item,
    title: sayTitle({ title: item.title, number, emoji }),
  }));
}

/** Per day, how many of the teacher's students have two things due or more, counting what other teachers gave. */
async function readLoads(
  { db, who }: ReadCall,
  from: Day,
  to: Day,
): Promise<CalendarView["loads"]> {
  return db<CalendarView["loads"]>`
    select day, count(*)::int as students, max(things)::int as most
    from (
      select to_char(owed.due at time zone ${who.zone}, 'YYYY-MM-DD') as day, student.id, count(*) as things
      from (
        select distinct enrolment.student_id as id
        from section_teacher
        join enrolment on enrolment.section_id = section_teacher.section_id and enrolment.left_on is null
        where section_teacher.person_id = ${who.id}
      ) student
      cross join lateral (${owedBy(db, db`student.id`)}) owed
      where (owed.due at time zone ${who.zone})::date between ${from}::date and ${to}::date
      group by 1, 2
      having count(*) >= 2
    ) loaded
    group by day
    order by day`;
}

async function readSections({ db, who }: ReadCall): Promise<CalendarView["sections"]> {
  return db<CalendarView["sections"]>`
    select section.id, section.name
    from section_teacher
    join section on section.id = section_teacher.section_id
    join course on course.id = section.course_id
    where section_teacher.person_id = ${who.id}
    order by course.name, section.name`;
}
