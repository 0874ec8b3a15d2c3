import { isNothingIn } from "@/core/pieces/life";
import { sayScore } from "@/core/scores/parseScore";
import { sayLateness } from "@/core/time/lateness";
import { sayDay, sayTime } from "@/core/time/words";
import { dayOf } from "@/core/time/zone";
import type { WorkItem, WorkView } from "@/core/views/views";
import { hasTheirs, requireKind } from "../access/standing";
import type { Person, ReadCall } from "../call";
import { countUnread } from "../letters/read";
import { readForReader } from "../looks/lines";
import { listReminders } from "../reminders/reminders";
import {
  lateWords,
  moonOf,
  requestsOf,
  whatCameBack,
  type CameBackColumns,
  type StandingRow,
} from "../life/standings";

/** A piece as a student, or a guardian of theirs, has it in a list. */
export type WorkRow = StandingRow &
  CameBackColumns & {
    closesAt: Date | null;
    title: string;
    section: string;
    expects: string;
    notice: string | null;
  };

/**
 * A student's own pieces of open hand-outs. They are named first: the planner would otherwise read the hand-outs of the
 * whole school beside them. Index: piece_student.
 */
export function readPieces({ db, now }: ReadCall, studentId: string): Promise<WorkRow[]> {
  return db<WorkRow[]>`
    select
      standing.*, section.name as section,
      (
        select words
        from (
          select words, at from piece_notice where piece_id = standing.id
          union all
          select author.name || ' to the class: ' || case when note.body = '' then 'a voice note' else left(note.body, 120) end, note.said_at
          from section_note note
          join person author on author.id = note.author_id
          where note.hand_out_id = standing.hand_out_id and note.answers_id is null and note.taken_at is null
        ) news
        where at > coalesce(standing.seen_at, '-infinity')
        order by at desc
        limit 1
      ) as notice,
      ${whatCameBack(db)}
    from piece_standing standing
    join section on section.id = standing.section_id
    where standing.id = any(array(select id from piece where student_id = ${studentId}))
      and standing.opens_at <= ${now}
      -- A column for teachers alone asks nothing of a student, and tells nothing.
      and (standing.shows <> 'never' or standing.state not in ('not_opened', 'started'))
      -- Who left a section owes nothing more there; what they did stays.
      and (standing.left_at is null or standing.state not in ('not_opened', 'started'))
    order by standing.due, standing.title`;
}

/** My work: what needs the student now, then what is due by day, then what waits, then what is finished. */
export async function workView(call: ReadCall): Promise<WorkView> {
  const { who, now } = call;
  requireKind(who, "student");
  const [rows, takenOff, fresh, forReaders, letters] = await Promise.all([
    readPieces(call, who.id),
    readTakenOff(call),
    freshFor(call),
    readForReader(call),
    countUnread(call),
  ]);
  const items = rows.map((row) => ({ row, item: itemOf(row, now, who) }));
  const pick = (test: (row: WorkRow) => boolean) =>
    items.filter(({ row }) => test(row)).map(({ item }) => item);
  const revising = (row: WorkRow) => row.state === "to_revise" || row.state === "reworking";
  // What is missing and can still be handed in needs its student before all that is not due yet.
  const presses = (row: WorkRow) =>
    revising(row) || (moonOf(row, now).missing && (row.closesAt === null || row.closesAt > now));
  const open = items.filter(({ row }) => isNothingIn(row.state) && !row.excused && !presses(row));
  const byDay = new Map<string, WorkItem[]>();
  for (const { item } of open) byDay.set(item.dueDay, [...(byDay.get(item.dueDay) ?? []), item]);
  const sections = new Map(rows.map((row) => [row.sectionId, row.section]));
  return {
    sections: [...sections]
      .map(([id, name]) => ({ id, name }))
      .sort((a, b) => a.name.localeCompare(b.name)),
    fresh,
    takenOff,
    forReaders,
    letters,
    // What came back and asks for something comes before what is missing.
    needsYou: [...pick(revising), ...pick((row) => presses(row) && !revising(row))],
    dueByDay: [...byDay].map(([day, list]) => ({ day, items: list })),
    waiting: pick((row) => row.state === "handed_in"),
    finished: pick(
      (row) =>
        row.state === "handed_back" || (row.excused && !revising(row) && row.state !== "handed_in"),
    ).reverse(),
  };
}

/** Pieces with something of theirs that were then taken off, or whose hand-out was withdrawn; the newest first. Index: piece_student. */
async function readTakenOff({ db, who, now }: ReadCall): Promise<WorkView["takenOff"]> {
  const rows = await db<{ pieceId: string; title: string; section: string; at: Date }[]>`
    select piece.id as piece_id, full_title(assignment.emoji, assignment.number, assignment.title) as title, section.name as section,
      coalesce(piece.removed_at, hand_out.withdrawn_at) as at
    from piece
    join hand_out on hand_out.id = piece.hand_out_id
    join assignment on assignment.id = hand_out.assignment_id
    join section on section.id = hand_out.section_id
    where piece.student_id = ${who.id} and hand_out.opens_at <= ${now} and ${hasTheirs(db)}
      and (piece.removed_at is not null or hand_out.withdrawn_at is not null)
    order by at desc
    limit 50`;
  return rows.map(({ at, ...row }) => ({ ...row, when: sayTime(at, now, who.zone) }));
}

/** What is new since the visit before this one, in words. */
async function freshFor(call: ReadCall): Promise<WorkView["fresh"]> {
  const [{ list }, [visit]] = await Promise.all([
    listReminders(call),
    call.db<{ before: Date | null }[]>`select before from visit where person_id = ${call.who.id}`,
  ]);
  const lines = visit?.before
    ? list
        .filter((r) => r.fresh)
        .slice(0, 8)
        .map(({ pieceId, title, words, when }) => ({ pieceId, title, words, when }))
    : [];
  return { since: visit?.before ? sayTime(visit.before, call.now, call.who.zone) : null, lines };
}

/** The score that the student was told last; null: none. */
export function toldScore({ handBacks }: Pick<WorkRow, "handBacks">): string | null {
  const told = [...(handBacks ?? [])].reverse().find((h) => h.content.points !== null)?.content;
  return told ? (told.shown ?? sayScore(told.points!, told.possible!)) : null;
}

function itemOf(row: WorkRow, now: Date, who: Person): WorkItem {
  const handBacks = row.handBacks ?? [];
  const last = handBacks.at(-1);
  const moon = moonOf(row, now);
  const unseen = last !== undefined && (!row.seenAt || row.seenAt < new Date(last.at));
  const overdue =
    (moon.missing || row.state === "to_revise" || row.state === "reworking") &&
    now > row.lastMoment;
  return {
    pieceId: row.id,
    title: row.title,
    section: row.section,
    moon,
    due: sayTime(row.due, now, who.zone),
    dueDay: sayDueDay(dayOf(row.due, who.zone), dayOf(now, who.zone)),
    lateness: overdue ? sayLateness(row, now, who.zone) : lateWords(row, who.zone),
    openRequests: requestsOf(row).open,
    unseen,
    news:
      [unseen ? `came back ${sayTime(new Date(last.at), now, who.zone)}` : "", row.notice ?? ""]
        .filter(Boolean)
        .join(" · ") || null,
    sectionId: row.sectionId,
    overall: last?.content.overall || null,
    score: toldScore(row),
  };
}

function sayDueDay(day: string, today: string): string {
  return day === today ? `today, ${sayDay(day, today)}` : sayDay(day, today);
}
