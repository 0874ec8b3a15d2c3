import { Refused } from "@/core/refusals";
import type { UploadView } from "@/core/views/handOutViews";
import { requireOnPiece } from "../access/standing";
import type { Call } from "../call";
import { storeUpload } from "../uploads/uploads";
import { decide } from "../life/decide";
import { lockPiece } from "../life/queries";

/** A picture that is to stand in the student's writing. It is made anew, and shown to those of the piece. */
export async function addPicture(
  call: Call,
  pieceId: string,
  file: { name: string; bytes: Buffer },
): Promise<UploadView> {
  await requireOnPiece(call, pieceId, "piece.write");
  decide(await lockPiece(call.tx, pieceId), { kind: "write" }, "student", call.now);
  const upload = await storeUpload(call, file);
  if (upload.mediaType !== "image/webp")
    throw new Refused(
      "This is not a picture that can stand in a text. Use JPEG, PNG, WebP or GIF.",
    );
  await call.tx`insert into piece_picture (piece_id, upload_id) values (${pieceId}, ${upload.id})`;
  return upload;
}
