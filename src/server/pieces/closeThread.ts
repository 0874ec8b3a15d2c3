import { requireOnPiece } from "../access/standing";
import type { Call } from "../call";
import { lockPiece, recordEvent } from "../life/queries";

/**
 * A teacher closes the thread of a piece, or opens it again. Closed, nothing waits in it any more; its student reads
 * what was said and writes in it no more.
 */
export async function closeThread(
  call: Call,
  pieceId: string,
  { closed }: { closed: boolean },
): Promise<{ closed: boolean }> {
  await requireOnPiece(call, pieceId, "thread.close");
  const piece = await lockPiece(call.tx, pieceId);
  await call.tx`
    update piece
    set thread_closed_at = ${closed ? call.now : null}, thread_closed_by = ${closed ? call.who.id : null}
    where id = ${pieceId} and (thread_closed_at is null) = ${closed}`;
  await recordEvent(call, {
    ...{ handOutId: piece.handOutId, pieceId, detail: {} },
    kind: closed ? "closed the thread" : "opened the thread again",
  });
  return { closed };
}
