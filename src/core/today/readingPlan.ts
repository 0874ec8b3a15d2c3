import type { Meeting } from "../time/lessons";

/** A hand-out of which something is to be read. */
export type ToRead = {
  handOutId: string;
  /** Not read yet. */ pieces: number;
  /** At this teacher's pace. */ secondsEach: number;
  promisedAt: Date | null;
};
/** A stretch of time that is free for reading. */
export type Slot = { starts: Date; ends: Date };

/** What is read in a stretch: one kind of work after the other. */
export type Sitting = {
  starts: Date;
  ends: Date;
  reads: { handOutId: string; pieces: number; minutes: number }[];
};
/** What becomes of a hand-out by the plan. */
export type Outlook = {
  handOutId: string;
  pieces: number;
  /** When the last of it is read; null: not within the plan. */ doneAt: Date | null;
  /** Pieces that are not read by the promise. */ late: number;
  /** So many minutes more before the promise would keep it. */ minutesShort: number;
};
export type ReadingPlan = { sittings: Sitting[]; outlooks: Outlook[] };

/** Shorter stretches are no time to read in, in minutes. */
export const SHORTEST = 10;

const MS = 1000;
const FAR = Number.MAX_SAFE_INTEGER;
const minutesOf = (ms: number): number => Math.max(1, Math.round(ms / 60_000));

/**
 * Fits what is to be read into free time, what was promised soonest first (earliest due date, which keeps all promises
 * wherever that is possible: Jackson 1955, from memory; here but for whole pieces, which are not parted). Slots come in
 * order and do not overlap.
 */
export function planReading(toRead: readonly ToRead[], slots: readonly Slot[]): ReadingPlan {
  const rooms = slots.map((slot) => ({
    slot,
    at: slot.starts.getTime(),
    reads: new Map<string, number>(),
  }));
  const inOrder = toRead.filter(({ pieces }) => pieces > 0).sort((a, b) => timeOf(a) - timeOf(b));
  const outlooks = inOrder.map((work) => {
    const each = work.secondsEach * MS;
    let doneAt: number | null = null;
    let [left, late] = [work.pieces, 0];
    for (const room of rooms) {
      const fit = Math.min(left, Math.floor((room.slot.ends.getTime() - room.at) / each));
      if (fit <= 0) continue;
      const inTime = Math.floor((timeOf(work) - room.at) / each);
      late += fit - Math.max(0, Math.min(fit, inTime));
      room.at += fit * each;
      room.reads.set(work.handOutId, fit);
      left -= fit;
      doneAt = room.at;
      if (left === 0) break;
    }
    const missed = late + (work.promisedAt ? left : 0);
    return {
      ...{ handOutId: work.handOutId, pieces: work.pieces, late: missed },
      doneAt: left === 0 && doneAt !== null ? new Date(doneAt) : null,
      minutesShort: missed === 0 ? 0 : minutesOf(missed * each),
    };
  });
  const paces = new Map(toRead.map((work) => [work.handOutId, work.secondsEach * MS]));
  return { sittings: rooms.flatMap((room) => sittingOf(room, paces)), outlooks };
}

const timeOf = ({ promisedAt }: ToRead): number => promisedAt?.getTime() ?? FAR;

function sittingOf(
  { slot, at, reads }: { slot: Slot; at: number; reads: ReadonlyMap<string, number> },
  paces: ReadonlyMap<string, number>,
): Sitting[] {
  if (reads.size === 0) return [];
  return [
    {
      ...{ starts: slot.starts, ends: new Date(at) },
      reads: [...reads].map(([handOutId, pieces]) => ({
        ...{ handOutId, pieces, minutes: minutesOf(pieces * paces.get(handOutId)!) },
      })),
    },
  ];
}

/** A gap between two lessons is a free period up to this length, in minutes; a longer one is no break but an afternoon. */
const LONGEST_GAP = 150;

/**
 * What is free between a teacher's lessons, by weekday: every gap that is long enough to read in.
 *
 * @example freePeriods([{ weekday: 1, starts: "09:00", ends: "09:50" }, { weekday: 1, starts: "10:40", ends: "11:30" }])
 * // [{ weekday: 1, starts: "09:50", ends: "10:40" }]
 */
export function freePeriods(meetings: readonly Meeting[]): Meeting[] {
  const free: Meeting[] = [];
  for (let weekday = 1; weekday <= 7; weekday += 1) {
    const day = meetings
      .filter((meeting) => meeting.weekday === weekday)
      .sort((a, b) => a.starts.localeCompare(b.starts));
    let ended = day[0]?.ends ?? "";
    for (const { starts, ends } of day.slice(1)) {
      const gap = clockMinutes(starts) - clockMinutes(ended);
      if (gap >= SHORTEST * 2 && gap <= LONGEST_GAP)
        free.push({ weekday, starts: ended, ends: starts });
      if (ends > ended) ended = ends;
    }
  }
  return free;
}

const clockMinutes = (clock: string): number =>
  Number(clock.slice(0, 2)) * 60 + Number(clock.slice(3, 5));
