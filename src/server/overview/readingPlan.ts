import { kindOfWork, paceOf } from "@/core/today/pace";
import { freePeriods, planReading, SHORTEST, type Slot } from "@/core/today/readingPlan";
import { Invalid } from "@/core/refusals";
import { lessonsOn, type Meeting } from "@/core/time/lessons";
import { termOn, type SchoolCalendar } from "@/core/time/term";
import { sayDayOf, sayTime } from "@/core/time/words";
import { addDays, dayOf, instantToWall, wallToInstant, weekdayOf } from "@/core/time/zone";
import { writePlanCalendar } from "@/core/formats/calendar/planCalendar";
import type { ReadingPlanView } from "@/core/views/overviewViews";
import { requireKind } from "../access/standing";
import type { Call, ReadCall } from "../call";
import { readCalendar, readMeetings } from "../calendar/calendar";
import { readCounts, type Counts } from "./today";
import { readTaken } from "./todayWaits";

/** So far ahead it is planned, in days. */
const AHEAD = 14;
/** Where nothing is known of a teacher's pace yet, in seconds a piece. A guess, and said to be one. */
const GUESSED = 240;

type Made = {
  rows: ReadonlyMap<string, Counts>;
  guessed: boolean;
  times: Meeting[];
  own: boolean;
  plan: ReturnType<typeof planReading>;
  dayEnds: string;
  calendar: SchoolCalendar;
};

/** What waits, fitted into the teacher's free time of the next two weeks; what does not fit, and what would help. */
export async function readingPlan(call: ReadCall): Promise<ReadingPlanView> {
  const { who, now } = call;
  const made = await makePlan(call);
  const { rows, plan, times, own, guessed } = made;
  const kept = await readKept(call, made.calendar);
  const named = (handOutId: string) => {
    const { title, section } = rows.get(handOutId)!;
    return { handOutId, title, section };
  };
  const clock = (at: Date) => instantToWall(at, who.zone).slice(11);
  return {
    sittings: plan.sittings.map(({ starts, ends, reads }) => ({
      ...{ day: sayDayOf(starts, now, who.zone), from: clock(starts), to: clock(ends) },
      reads: reads.map((read) => ({ ...named(read.handOutId), ...read })),
    })),
    outlooks: plan.outlooks.map(({ handOutId, pieces, doneAt, late, minutesShort }) => {
      const { promisedAt } = rows.get(handOutId)!;
      return {
        ...{ ...named(handOutId), pieces, late, minutesShort },
        promised: promisedAt && sayTime(promisedAt, now, who.zone),
        broken: promisedAt !== null && promisedAt < now,
        done: doneAt && sayDayOf(doneAt, now, who.zone),
        better: late > 0 && doneAt ? laterPromise(made, doneAt, who.zone) : null,
      };
    }),
    ...{ times, own, guessed, kept },
  };
}

/** The plan as a calendar (RFC 5545): an event for each stretch of reading. */
export async function readingPlanFile(call: ReadCall): Promise<Response> {
  const { plan, rows } = await makePlan(call);
  const text = writePlanCalendar(
    plan.sittings.map(({ starts, ends, reads }) => ({
      ...{ starts, ends },
      lines: reads.map(({ handOutId, pieces }) => {
        const { title, section } = rows.get(handOutId)!;
        return `${pieces} × ${title}, ${section}`;
      }),
    })),
    { who: call.who.id, now: call.now },
  );
  return new Response(text, {
    headers: {
      "content-type": "text/calendar; charset=utf-8",
      "content-disposition": 'attachment; filename="reading.ics"',
      "cache-control": "no-store",
    },
  });
}

async function makePlan(call: ReadCall): Promise<Made> {
  const { db, who, now } = call;
  requireKind(who, "teacher");
  const [counts, taken, { calendar, dayEnds }, ownTimes, sections] = await Promise.all([
    readCounts(call),
    readTaken(call),
    readCalendar(db, who.schoolId),
    db<Meeting[]>`
      select weekday, starts, ends from reading_time where person_id = ${who.id} order by weekday, starts`,
    db<{ id: string }[]>`select section_id as id from section_teacher where person_id = ${who.id}`,
  ]);
  const lessons = await readMeetings(
    db,
    sections.map(({ id }) => id),
  );
  const own = ownTimes.length > 0;
  const times = own
    ? ownTimes.map((time) => ({ ...time, weekday: Number(time.weekday) }))
    : freePeriods([...lessons.values()].flat());
  const waiting = counts.filter((row) => row.new + row.again + row.late > 0);
  const paces = waiting.map((row) =>
    paceOf(taken, { handOutId: row.handOutId, kind: kindOfWork(row.parts) }),
  );
  const toRead = waiting.map((row, n) => ({
    ...{ handOutId: row.handOutId, pieces: row.new + row.again + row.late },
    ...{ secondsEach: paces[n] ?? GUESSED, promisedAt: row.owed > 0 ? row.promisedAt : null },
  }));
  const slots = slotsOf(times, { own, calendar, now, zone: who.zone });
  return {
    ...{ rows: new Map(counts.map((row) => [row.handOutId, row])), times, own },
    ...{ guessed: paces.includes(null), plan: planReading(toRead, slots), dayEnds, calendar },
  };
}

