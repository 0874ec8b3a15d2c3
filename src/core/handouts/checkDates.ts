export type HandOutDates = { opensAt: Date; dueAt: Date; closesAt: Date | null; promisedAt: Date | null };

/**
 * What is wrong with a hand-out's dates, by field of the form; empty when they are in order:
 * opens ≤ due ≤ closes, due ≤ promised back, and not due before it is even handed out.
 */
export function checkDates({ opensAt, dueAt, closesAt, promisedAt }: HandOutDates, now: Date): Record<string, string> {
  const faults: Record<string, string> = {};
  if (dueAt <= now) faults.due = "The due time is in the past.";
  else if (dueAt < opensAt) faults.due = "It would be due before it opens.";
  if (closesAt && closesAt < dueAt) faults.closes = "It would close before it is due.";
  if (promisedAt && promisedAt < dueAt) faults.promised = "It cannot be promised back before it is due.";
  return faults;
}
