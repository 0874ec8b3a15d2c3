import type { BatchState } from "../handingBack/batch";
import type { Outcome } from "../handingBack/outcome";
import type { Gap } from "../handingBack/readiness";
import type { MoonView } from "./views";

/** Handing back many at once: what there is to go, and what became of it. */

/** A draft that could go back, with what is not ready about it. */
export type BackLine = {
  pieceId: string;
  student: string;
  handOutId: string;
  section: string;
  moon: MoonView;
  /** Handed back before in this round, and changed since. */
  again: boolean;
  /** What will be said, in short: "3 notes, 2 requests, 1 voice note". */
  holds: string;
  score: string | null;
  outcome: Outcome | null;
  /** The draft's own due time of a revision, in the school's zone. */
  due: string | null;
  dueWords: string | null;
  gaps: Gap[];
  /** It waits to go at a time already. */
  goes: { batchId: string; words: string } | null;
};

export type BackPlan = {
  title: string;
  handOuts: { id: string; section: string; chosen: boolean; drafts: number }[];
  lines: BackLine[];
  /** Pieces that are in, and on which nobody has begun to write. */
  unread: number;
  /** Whether there is any score that could wait, and any round that could be opened. */
  scoring: boolean;
  mayRevise: boolean;
  /** Of the work that is asked, to say which of them are meant by a revision. */
  parts: { id: string; label: string }[];
  /** A due time that fits when the section next meets. */
  suggestedDue: string;
  /** The end of the section's next meeting today, or else of the school day. */
  suggestedAt: string;
  /** Seconds in which an act can be called back. */
  hold: number;
};

export type BatchView = {
  id: string;
  state: BatchState;
  /** In how many milliseconds it goes, from when this was said: clocks of devices differ. */
  goesIn: number;
  goesWords: string;
  total: number;
  gone: number;
  /** Those that stayed, and why. */
  left: { pieceId: string; student: string; why: string }[];
  title: string;
  /** The one student, where it is about one piece. */
  student: string | null;
  pieceIds: string[];
};

export type TakenBack = {
  taken: number;
  /** Who had read it before it was taken back. */
  readBy: string[];
  left: { student: string; why: string }[];
};

/** What became of work that was marked as looked at; `left`: so many were not, for something is drafted there. */
export type LookedAt = { batch: BatchView; left: number };
