import { lateness, type Deadline } from "../time/lateness";

/**
 * The life of a piece: which moves there are, who makes them, from which states, and where they lead.
 *
 *     not_opened → started → handed_in → handed_back
 *                                      → to_revise → reworking → handed_in (round n + 1) → …
 *
 * The state is stored. What follows from dates or from other rows (late, missing, closed, feedback
 * drafted) is derived here and never stored beside it.
 */
export const PIECE_STATES = [
  "not_opened",
  "started",
  "handed_in",
  "handed_back",
  "to_revise",
  "reworking",
] as const;
export type PieceState = (typeof PIECE_STATES)[number];

/** Nothing is in: nothing was handed in yet, or what was is taken back. */
export const isNothingIn = (state: PieceState): boolean =>
  state === "not_opened" || state === "started";

/** It is with its student: to be handed in, or to be worked on again. */
export const isWithStudent = (state: PieceState): boolean =>
  state !== "handed_in" && state !== "handed_back";

export type Actor = "student" | "teacher";

export type Move =
  | { kind: "open" }
  | { kind: "write" }
  | { kind: "handIn"; empty: boolean }
  | { kind: "takeBack" }
  | { kind: "handBack" }
  | { kind: "handBackToRevise"; roundDue: Date }
  | { kind: "takeBackFeedback" };
export type MoveKind = Move["kind"];

/** What the rules need to know of a piece; `due` and `graceMinutes` are those of the present round. */
export type PieceFacts = Deadline & {
  state: PieceState;
  /** Rounds are counted from 1. */
  round: number;
  /** `nothing`: done on paper or in class; the student hands nothing in here. What kinds of work there are is in handouts/parts. */
  expects: "work" | "nothing";
  opensAt: Date;
  closesAt: Date | null;
  mayTakeBack: boolean;
  /** A teacher has written, marked or scored something on the present round. */
  feedbackBegun: boolean;
  /** Something has been handed in at some time (and was not taken back). */
  hasHandIn: boolean;
  /** The student may no longer hand in, nor is anything awaited. */
  excused: boolean;
  /** The student has left the section and owes nothing more. */
  left: boolean;
};

export type Outcome =
  | { allowed: true; state: PieceState; round: number }
  /** The reason is a sentence for the one who tried. */
  | { allowed: false; reason: string };

const refuse = (reason: string): Outcome => ({ allowed: false, reason });
const go = (state: PieceState, round: number): Outcome => ({ allowed: true, state, round });

const MOVERS: Record<MoveKind, Actor> = {
  open: "student",
  write: "student",
  handIn: "student",
  takeBack: "student",
  handBack: "teacher",
  handBackToRevise: "teacher",
  takeBackFeedback: "teacher",
};

/**
 * Decides one move at the moment `now`. Never throws; a refusal says why in words.
 *
 * @example decideMove(facts, { kind: "handIn", empty: false }, "student", now)
 *   // { allowed: true, state: "handed_in", round: 1 }
 */
export function decideMove(piece: PieceFacts, move: Move, actor: Actor, now: Date): Outcome {
  if (MOVERS[move.kind] !== actor) {
    return refuse(
      actor === "student"
        ? "Only a teacher can do this."
        : "Only the student whose piece this is can do this.",
    );
  }
  if (now < piece.opensAt && actor === "student") return refuse("This work has not opened yet.");
  switch (move.kind) {
    case "open":
      return piece.state === "not_opened" && piece.expects === "work"
        ? go("started", piece.round)
        : go(piece.state, piece.round);
    case "write":
      return decideWriting(piece, now);
    case "handIn":
      return decideHandIn(piece, move.empty, now);
    case "takeBack":
      return decideTakeBack(piece, now);
    case "handBack":
      // From handed_back or to_revise it is a change of mind, or of the feedback; the earlier one stays in the history.
      return piece.state === "reworking"
        ? refuse(
            "The student is revising this piece. It can be handed back when it comes in again.",
          )
        : go("handed_back", piece.round);
    case "handBackToRevise":
      return decideRevise(piece, move.roundDue, now);
    case "takeBackFeedback":
      return decideTakeBackFeedback(piece);
  }
}

