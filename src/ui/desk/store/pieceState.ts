import type { GivenMark } from "@/core/marks/schema";
import type { DeskPiece } from "@/core/views/deskViews";

/** A mark about to be made: what is left out is nothing. */
export type NewMark = Omit<GivenMark, "id"> & { commentId?: string | null };

export type PieceState = {
  /** The piece as it is when all that waits has happened; undefined until it was read. */
  piece: DeskPiece | undefined;
  /** Why it could not be read. */
  failed: string | null;
  /** What went wrong, or is to be said, in a sentence. */
  problem: string | null;
  /** Nobody can be asked just now; what is marked is on the device and goes by itself. */
  waits: boolean;
};
