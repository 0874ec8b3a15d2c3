import { decideMove, type Actor, type Move } from "@/core/pieces/life";
import { Refused } from "@/core/refusals";
import type { PieceRow } from "./queries";

/** Asks the core whether a move may be made; throws its reason when it says no. */
export function decide(
  piece: PieceRow,
  move: Move,
  actor: Actor,
  now: Date,
): { state: PieceRow["state"]; round: number } {
  const outcome = decideMove(piece, move, actor, now);
  if (!outcome.allowed) throw new Refused(outcome.reason);
  return outcome;
}
