import { WORK_PILES } from "@/core/pieces/standing";
import { sayTime } from "@/core/time/words";
import {
  PILES,
  type HandOutSummary,
  type Pile,
  type PileKind,
  type TodayView,
} from "@/core/views/overviewViews";
import { requireKind } from "../access/standing";
import { goingBack } from "../life/goingBack";
import type { ReadCall } from "../call";

type Counts = Record<PileKind, number> & {
  handOutId: string;
  title: string;
  section: string;
  sectionId: string;
  dueAt: Date;
  promisedAt: Date | null;
  oldestNew: Date | null;
  oldestAgain: Date | null;
  oldestLate: Date | null;
  handedIn: number;
  lateIn: number;
  started: number;
  notOpened: number;
  back: number;
  revise: number;
  total: number;
};

/**
 * What waits for a teacher, by pile and hand-out, and what the day holds. One query over the pieces of
 * the teacher's own sections (indexes: section_teacher_person, hand_out_section, piece's unique key).
 */
export async function todayView(call: ReadCall): Promise<TodayView> {
  const { db, who, now } = call;
  requireKind(who, "teacher");
  const [counts, sheet, answers, checkpoints, sections] = await Promise.all([
    readCounts(call),
    readSheet(call),
    readAnswersThatWait(call),
    readCheckpointsThatWait(call),
    db<{ n: number }[]>`select count(*)::int as n from section_teacher where person_id = ${who.id}`,
  ]);
  return {
    piles: PILES.map((kind) => pileOf(kind, counts, now, who.zone)),
    handOuts: [...counts]
      .sort((a, b) => b.dueAt.getTime() - a.dueAt.getTime())
      .map((row) => summaryOf(row, now, who.zone)),
    sheet,
    answers,
    checkpoints,
    sections: sections[0]!.n,
  };
}

function readCounts({ db, who, now }: ReadCall): Promise<Counts[]> {
  return db<Counts[]>`
    select
      standing.hand_out_id, standing.title, section.name as section, section.id as section_id, hand_out.due_at, hand_out.promised_at,
      ${WORK_PILES.map((pile) => db`count(*) filter (where standing.pile = ${pile})::int as ${db(pile)},`)}
      count(*) filter (where standing.asked)::int as questions,
      min(standing.handed_in_at) filter (where standing.pile = 'new') as oldest_new,
      min(standing.handed_in_at) filter (where standing.pile = 'again') as oldest_again,
      min(standing.handed_in_at) filter (where standing.pile = 'late') as oldest_late,
      count(*) filter (where standing.state = 'handed_in')::int as handed_in,
      count(*) filter (where standing.late and standing.state = 'handed_in')::int as late_in,
      count(*) filter (where standing.state = 'started')::int as started,
      count(*) filter (where standing.state = 'not_opened')::int as not_opened,
      count(*) filter (where standing.state = 'handed_back')::int as back,
      count(*) filter (where standing.state in ('to_revise', 'reworking'))::int as revise,
      count(*)::int as total
    from section_teacher
    join section on section.id = section_teacher.section_id
    join hand_out on hand_out.section_id = section.id and hand_out.opens_at <= ${now} and hand_out.withdrawn_at is null and hand_out.put_away_at is null
    cross join lateral (
      -- "offset 0" keeps the planner from joining all pieces of the school before it looks whose they are.
      select * from piece_standing where piece_standing.hand_out_id = hand_out.id offset 0
    ) standing
    where section_teacher.person_id = ${who.id}
    group by standing.hand_out_id, standing.title, section.id, section.name, hand_out.due_at, hand_out.promised_at
    order by hand_out.promised_at nulls last, hand_out.due_at desc, section.name`;
}

function pileOf(kind: PileKind, counts: readonly Counts[], now: Date, zone: string): Pile {
  const shares = counts
    .filter((row) => row[kind] > 0)
    .map((row) => ({
      handOutId: row.handOutId,
      title: row.title,
      section: row.section,
      count: row[kind],
      oldest: sayOldest(row, kind, now, zone),
      promised: row.promisedAt && sayTime(row.promisedAt, now, zone).replace(/, \d\d:\d\d$/, ""),
      overdue: row.promisedAt !== null && row.promisedAt < now,
    }));
  return { kind, count: shares.reduce((sum, share) => sum + share.count, 0), shares };
}

/** Since when the oldest piece of this very pile waits; null where nobody's hand-in lies in it. */
function sayOldest(row: Counts, kind: PileKind, now: Date, zone: string): string | null {
  const oldest = { new: row.oldestNew, again: row.oldestAgain, late: row.oldestLate };
  const at = kind in oldest ? oldest[kind as keyof typeof oldest] : null;
  return at && sayTime(at, now, zone);
}

