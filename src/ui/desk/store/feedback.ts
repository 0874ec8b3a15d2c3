import { contract } from "@/core/api/contract";
import type { Picks } from "@/core/rubrics/rubric";
import { canonicalJson } from "@/core/text/canonical";
import type { DeskPiece } from "@/core/views/deskViews";
import { call, Problem, sayProblem, Unreachable } from "../../client";
import { Keeper, type KeeperState } from "../../keeping/Keeper";
import type { World } from "../../keeping/world";
import { sayClock } from "../../time";
import type { PieceStore } from "./PieceStore";

/** The overall note, the score as typed, the levels chosen, and why the score differs from their sum. */
export type FeedbackDraft = { overall: string; score: string; picks: Picks; reason: string };
type Saved = { revision: number; scoreWords: string | null };
export type Feedback = Keeper<FeedbackDraft, Saved>;

const PAUSE_MS = 500;

export const draftOf = (piece: DeskPiece): FeedbackDraft => ({
  overall: piece.overall,
  score: piece.scoreTyped,
  picks: piece.picks,
  reason: piece.scoreReason,
});

/** Keeps the draft of one round; what the server has of it is in the piece at once. */
export function makeFeedback(store: PieceStore, piece: DeskPiece, world: World): Feedback {
  return new Keeper<FeedbackDraft, Saved>(
    {
      key: `feedback ${piece.id} ${piece.round}`,
      pauseMs: PAUSE_MS,
      send: (body, revision) =>
        call(contract.saveFeedback, { params: { pieceId: piece.id }, body, revision }),
      isSame: (a, b) => canonicalJson(a) === canonicalJson(b),
      theirs: ({ theirs }) => {
        const { revision, ...value } = theirs as FeedbackDraft & { revision: number };
        return { value, revision };
      },
      onDevice: {
        write: (value) => value,
        read: (value: FeedbackDraft) => ({ value, unsent: true }),
      },
      onSent: ({ revision, scoreWords }, { overall, score, picks, reason }) =>
        store.patch((old) => ({
          ...old,
          ...{ overall, picks, revision, scoreWords, scoreTyped: score, scoreReason: reason },
        })),
    },
    { value: draftOf(piece), revision: piece.revision },
    world,
  );
}

const scoreFaultIn = (problem: unknown): string | null =>
  problem instanceof Problem ? (problem.fields.score ?? null) : null;

/** What is wrong with the score, as long as the server said so of what is there now. */
export const scoreFault = ({ stage, problem }: KeeperState<FeedbackDraft>): string | null =>
  stage === "refused" ? scoreFaultIn(problem) : null;

/** Where the draft is, in words that are true at this moment. */
export function saySaved(state: KeeperState<FeedbackDraft>, hasMarks: boolean): string {
  switch (state.stage) {
    case "saved":
      if (state.sentAt) return `Draft saved ${sayClock(state.sentAt)}`;
      return state.revision > 0 || hasMarks ? "Draft saved" : "Nothing written yet";
    case "changed":
      return "Kept on this device …";
    case "sending":
      return "Saving …";
    case "waiting":
      return `Not saved. ${sayProblem(state.problem ?? new Unreachable())}`;
    case "conflict":
      return "Not saved: it was changed elsewhere. Both are here.";
    case "refused":
      return scoreFaultIn(state.problem)
        ? "Not saved: the score cannot be read. The note is kept on this device."
        : `Not saved. ${sayProblem(state.problem)}`;
  }
}
