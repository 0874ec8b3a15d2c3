import { decideAskToReopen } from "@/core/pieces/life";
import { Refused } from "@/core/refusals";
import { requireOnPiece } from "../access/standing";
import type { Call } from "../call";
import { sendMessage } from "./answers";
import { lockPiece, recordEvent, storeMove } from "../life/queries";
import { decide } from "../life/decide";

export { handIn } from "./handIn";
export { decide } from "../life/decide";
export { saveWork } from "./work";

/** The student looks at the piece: it counts as opened, and what came back as seen. */
export async function openPiece(call: Call, pieceId: string): Promise<{ seen: true }> {
  // Of a piece that was taken off nothing is noted any more.
  if ((await requireOnPiece(call, pieceId, "piece.see")) === "taken off") return { seen: true };
  const piece = await lockPiece(call.tx, pieceId);
  const to = decide(piece, { kind: "open" }, "student", call.now);
  if (to.state !== piece.state) await storeMove(call, piece, to, { kind: "opened" });
  await call.tx`
    update piece
    set seen_at = ${call.now}, opened_at = coalesce(opened_at, ${call.now})
    where id = ${pieceId}`;
  return { seen: true };
}

export async function takeBack(call: Call, pieceId: string): Promise<{ state: string }> {
  await requireOnPiece(call, pieceId, "piece.handIn");
  const piece = await lockPiece(call.tx, pieceId);
  const to = decide(piece, { kind: "takeBack" }, "student", call.now);
  await storeMove(call, piece, to, { kind: "took back" });
  return { state: to.state };
}

/**
 * Work closed while it was being written: the student asks for it to be opened again. What was saved is there; the
 * teacher opens it by another due time for this student.
 */
export async function askToReopen(
  call: Call,
  pieceId: string,
  { why }: { why: string },
): Promise<{ asked: true }> {
  await requireOnPiece(call, pieceId, "piece.write");
  const piece = await lockPiece(call.tx, pieceId);
  const asked = decideAskToReopen(piece, call.now);
  if (!asked.allowed) throw new Refused(asked.reason);
  await sendMessage(call, pieceId, {
    body: `Please open this again for me.${why.trim() ? ` ${why.trim()}` : ""}`,
    markId: null,
  });
  await recordEvent(call, {
    handOutId: piece.handOutId,
    pieceId,
    kind: "asked to open it again",
    detail: {},
  });
  return { asked: true };
}
