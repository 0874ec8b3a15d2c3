import { Refused } from "@/core/refusals";
import type { ReturnedFile } from "@/core/rounds/cameBack";
import { requireOnPieces } from "../access/standing";
import type { Call } from "../call";
import { openDraft } from "../marking/draft";
import { readReturned, touchFeedback } from "../marking/queries";
import { readUpload } from "../uploads/uploads";

/** So many files go back with one round at most. */
const MOST = 20;

/**
 * Lays a file into the drafts of some pieces, for one student or for all; it goes back with them, and stays with that
 * round. Laying it there twice makes one.
 *
 * @throws NotFound when a piece or the file is not theirs
 */
export async function addReturnedFile(
  call: Call,
  { uploadId, pieceIds }: { uploadId: string; pieceIds: readonly string[] },
): Promise<{ added: number }> {
  await requireOnPieces(call, pieceIds, "feedback.draft");
  await readUpload(call, uploadId);
  const { tx, who, now } = call;
  let added = 0;
  for (const pieceId of new Set(pieceIds)) {
    const { round } = await openDraft(call, pieceId);
    const [row] = await tx<{ n: number }[]>`
      select count(*)::int as n from feedback_file
      where piece_id = ${pieceId} and round_number = ${round}`;
    if (row!.n >= MOST) throw new Refused(`At most ${MOST} files go back with one round.`);
    const fresh = await tx`
      insert into feedback_file (piece_id, round_number, upload_id, added_by, added_at)
      values (${pieceId}, ${round}, ${uploadId}, ${who.id}, ${now})
      on conflict do nothing
      returning 1`;
    added += fresh.length;
    await touchFeedback(call, pieceId, round);
  }
  return { added };
}

/** Takes a file out of a draft; what was handed back with it keeps it. @returns those that are left */
export async function removeReturnedFile(
  call: Call,
  pieceId: string,
  uploadId: string,
): Promise<{ files: ReturnedFile[] }> {
  const { round } = await openDraft(call, pieceId);
  await call.tx`
    delete from feedback_file
    where piece_id = ${pieceId} and round_number = ${round} and upload_id = ${uploadId}
      and not exists (
        select from hand_back
        where piece_id = ${pieceId} and content->'files' @> ${call.tx.json([{ id: uploadId }])}
      )`;
  await touchFeedback(call, pieceId, round);
  return { files: await readReturned(call.tx, pieceId, round) };
}
