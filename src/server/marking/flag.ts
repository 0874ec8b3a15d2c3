import { may } from "@/core/access/access";
import { withFlag } from "@/core/ledger/cell";
import type { PieceFlag, Sign } from "@/core/pieces/flags";
import { Refused } from "@/core/refusals";
import { requireOnHandOut, requireOnPiece } from "../access/standing";
import type { Call } from "../call";
import { noteForOne, sayExcused } from "../handouts/exceptions";
import { hiddenNow } from "../names/names";
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
  const { tx } = call;
  await requireOnPiece(call, pieceId, "piece.except");
  const piece = await lockPiece(tx, pieceId);
  if (piece.excused === excused) return { excused };
  await tx`update piece set excused = ${excused} where id = ${pieceId}`;
  const { handOutId } = piece;
  await noteForOne(call, { handOutId, pieceId, words: [sayExcused(excused)] }, true);
  return { excused };
}

/**
 * The same of many pieces of a hand-out, each with its line of history; those that have it already are left. Pieces that
 * are read without their names are not among them: no act by a name reaches them.
 *
 * @returns how many were changed
 */
export async function flagMany(
  call: Call,
  handOutId: string,
  { pieceIds, sign }: { pieceIds: readonly string[]; sign: Sign | null },
): Promise<{ changed: number }> {
  const standing = await requireOnHandOut(call.tx, call.who, handOutId, "feedback.draft");
  const mayExcept = may(standing, "piece.except");
  if (sign === "excused" && !mayExcept)
    throw new Refused(
      "Excusing students is for the section’s owner and co-teachers who may hand back.",
    );
  const pieces = await call.tx<{ id: string; flag: PieceFlag | null; excused: boolean }[]>`
    select piece.id, piece.flag, piece.excused
    from piece
    join hand_out on hand_out.id = piece.hand_out_id
    where piece.hand_out_id = ${handOutId} and piece.id = any(${[...pieceIds]}) and piece.removed_at is null
      and not ${hiddenNow(call.tx, call.tx`piece.id`)}
    order by piece.id`;
  let changed = 0;
  for (const { id, flag, excused } of pieces) {
    const wanted = withFlag({ score: "", flag, excused }, sign);
    if (wanted.flag !== flag) await setFlag(call, id, wanted);
    const excuses = mayExcept && wanted.excused !== excused;
    if (excuses) await setExcused(call, id, wanted);
    if (wanted.flag !== flag || excuses) changed += 1;
  }
  return { changed };
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