/** The stretches from now on. Own times are every week's; free periods are those of days with school. */
function slotsOf(
  times: readonly Meeting[],
  { own, calendar, now, zone }: { own: boolean; calendar: SchoolCalendar; now: Date; zone: string },
): Slot[] {
  const today = dayOf(now, zone);
  const days = Array.from({ length: AHEAD }, (_, n) => addDays(today, n));
  const onDay = (day: string) =>
    own
      ? times
          .filter(({ weekday }) => weekday === weekdayOf(day))
          .map(({ starts, ends }) => ({ starts: `${day}T${starts}`, ends: `${day}T${ends}` }))
      : lessonsOn(day, times, calendar);
  const all = days.flatMap(onDay).map(({ starts, ends }) => ({
    starts: new Date(Math.max(wallToInstant(starts, zone).at.getTime(), now.getTime())),
    ends: wallToInstant(ends, zone).at,
  }));
  const long = all.filter(
    ({ starts, ends }) => ends.getTime() - starts.getTime() >= SHORTEST * 60_000,
  );
  return withoutOverlaps(long);
}

function withoutOverlaps(slots: readonly Slot[]): Slot[] {
  const sorted = [...slots].sort((a, b) => a.starts.getTime() - b.starts.getTime());
  const apart: Slot[] = [];
  for (const { starts, ends } of sorted) {
    const last = apart.at(-1);
    const from = last && last.ends > starts ? last.ends : starts;
    if (from < ends) apart.push({ starts: from, ends });
  }
  return apart;
}

/** A promise that the plan keeps: the end of the school day on which the last piece is read, or of the next day. */
function laterPromise({ dayEnds }: Made, doneAt: Date, zone: string): string {
  const day = dayOf(doneAt, zone);
  const ends = `${day}T${dayEnds}`;
  return ends >= instantToWall(doneAt, zone) ? ends : `${addDays(day, 1)}T${dayEnds}`;
}

/**
 * Promises of this term that came due, and how many were kept: all that was handed in in time in the first round was
 * handed back by then. Indexes: section_teacher_person, hand_out_section, version_round.
 */
async function readKept(
  { db, who, now }: ReadCall,
  calendar: SchoolCalendar,
): Promise<{ kept: number; of: number }> {
  const term = termOn(dayOf(now, who.zone), calendar.terms);
  const since = term ? wallToInstant(`${term.startsOn}T00:00`, who.zone).at : new Date(0);
  const [row] = await db<{ kept: number; of: number }[]>`
    select count(*)::int as of, count(*) filter (where not exists (
      select
      from piece
      join version on version.piece_id = piece.id and version.round_number = 1
        and version.handed_in_at <= hand_out.due_at + make_interval(mins => hand_out.grace_minutes)
      where piece.hand_out_id = hand_out.id and piece.removed_at is null and not exists (
        select
        from hand_back
        where hand_back.piece_id = piece.id and hand_back.handed_back_at <= hand_out.promised_at
          and not exists (select from hand_back_withdrawn where hand_back_id = hand_back.id)
      )
    ))::int as kept
    from section_teacher
    join hand_out on hand_out.section_id = section_teacher.section_id and hand_out.withdrawn_at is null
      and hand_out.promised_at between ${since} and ${now}
    where section_teacher.person_id = ${who.id}`;
  return row!;
}

/** When this teacher means to read, every week; none: what is free between their lessons. @throws Invalid by its number */
export async function setReadingTimes(
  { tx, who }: Call,
  { times }: { times: Meeting[] },
): Promise<{ saved: true }> {
  requireKind(who, "teacher");
  const faults = times.map(({ weekday, starts, ends }, n) => {
    if (ends <= starts) return "It ends before it begins.";
    const twice = times.some((t, m) => m < n && t.weekday === weekday && t.starts === starts);
    return twice ? "This one is there twice." : "";
  });
  if (faults.some(Boolean))
    throw new Invalid(
      Object.fromEntries(faults.flatMap((words, n) => (words ? [[`times[${n}]`, words]] : []))),
    );
  await tx`delete from reading_time where person_id = ${who.id}`;
  if (times.length > 0)
    await tx`insert into reading_time ${tx(times.map((time) => ({ personId: who.id, ...time })))}`;
  return { saved: true };
}