function summaryOf(row: Counts, now: Date, zone: string): HandOutSummary {
  return {
    id: row.handOutId,
    title: row.title,
    section: row.section,
    sectionId: row.sectionId,
    due: sayTime(row.dueAt, now, zone),
    promised: row.promisedAt && sayTime(row.promisedAt, now, zone),
    counts: {
      in: row.handedIn,
      late: row.lateIn,
      started: row.started,
      notOpened: row.notOpened,
      back: row.back,
      revise: row.revise,
      of: row.total,
    },
  };
}

/** Students' answers to the class that wait until a teacher has read them. Index: section_note_hand_out. */
function readAnswersThatWait({ db, who }: ReadCall): Promise<TodayView["answers"]> {
  return db<TodayView["answers"]>`
    select hand_out.id as hand_out_id, full_title(assignment.emoji, assignment.number, assignment.title) as title, section.name as section, count(*)::int as count
    from section_teacher
    join section on section.id = section_teacher.section_id
    join hand_out on hand_out.section_id = section.id and hand_out.withdrawn_at is null
    join assignment on assignment.id = hand_out.assignment_id
    join section_note note on note.hand_out_id = hand_out.id and note.shown_at is null and note.taken_at is null
    where section_teacher.person_id = ${who.id}
    group by hand_out.id, assignment.id, section.id
    order by min(note.said_at)`;
}

/**
 * Checkpoints nobody has said a word to, of work that is not handed in since: asked for on the way, and no hand-in.
 * Indexes: piece_hand_out, checkpoint's unique one.
 */
function readCheckpointsThatWait({ db, who, now }: ReadCall): Promise<TodayView["checkpoints"]> {
  return db<TodayView["checkpoints"]>`
    select hand_out.id as hand_out_id, full_title(assignment.emoji, assignment.number, assignment.title) as title, section.name as section,
      count(*)::int as count, (array_agg(piece.id order by newest.sent_at))[1] as piece_id
    from section_teacher
    join section on section.id = section_teacher.section_id
    join hand_out on hand_out.section_id = section.id and hand_out.withdrawn_at is null and hand_out.put_away_at is null and hand_out.opens_at <= ${now}
    join assignment on assignment.id = hand_out.assignment_id
    join piece on piece.hand_out_id = hand_out.id and piece.state in ('started', 'reworking') and piece.removed_at is null
    cross join lateral (
      select checkpoint.number, checkpoint.sent_at
      from checkpoint
      where checkpoint.piece_id = piece.id and checkpoint.round_number = piece.round
      order by checkpoint.number desc
      limit 1
    ) newest
    where section_teacher.person_id = ${who.id}
      and not exists (
        select
        from message
        where message.piece_id = piece.id and message.author_id <> piece.student_id and message.sent_at >= newest.sent_at
      )
    group by hand_out.id, assignment.id, section.id
    order by min(newest.sent_at)`;
}

/** The day's sheet: what opens, is due, closes and was promised today, by the clock. */
async function readSheet({ db, who, now }: ReadCall): Promise<TodayView["sheet"]> {
  return db<{ time: string; what: string; href: string }[]>`
    select
      to_char(moment.at at time zone ${who.zone}, 'HH24:MI') as time,
      moment.what || ': ' || full_title(assignment.emoji, assignment.number, assignment.title) || ' · ' || section.name as what,
      '/hand-outs/' || hand_out.id as href
    from section_teacher
    join section on section.id = section_teacher.section_id
    join hand_out on hand_out.section_id = section.id and hand_out.withdrawn_at is null
    join assignment on assignment.id = hand_out.assignment_id
    cross join lateral (values
      (hand_out.opens_at, 'opens'), (hand_out.due_at, 'due'), (hand_out.closes_at, 'closes'), (hand_out.promised_at, 'promised back')
    ) as moment(at, what)
    where section_teacher.person_id = ${who.id}
      and (moment.at at time zone ${who.zone})::date = (${now}::timestamptz at time zone ${who.zone})::date
    union all
    select
      to_char(goes_at at time zone ${who.zone}, 'HH24:MI'),
      'goes back, ' || pieces || case pieces when 1 then ' piece: ' else ' pieces: ' end || title || ' · ' || section,
      '/hand-outs/' || hand_out_id
    from (${goingBack(db, who)}) going
    where (goes_at at time zone ${who.zone})::date = (${now}::timestamptz at time zone ${who.zone})::date
    order by time, what`;
}
