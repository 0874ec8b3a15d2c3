/** How far a piece is, in the words teachers and guardians read. */
export const pieces = {
  excused: "excused",
  notOpened: "not opened",
  started: "started",
  handedIn: "handed in",
  handedInAgain: "handed in again",
  handedBack: "handed back",
  toRevise: "back to revise",
  reworking: "reworking",
  late: "late",
  missing: "missing",
  round: "round {number}",
};
export type PieceWords = typeof pieces;
