import type { ReadCall } from "../call";
import { readBlob } from "../blobs/blobs";
import { giveBytes } from "../http/giveBytes";
import { readUpload } from "./uploads";

/**
 * A file as an answer. Pictures (made by Almanac itself) are shown in the page; everything else is only
 * ever a download, and no browser may guess what it is.
 */
export async function giveUpload(
  call: ReadCall,
  uploadId: string,
  request: Request,
): Promise<Response> {
  const found = await readUpload(call, uploadId);
  return giveBytes(request, {
    ...found,
    inline: found.mediaType === "image/webp",
    etag: found.sha256.toString("hex"),
    read: (first, last) => readBlob(call.db, found.sha256, first, last),
  });
}
