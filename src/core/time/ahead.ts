const YEAR_MS = 366 * 86_400_000;

/** Why something cannot be set for a time: it is past, or more than a year away; null where it can. */
export function faultAhead(at: Date, now: Date): string | null {
  if (at <= now) return "This time is past. Choose a later one.";
  return at.getTime() > now.getTime() + YEAR_MS ? "That is more than a year from now." : null;
}
