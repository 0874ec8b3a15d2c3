import { isNothingIn, type PieceFacts } from "../pieces/life";

/**
 * The round that feedback is about: that of the newest hand-in, or the present one when nothing is in (a talk in
 * class, work on paper, a hand-in that was taken back). While the student reworks, it is still the round before.
 *
 * @param versions every hand-in of the piece, the earliest first
 */
export function feedbackRound<Version extends { roundNumber: number }>(
  piece: Pick<PieceFacts, "state" | "round">,
  versions: readonly Version[],
): { round: number; version: Version | null } {
  const before = piece.state === "reworking" ? piece.round : Infinity;
  const newest = isNothingIn(piece.state)
    ? undefined
    : versions.findLast((v) => v.roundNumber < before);
  return newest
    ? { round: newest.roundNumber, version: newest }
    : { round: piece.round, version: null };
}
