import { isTeacher, type Standing } from "../access/access";

/**
 * Work shown to others for a time. A *display* lets the students of a hand-out see each other's handed-in work; a
 * *look* is one student's question about unfinished work, to a classmate or the teacher. Both end by date, and can
 * be ended before.
 */
export const DISPLAY_SHOWS = ["all", "chosen"] as const;
export type DisplayShows = (typeof DISPLAY_SHOWS)[number];
export const LOOK_READERS = ["all", "group", "pairs"] as const;
/** Who may be asked for a look: anyone who has the work, those of a common group, or whom the program drew. */
export type LookReaders = (typeof LOOK_READERS)[number];

export type Until = { endsAt: Date; endedAt: Date | null };

/** @example isOpen({ endsAt: tomorrow, endedAt: null }, now) // true */
export const isOpen = ({ endsAt, endedAt }: Until, now: Date): boolean =>
  endedAt === null && endsAt > now;

/** What becomes of a word in a look or a display when it is sent: a student's can wait until a teacher has read it. */
export function saidIs(standing: Standing, readFirst: boolean): "shown" | "waits" {
  return isTeacher(standing) || !readFirst ? "shown" : "waits";
}

type Shown = { mine: boolean; taken: boolean; reported: boolean };

/** Whoever sees what another student said can report it, once; teachers act on it themselves. */
export const mayReport = (standing: Standing, { mine, taken, reported }: Shown): boolean =>
  !isTeacher(standing) && !mine && !taken && !reported;

/** How someone goes by where names are not shown. */
export const UNNAMED = "a classmate";

/**
 * The reader that the program asks where one may not choose: who has the fewest to read, drawn among equals.
 *
 * @param loads how many looks each may still have to read
 */
export function leastAsked(
  loads: ReadonlyMap<string, number>,
  random: () => number,
): string | null {
  const least = Math.min(...loads.values());
  const free = [...loads].filter(([, n]) => n === least).map(([id]) => id);
  return free[Math.floor(random() * free.length)] ?? null;
}
