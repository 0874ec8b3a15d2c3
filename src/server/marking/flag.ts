import type { PieceFlag } from "@/core/pieces/flags";
import { requireOnHandOut, requireOnPiece } from "../access/standing";
import type { Call } from "../call";
import { sayExcused } from "../handouts/exceptions";
import { lockPiece, recordEvent } from "../life/queries";

/** A word of the teacher's on a piece: the student was away, it is unfinished, it lies on paper. */
export async function setFlag(
  call: Call,
  pieceId: string,
  { flag }: { flag: PieceFlag | null },
): Promise<{ flag: PieceFlag | null }> {
  await requireOnPiece(call, pieceId, "feedback.draft");
  const piece = await lockPiece(call.tx, pieceId);
  await call.tx`update piece set flag = ${flag} where id = ${pieceId}`;
  await recordEvent(call, {
    handOutId: piece.handOutId,
    pieceId,
    kind: flag ? "flagged" : "took a flag off",
    detail: { flag },
  });
  return { flag };
}

/** Excuses a student from a piece, or takes that back; they are told, since it changes what is awaited of them. */
export async function setExcused(
  call: Call,
  pieceId: string,
  { excused }: { excused: boolean },
): Promise<{ excused: boolean }> {
  const { tx, now, newId } = call;
  await requireOnPiece(call, pieceId, "piece.except");
  const piece = await lockPiece(tx, pieceId);
  if (piece.excused === excused) return { excused };
  const words = sayExcused(excused);
  await tx`update piece set excused = ${excused} where id = ${pieceId}`;
  await tx`insert into piece_notice (id, piece_id, words, at) values (${newId()}, ${pieceId}, ${`Changed for you: ${words}.`}, ${now})`;
  await recordEvent(call, {
    handOutId: piece.handOutId,
    pieceId,
    kind: "set for one student",
    detail: { words: [words] },
  });
  return { excused };
}

/** Names on the Desk hidden, or shown again, for one hand-out. */
export async function setAnonymous(
  call: Call,
  handOutId: string,
  { anonymous }: { anonymous: boolean },
): Promise<{ anonymous: boolean }> {
  await requireOnHandOut(call.tx, call.who, handOutId, "feedback.draft");
  await call.tx`update hand_out set anonymous = ${anonymous} where id = ${handOutId}`;
  await recordEvent(call, {
    handOutId,
    pieceId: null,
    kind: anonymous ? "names hidden on the Desk" : "names shown on the Desk",
    detail: {},
  });
  return { anonymous };
}
