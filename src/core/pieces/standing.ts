import type { Shows } from "../ledger/shows";
import { lateness, type Deadline } from "../time/lateness";
import type { PieceFlag } from "./flags";
import { isNothingIn, type PieceState } from "./life";

/**
 * How a piece stands: what follows from its state, its dates and what was said about it, and is never stored. Lists
 * read the same from the view `piece_standing` (`server/db/views`); a test holds the two against each other.
 */
export type StandingFacts = Deadline & {
  state: PieceState;
  round: number;
  expects: "work" | "nothing";
  excused: boolean;
  flag: PieceFlag | null;
  /** When students see the scores of its column. */ shows: Shows;
  /** The student has left the section and owes nothing more. */
  left: boolean;
  /** A teacher has begun a draft of the present round. */
  feedbackBegun: boolean;
  /** The round of the newest hand-in, and the moment its lateness counts from; null: nothing is in. */
  newest: { round: number; countedAt: Date } | null;
  /** When the student had the last word in the thread; null: a teacher had it, or nobody said anything. */
  studentsWordAt: Date | null;
  /** When something was handed back last, taken back or not. */
  handedBackAt: Date | null;
};

/** Which due time rules: that of the revision that is out, of the round, the student's own, the hand-out's. */
export function dueOf(times: {
  revision: Date | null;
  round: Date | null;
  own: Date | null;
  handOut: Date;
}): Date {
  return times.revision ?? times.round ?? times.own ?? times.handOut;
}

/**
 * When handing in ends; null: never. For nobody before the last moment at which their work would be on time: their
 * own due time with its grace.
 *
 * @param due the student's own due time, or else the hand-out's
 */
export function closesFor(
  handOutCloses: Date | null,
  { due, graceMinutes }: Deadline,
): Date | null {
  if (handOutCloses === null) return null;
  const onTime = new Date(due.getTime() + graceMinutes * 60_000);
  return onTime > handOutCloses ? onTime : handOutCloses;
}

/** Something is still to be handed in. */
export const isAwaited = (
  piece: Pick<StandingFacts, "state" | "expects" | "excused" | "left">,
): boolean => isNothingIn(piece.state) && piece.expects === "work" && !piece.excused && !piece.left;

/** A teacher said that it is missing, as of work on paper; something that is in is not missing, nor is what is excused. */
export const isSaidMissing = (piece: Pick<StandingFacts, "state" | "excused" | "flag">): boolean =>
  piece.flag === "missing" && isNothingIn(piece.state) && !piece.excused;

/** Missing: something was to be handed in, its time (with grace) is over, and nothing is in; or a teacher said so. */
export const isMissing = (
  piece: Pick<StandingFacts, "state" | "expects" | "excused" | "left" | "flag"> & Deadline,
  now: Date,
): boolean => isSaidMissing(piece) || (isAwaited(piece) && lateness(piece, now).late);

/** The hand-in of the present round came after its time, or a teacher said that the work came late; never where one said that it is on time. */
export function cameLate(
  { round, newest, state, flag }: Pick<StandingFacts, "round" | "newest" | "state" | "flag">,
  ruling: Deadline,
): boolean {
  if (flag === "late" || flag === "on time") return flag === "late";
  if (newest === null || isNothingIn(state) || newest.round !== round) return false;
  return lateness(ruling, newest.countedAt).late;
}

/**
 * A draft waits to be handed back: begun, and its round not yet handed back. What is on paper, in a column that shows by
 * itself or never, waits for nobody's hand.
 */
export function isDrafted({
  state,
  feedbackBegun,
  shows,
}: Pick<StandingFacts, "state" | "feedbackBegun" | "shows">): boolean {
  if (!feedbackBegun) return false;
  return state === "handed_in" || (isNothingIn(state) && shows === "by hand");
}

/** A question waits: the last word in the thread is the student's, and nothing was handed back since. */
export const hasAsked = (piece: Pick<StandingFacts, "studentsWordAt" | "handedBackAt">): boolean =>
  piece.studentsWordAt !== null &&
  (piece.handedBackAt === null || piece.handedBackAt <= piece.studentsWordAt);

/** The piles that teachers work through; a piece lies in one at most. Questions are beside them. */
export const WORK_PILES = ["new", "again", "late", "drafted", "awaited"] as const;
export type WorkPile = (typeof WORK_PILES)[number];

/**
 * The pile a piece lies in: drafted and not handed back; in again (a further round); late in, or new in; not in yet.
 * Null: nothing waits for the teacher here.
 */
export function pileOf(
  piece: Pick<StandingFacts, "state" | "round"> & {
    drafted: boolean;
    late: boolean;
    awaited: boolean;
  },
): WorkPile | null {
  if (piece.drafted) return "drafted";
  if (piece.awaited) return "awaited";
  if (piece.state !== "handed_in") return null;
  if (piece.round > 1) return "again";
  return piece.late ? "late" : "new";
}
