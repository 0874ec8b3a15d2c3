import { addDays, instantToWall, wallToInstant } from "./zone";

/** Hours of the school's clock in which nothing is sent, as `HH:MM`; they can go over midnight. */
export type QuietHours = { from: string; until: string };

/** The hours as a school keeps them; null: none are quiet. */
export const quietHours = (from: string | null, until: string | null): QuietHours | null =>
  from === null || until === null ? null : { from, until };

/** Whether a time of day lies in them; their end does not. @example isQuiet("23:30", { from: "20:00", until: "07:00" }) // true */
export function isQuiet(clock: string, { from, until }: QuietHours): boolean {
  if (from === until) return false;
  return from < until ? clock >= from && clock < until : clock >= from || clock < until;
}

/**
 * When something can be sent: now, or when the quiet hours that it is in just now end, by the school's clock on that
 * day, also where it is put forward or back in between.
 *
 * @param quiet null: nothing is ever held
 * @param zone the school's (IANA)
 */
export function afterQuiet(now: Date, quiet: QuietHours | null, zone: string): Date {
  if (!quiet) return now;
  const wall = instantToWall(now, zone);
  const [day, clock] = [wall.slice(0, 10), wall.slice(11)];
  if (!isQuiet(clock, quiet)) return now;
  const ends = clock < quiet.until ? day : addDays(day, 1);
  const { at } = wallToInstant(`${ends}T${quiet.until}`, zone);
  // An hour that the clock shows twice: the first time may be over.
  return at >= now ? at : new Date(at.getTime() + 3_600_000);
}
