import { WORK_PILES } from "@/core/pieces/standing";
import { sayTime } from "@/core/time/words";
import {
  PILES,
  type HandOutSummary,
  type PileKind,
  type TodayView,
} from "@/core/views/overviewViews";
import { requireKind } from "../access/standing";
import { countUnread } from "../letters/read";
import type { Part } from "@/core/handouts/parts";
import { todayLines } from "./todayLines";
import {
  readAnswersThatWait,
  readCheckpointsThatWait,
  readShownThatWaits,
  readTaken,
} from "./todayWaits";
import { goingBack } from "../life/goingBack";
import type { ReadCall } from "../call";

export type Counts = Record<PileKind, number> & {
  handOutId: string;
  title: string;
  section: string;
  sectionId: string;
  dueAt: Date;
  promisedAt: Date | null;
  oldestAt: Date | null;
  /** Pieces of the promised round that are not back. */ owed: number;
  parts: Part[];
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
  const [counts, sheet, answers, checkpoints, shown, taken, letters, sections] = await Promise.all([
    readCounts(call),
    readSheet(call),
    readAnswersThatWait(call),
    readCheckpointsThatWait(call),
    readShownThatWaits(call),
    readTaken(call),
    countUnread(call),
    db<{ n: number }[]>`select count(*)::int as n from section_teacher where person_id = ${who.id}`,
  ]);
  return {
    piles: PILES.map((kind) => ({
      kind,
      count: counts.reduce((sum, row) => sum + row[kind], 0),
    })),
    lines: todayLines({ counts, answers, checkpoints, shown }, taken, call),
    handOuts: [...counts]
      .sort((a, b) => b.dueAt.getTime() - a.dueAt.getTime())
      .map((row) => summaryOf(row, now, who.zone)),
    sheet,
    letters,
    sections: sections[0]!.n,
  };
}

/** What waits of each hand-out of a teacher, by pile. Who asks was decided before. */
export function readCounts({ db, who, now }: ReadCall): Promise<Counts[]> {
  return db<Counts[]>`
    select
      standing.hand_out_id, standing.title, section.name as section, section.id as section_id, hand_out.due_at, hand_out.promised_at,
      ${WORK_PILES.map((pile) => db`count(*) filter (where standing.pile = ${pile})::int as ${db(pile)},`)}
      count(*) filter (where standing.asked)::int as questions,
      assignment.parts,
      min(standing.handed_in_at) filter (where standing.pile in ('new', 'again', 'late', 'drafted')) as oldest_at,
      count(*) filter (where standing.pile in ('new', 'late', 'drafted') and standing.round = 1 and standing.state = 'handed_in')::int as owed,
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
    join assignment on assignment.id = hand_out.assignment_id
    cross join lateral (
      -- "offset 0" keeps the planner from joining all pieces of the school before it looks whose they are.
      select * from piece_standing where piece_standing.hand_out_id = hand_out.id offset 0
    ) standing
    where section_teacher.person_id = ${who.id}
    group by standing.hand_out_id, standing.title, section.id, section.name, hand_out.due_at, hand_out.promised_at, assignment.id
    order by hand_out.promised_at nulls last, hand_out.due_at desc, section.name`;
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