function decideRevise(piece: PieceFacts, roundDue: Date, now: Date): Outcome {
  if (piece.expects === "nothing")
    return refuse("There is nothing to hand in for this work, so it cannot go back to revise.");
  if (piece.state === "reworking") return refuse("The student is revising this piece already.");
  if (isNothingIn(piece.state))
    return refuse("Nothing has been handed in yet, so there is nothing to revise.");
  if (roundDue <= now) return refuse("The revision would be due in the past. Choose a later time.");
  return go("to_revise", piece.round);
}

function decideTakeBackFeedback(piece: PieceFacts): Outcome {
  if (piece.state === "reworking")
    return refuse("The student has begun to revise, so this feedback can no longer be taken back.");
  if (piece.state !== "handed_back" && piece.state !== "to_revise")
    return refuse("Nothing is handed back in this round.");
  if (piece.hasHandIn) return go("handed_in", piece.round);
  // With nothing ever handed in there is nothing to go back to but the beginning.
  return go(piece.expects === "work" ? "started" : "not_opened", piece.round);
}

function decideWriting(piece: PieceFacts, now: Date): Outcome {
  if (piece.expects === "nothing")
    return refuse("There is nothing to hand in here: this work is done on paper or in class.");
  if (isClosed(piece, now)) return refuse("This work has closed. What was saved before is kept.");
  switch (piece.state) {
    case "handed_in":
      return refuse("This piece is handed in. Take it back first to change it.");
    case "handed_back":
      return refuse("This piece is handed back for good, so it can no longer be changed.");
    case "to_revise":
      return go("reworking", piece.round + 1);
    case "not_opened":
      return go("started", piece.round);
    default:
      return go(piece.state, piece.round);
  }
}

function decideHandIn(piece: PieceFacts, empty: boolean, now: Date): Outcome {
  if (piece.expects === "nothing")
    return refuse("There is nothing to hand in here: this work is done on paper or in class.");
  if (piece.state === "handed_in")
    return refuse("This piece is handed in already. Take it back first to change it.");
  if (piece.state === "handed_back")
    return refuse("This piece is handed back for good, so nothing more can be handed in.");
  if (isClosed(piece, now))
    return refuse(
      "This work has closed, so it cannot be handed in any more. What you wrote is kept.",
    );
  if (empty) return refuse("There is nothing in this piece yet.");
  return go("handed_in", piece.state === "to_revise" ? piece.round + 1 : piece.round);
}

function decideTakeBack(piece: PieceFacts, now: Date): Outcome {
  if (piece.state !== "handed_in") return refuse("There is nothing handed in to take back.");
  if (!piece.mayTakeBack)
    return refuse(
      "For this work, what is handed in stays handed in. Ask your teacher if something is wrong with it.",
    );
  if (isClosed(piece, now)) return refuse("This work has closed. What you handed in counts.");
  // The last moment of grace belongs to "until it is due": taking back to mend a slip must not make it late.
  const stillDue = !lateness(piece, now).late;
  if (piece.feedbackBegun)
    return refuse("Your teacher has begun to read this piece, so it can no longer be taken back.");
  if (!stillDue)
    return refuse(
      "The due time has passed, so it can no longer be taken back. What you handed in counts.",
    );
  return go(piece.round === 1 ? "started" : "reworking", piece.round);
}

/** Closed: handing in has ended. A round of revision is ruled by its own due time, so closing ends only the first. */
export function isClosed(
  piece: Pick<PieceFacts, "closesAt" | "round" | "state">,
  now: Date,
): boolean {
  const revising = piece.round > 1 || piece.state === "to_revise";
  return piece.closesAt !== null && !revising && now > piece.closesAt;
}

/** Work that closed before anything was handed in can be asked to be opened again. */
export function decideAskToReopen(
  piece: Pick<PieceFacts, "closesAt" | "round" | "state" | "excused" | "expects">,
  now: Date,
): { allowed: true } | { allowed: false; reason: string } {
  const nothingIn = isNothingIn(piece.state);
  if (piece.expects === "nothing" || piece.excused)
    return {
      allowed: false,
      reason: "Nothing is to be handed in for this work, so there is nothing to open again.",
    };
  if (!nothingIn || !isClosed(piece, now))
    return {
      allowed: false,
      reason: "This work is not closed for you, so there is nothing to open again.",
    };
  return { allowed: true };
}
