import { sayTime } from "../time/words";

/** Where the feedback of a piece is, as lists and the Desk know it. */
export type FeedbackFacts = {
  /** Something is written that was not handed back in this round. */
  drafted: boolean;
  /** When it goes back by itself; null: nothing is planned. */
  goesAt: Date | null;
  handedBackAt: Date | null;
  seenAt: Date | null;
  /** What was written since differs from what was handed back. */
  changedSince: boolean;
  /** Its score is held back for later: `at`, or when all are done. */
  scoreComes: { at: Date | null } | null;
};

export const DRAFT_WORDS = "draft: only teachers of this section see it";
export const CHANGED_WORDS =
  "changed after handing back: students see the old one until you hand back again";

/**
 * Where the feedback of one piece is: the same words at the Desk, on the sheet and in lists; "" where there is none.
 *
 * @example sayFeedback({ ...facts, goesAt }, now, zone) // "goes back Tue 15:30"
 */
export function sayFeedback(facts: FeedbackFacts, now: Date, zone: string): string {
  const { goesAt, handedBackAt, seenAt } = facts;
  if (goesAt) return sayGoesBack(goesAt, now, zone);
  if (handedBackAt === null) return facts.drafted ? DRAFT_WORDS : "";
  if (facts.changedSince) return CHANGED_WORDS;
  const read =
    seenAt && seenAt >= handedBackAt ? `read ${sayTime(seenAt, now, zone)}` : "not read yet";
  return [
    `handed back ${sayTime(handedBackAt, now, zone)}`,
    read,
    facts.scoreComes ? sayScoreComes(facts.scoreComes.at, now, zone) : "",
  ]
    .filter(Boolean)
    .join(", ");
}

/** @example sayGoesBack(at, now, zone) // "goes back tomorrow 15:30" */
export const sayGoesBack = (at: Date, now: Date, zone: string): string =>
  at <= now ? "goes back now" : `goes back ${sayTime(at, now, zone)}`;

export const sayScoreComes = (at: Date | null, now: Date, zone: string): string =>
  at ? `its score comes ${sayTime(at, now, zone)}` : "its score comes when all are done";

/**
 * Of a whole hand-out: when it last went back, and how many have read it.
 *
 * @example sayReadBy({ lastAt, back: 24, read: 19 }, now, zone) // "handed back Tue 14:05, read by 19 of 24"
 */
export function sayReadBy(
  { lastAt, back, read }: { lastAt: Date; back: number; read: number },
  now: Date,
  zone: string,
): string {
  return `handed back ${sayTime(lastAt, now, zone)}, read by ${read} of ${back}`;
}
