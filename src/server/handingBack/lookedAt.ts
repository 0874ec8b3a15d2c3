import { USUAL_HOLD } from "@/core/handingBack/outcome";
import { Refused } from "@/core/refusals";
import type { LookedAt } from "@/core/views/handBackViews";
import { requireOnPieces } from "../access/standing";
import type { Call } from "../call";
import { readSettings } from "../marking/desk/setting";
import { changeDraft } from "../marking/draft";
import { makeBatch } from "./batches";

/**
 * Says of work that needs no feedback that it was looked at: a word to each student, handed back for good in one act that
 * can be called back. Pieces on which something is drafted, or that are not in, are left as they are.
 *
 * @param words what each student reads
 * @throws Refused where none of them can be marked so
 */
export async function markLookedAt(
  call: Call,
  { pieceIds, words }: { pieceIds: readonly string[]; words: string },
): Promise<LookedAt> {
  const ids = [...new Set(pieceIds)].sort();
  await requireOnPieces(call, ids, "feedback.handBack");
  const plain = await call.tx<{ id: string }[]>`
    select id from piece_standing
    where id = any(${ids}) and state = 'handed_in' and not drafted
    order by id`;
  if (plain.length === 0)
    throw new Refused(
      "Something is drafted on these pieces, or they are not in. Nothing was changed.",
    );
  for (const { id } of plain) await changeDraft(call, id, () => ({ overall: words }));
  const settings = await readSettings(call);
  const batch = await makeBatch(call, {
    ...{ pieceIds: plain.map(({ id }) => id), outcome: "final", due: null, at: null },
    ...{ hold: settings["desk.hold"] ?? USUAL_HOLD, message: "", scores: "now", scoresAt: null },
  });
  return { batch, left: ids.length - plain.length };
}
