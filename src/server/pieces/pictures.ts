import { Refused } from "@/core/refusals";
import type { UploadView } from "@/core/views/handOutViews";
import { requireOnPiece } from "../access/standing";
import type { Call, ReadCall } from "../call";
import { lookAtFile, storeUpload, type KeptFile } from "../uploads/uploads";
import { requireRoom } from "../transfers/transfers";
import { decide } from "../life/decide";
import { lockPiece, readPiece } from "../life/queries";

/** Looks into a picture that is to stand in the student's writing, and makes it anew. @throws Refused when it is none */
export async function lookAtPicture(
  call: ReadCall,
  pieceId: string,
  file: { name: string; bytes: Buffer },
): Promise<KeptFile> {
  await requireOnPiece(call, pieceId, "piece.write");
  decide(await readPiece(call.db, pieceId), { kind: "write" }, "student", call.now);
  await requireRoom(call, pieceId, file.bytes.length);
  const kept = await lookAtFile(call.who, file);
  if (kept.mediaType !== "image/webp")
    throw new Refused(
      "This is not a picture that can stand in a text. Use JPEG, PNG, WebP or GIF.",
    );
  return kept;
}

/** A picture that stands in the student's writing, looked into already; it is shown to those of the piece. */
export async function addPicture(call: Call, pieceId: string, kept: KeptFile): Promise<UploadView> {
  await requireOnPiece(call, pieceId, "piece.write");
  decide(await lockPiece(call.tx, pieceId), { kind: "write" }, "student", call.now);
  const upload = await storeUpload(call, kept);
  await call.tx`insert into piece_picture (piece_id, upload_id) values (${pieceId}, ${upload.id})`;
  return upload;
}
