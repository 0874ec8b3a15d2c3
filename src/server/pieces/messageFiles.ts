import { Invalid, NotFound } from "@/core/refusals";
import { MOST_IN_A_MESSAGE } from "@/core/threads/message";
import type { UploadView } from "@/core/views/handOutViews";
import { requireOnPiece } from "../access/standing";
import type { Call, ReadCall } from "../call";
import { requireRoom } from "../transfers/transfers";
import { lookAtFile, storeUpload, type KeptFile } from "../uploads/uploads";

/** Looks into a file that is to be sent in a piece's thread. @throws NotFound, Refused where a student has no room left */
export async function lookAtMessageFile(
  call: ReadCall,
  pieceId: string,
  file: { name: string; bytes: Buffer },
): Promise<KeptFile> {
  const standing = await requireOnPiece(call, pieceId, "thread.write");
  if (standing === "student") await requireRoom(call, pieceId, file.bytes.length);
  return lookAtFile(call.who, file);
}

/** Keeps it: until it is sent with a message its sender alone has it, and what is never sent goes after two weeks. */
export async function addMessageFile(
  call: Call,
  pieceId: string,
  kept: KeptFile,
): Promise<UploadView> {
  await requireOnPiece(call, pieceId, "thread.write");
  return storeUpload(call, kept);
}

/** The sender's own files by these ids, in their order. @throws NotFound when one is another's, Invalid when there are too many */
export async function ownFiles({ tx, who }: Call, ids: readonly string[]): Promise<UploadView[]> {
  const wanted = [...new Set(ids)];
  if (wanted.length > MOST_IN_A_MESSAGE)
    throw new Invalid({ body: `At most ${MOST_IN_A_MESSAGE} files go with one message.` });
  if (wanted.length === 0) return [];
  const found = await tx<UploadView[]>`
    select id, name, media_type, size::int from upload where id = any(${wanted}) and owner_id = ${who.id}`;
  return wanted.map((id) => {
    const file = found.find((f) => f.id === id);
    if (!file) throw new NotFound();
    return file;
  });
}
