/**
 * What a teacher says of a piece in one word. `late` and `missing` are said where the dates do not say it by themselves
 * (work on paper has no moment of handing in); the others are for the section's teachers alone. *Excused* is no flag:
 * it changes what is awaited, and the student is told.
 */
export const PIECE_FLAGS = ["late", "missing", "away", "unfinished", "on paper"] as const;

export type PieceFlag = (typeof PIECE_FLAGS)[number];
