import { sayCount } from "@/core/text/sayCount";
import { randomUUID } from "node:crypto";
import { writeDueFeed, type FeedEntry } from "@/core/formats/calendar/dueFeed";
import { sayTitle } from "@/core/handouts/plan";
import { NotFound } from "@/core/refusals";
import type { FeedView } from "@/core/views/handOutViews";
import type { Call, ReadCall } from "../call";
import type { Db } from "../db/connection";

/** The person's own feed address; null until they ask for one. Teachers and students have feeds. */
export async function feedView({ db, who }: ReadCall): Promise<FeedView> {
  requireFeed(who.kind);
  const [feed] = await db<
    { secret: string; alarmMinutes: number | null }[]
  >`select secret, alarm_minutes from calendar_feed where person_id = ${who.id}`;
  return feed
    ? { path: pathOf(feed.secret), alarmMinutes: feed.alarmMinutes }
    : { path: null, alarmMinutes: null };
}

const pathOf = (secret: string) => `/api/feeds/${secret}`;

function requireFeed(kind: string): void {
  if (kind !== "teacher" && kind !== "student") throw new NotFound();
}

/** Makes the feed, sets its alarm, or gives it a new address: the old one then leads nowhere. */
export async function setFeed(
  { tx, who, now }: Call,
  given: { alarmMinutes: number | null; newAddress: boolean },
): Promise<FeedView> {
  requireFeed(who.kind);
  const [feed] = await tx<{ secret: string }[]>`
    insert into calendar_feed (person_id, secret, alarm_minutes, created_at)
    values (${who.id}, ${randomUUID()}, ${given.alarmMinutes}, ${now})
    on conflict (person_id) do update
    set alarm_minutes = excluded.alarm_minutes, secret = case when ${given.newAddress} then excluded.secret else calendar_feed.secret end
    returning secret`;
  return { path: pathOf(feed!.secret), alarmMinutes: given.alarmMinutes };
}

export async function deleteFeed({ tx, who }: Call): Promise<{ deleted: true }> {
  requireFeed(who.kind);
  await tx`delete from calendar_feed where person_id = ${who.id}`;
  return { deleted: true };
}

/** How long what is past stays in a feed. */
const DAYS_BACK = 60;

/** The calendar at a secret address, for whoever knows it: titles and due times, nothing of the work. */
export async function readFeed(db: Db, secret: string, now: Date, origin: string): Promise<string> {
  const [feed] = await db<
    { personId: string; name: string; kind: string; alarmMinutes: number | null; school: string }[]
  >`
    select calendar_feed.person_id, person.name, person.kind, calendar_feed.alarm_minutes, school.name as school
    from calendar_feed
    join person on person.id = calendar_feed.person_id
    join school on school.id = person.school_id
    where secret = ${secret}`;
  if (!feed) throw new NotFound();
  const entries =
    feed.kind === "teacher"
      ? await teacherEntries(db, feed.personId, now, origin)
      : await studentEntries(db, feed.personId, now, origin);
  return writeDueFeed(`${feed.school}: due dates`, entries, feed.alarmMinutes, now);
}

/** How long what was withdrawn stays in a feed as cancelled, so that calendars that have it take it out. */
const DAYS_CANCELLED = 30;

const daysBefore = (now: Date, days: number) => new Date(now.getTime() - days * 86_400_000);

type Row = {
  id: string;
  title: string;
  number: number | null;
  emoji: string | null;
  section: string;
  course: string;
  at: Date;
  begunAt: Date;
  changedAt: Date | null;
  changes: number;
  cancelled: boolean;
  students: number;
};

/** What was changed of it is in its history, which only grows: its length is a sequence that rises. */
const editionOf = (row: Row) => ({
  changedAt: row.changedAt ?? row.begunAt,
  sequence: row.changes,
  cancelled: row.cancelled,
});

/** Index: event_hand_out. */
async function teacherEntries(
  db: Db,
  personId: string,
  now: Date,
  origin: string,
): Promise<FeedEntry[]> {
  const rows = await db<Row[]>`
    select
      hand_out.id, assignment.title, assignment.number, assignment.emoji, section.name as section, course.name as course,
      hand_out.due_at as at, hand_out.created_at as begun_at, hand_out.withdrawn_at is not null as cancelled,
      history.changed_at, history.changes,
      (select count(*)::int from piece where hand_out_id = hand_out.id and removed_at is null) as students
    from section_teacher
    join section on section.id = section_teacher.section_id
    join course on course.id = section.course_id
    join hand_out on hand_out.section_id = section.id
    join assignment on assignment.id = hand_out.assignment_id
    cross join lateral (
      select max(event.at) as changed_at, count(*)::int as changes
      from event
      where event.hand_out_id = hand_out.id and event.piece_id is null
    ) history
    where section_teacher.person_id = ${personId} and hand_out.due_at > ${daysBefore(now, DAYS_BACK)}
      and (hand_out.withdrawn_at is null or hand_out.withdrawn_at > ${daysBefore(now, DAYS_CANCELLED)})
    order by hand_out.due_at, hand_out.id`;
  return rows.map((row) => ({
    uid: `hand-out-${row.id}@almanac`,
    title: `Due: ${sayTitle(row)} · ${row.section}`,
    detail: `${row.course}, ${sayCount(row.students, "student")}`,
    at: row.at,
    ...editionOf(row),
    url: `${origin}/hand-outs/${row.id}`,
  }));
}

/** Indexes: piece_student, event_hand_out, event_piece. */
async function studentEntries(
  db: Db,
  personId: string,
  now: Date,
  origin: string,
): Promise<FeedEntry[]> {
  const rows = await db<Row[]>`
    select
      standing.id, standing.title, null as number, null as emoji, section.name as section, course.name as course,
      standing.due as at, standing.opens_at as begun_at,
      standing.excused or standing.removed_at is not null or standing.withdrawn_at is not null as cancelled,
      history.changed_at, history.changes, 0 as students
    from every_piece standing
    join section on section.id = standing.section_id
    join course on course.id = section.course_id
    cross join lateral (
      select max(event.at) as changed_at, count(*)::int as changes
      from event
      where event.piece_id = standing.id or (event.hand_out_id = standing.hand_out_id and event.piece_id is null)
    ) history
    where standing.id = any(array(select id from piece where student_id = ${personId})) and standing.opens_at <= ${now} and standing.left_at is null
      and standing.due > ${daysBefore(now, DAYS_BACK)}
      and coalesce(standing.removed_at, standing.withdrawn_at, ${now}) > ${daysBefore(now, DAYS_CANCELLED)}
    order by standing.due, standing.id`;
  return rows.map((row) => ({
    uid: `piece-${row.id}@almanac`,
    title: `Due: ${sayTitle(row)}`,
    detail: `${row.course}, ${row.section}`,
    at: row.at,
    ...editionOf(row),
    url: `${origin}/work/${row.id}`,
  }));
}
