/**
 * What a teacher says of a piece in one word. `late` and `missing` are said where the dates do not say it by themselves
 * (work on paper has no moment of handing in), `on time` where they say late and the teacher does not; the others are for the section's teachers alone. *Excused* is no flag:
 * it changes what is awaited, and the student is told.
 */
export const PIECE_FLAGS = [
  "late",
  "on time",
  "missing",
  "away",
  "unfinished",
  "on paper",
] as const;

export type PieceFlag = (typeof PIECE_FLAGS)[number];

/** What can be said of many pieces at once: a flag, or that their students are excused; null takes either off. */
export const SIGNS = [...PIECE_FLAGS, "excused"] as const;
export type Sign = (typeof SIGNS)[number];
