import { streamOf } from "../blobs/blobs";
import type { ReadCall } from "../call";
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
  const etag = `"${found.sha256.toString("hex")}"`;
  if (request.headers.get("if-none-match") === etag)
    return new Response(null, { status: 304, headers: { etag } });
  const body = streamOf(found.chunks());
  const picture = found.mediaType === "image/webp";
  return new Response(body, {
    headers: {
      "content-type": found.mediaType,
      "content-length": String(found.size),
      "content-disposition": `${picture ? "inline" : "attachment"}; filename*=UTF-8''${encodeURIComponent(found.name)}`,
      "content-security-policy": "default-src 'none'; sandbox",
      "x-content-type-options": "nosniff",
      "cache-control": "private, max-age=0, must-revalidate",
      etag,
    },
  });
}
