import { streamOf } from "../blobs/blobs";
import { HttpProblem } from "../problem";

export type Given = {
  size: number;
  mediaType: string;
  name: string;
  /** Shown in the page; otherwise a download, whatever it is. */ inline: boolean;
  etag: string;
  /** The bytes from first to last, both included. */ read: (
    first: number,
    last: number,
  ) => AsyncGenerator<Buffer>;
};

/**
 * Bytes as an answer, whole or a range of them (RFC 9110, section 14): under their own type when they are shown, sandboxed,
 * and never guessed at by the browser.
 */
export function giveBytes(
  request: Request,
  { size, mediaType, name, inline, etag, read }: Given,
): Response {
  const headers: Record<string, string> = {
    "content-type": inline ? mediaType : "application/octet-stream",
    "content-disposition": `${inline ? "inline" : "attachment"}; filename*=UTF-8''${encodeURIComponent(name)}`,
    "content-security-policy": "default-src 'none'; sandbox",
    "x-content-type-options": "nosniff",
    "cross-origin-resource-policy": "same-origin",
    "cache-control": "private, max-age=0, must-revalidate",
    "accept-ranges": "bytes",
    etag: `"${etag}"`,
  };
  if (request.headers.get("if-none-match") === headers.etag)
    return new Response(null, { status: 304, headers });
  const range = readRange(request.headers.get("range"), size);
  const [first, last] = range ?? [0, size - 1];
  return new Response(streamOf(read(first, last)), {
    status: range ? 206 : 200,
    headers: {
      ...headers,
      "content-length": String(last - first + 1),
      ...(range ? { "content-range": `bytes ${first}-${last}/${size}` } : {}),
    },
  });
}

/** One range; several at once are answered with the whole file, as the standard allows. */
function readRange(header: string | null, size: number): [number, number] | null {
  const found = /^bytes=(\d*)-(\d*)$/.exec(header?.trim() ?? "");
  if (!found || (found[1] === "" && found[2] === "")) return null;
  const first = found[1] === "" ? Math.max(0, size - Number(found[2])) : Number(found[1]);
  const last = found[1] === "" || found[2] === "" ? size - 1 : Math.min(size - 1, Number(found[2]));
  if (first > last || first >= size)
    throw new HttpProblem(416, "There is no such part of this file.", `It has ${size} bytes.`);
  return [first, last];
}
