import { may } from "@/core/access/access";
import { NotFound } from "@/core/refusals";
import { requireOnPiece } from "../access/standing";
import { readBlob, streamOf } from "../blobs/blobs";
import type { ReadCall } from "../call";
import { HttpProblem } from "../http/problem";

type Found = { pieceId: string; sha256: Buffer; size: number; mediaType: string; name: string; kind: string };

/**
 * A student's file, whole or a range of it (RFC 9110, section 14), for the student and for the teachers of the section:
 * these once it was handed in or shown, or where they may open work before. As it came it is only ever a download;
 * what is shown in the page are pictures made anew, PDF, sound and film, each under its own type, sandboxed.
 */
export async function giveItem(call: ReadCall, itemId: string, as: string, request: Request): Promise<Response> {
  const found = await findFile(call, itemId, as);
  const etag = `"${found.sha256.toString("hex")}"`;
  const shown = as !== "original";
  const headers: Record<string, string> = {
    "content-type": shown ? found.mediaType : "application/octet-stream",
    "content-disposition": `${shown ? "inline" : "attachment"}; filename*=UTF-8''${encodeURIComponent(found.name)}`,
    "content-security-policy": "default-src 'none'; sandbox",
    "x-content-type-options": "nosniff",
    "cross-origin-resource-policy": "same-origin",
    "cache-control": "private, max-age=0, must-revalidate",
    "accept-ranges": "bytes",
    etag,
  };
  if (request.headers.get("if-none-match") === etag) return new Response(null, { status: 304, headers });
  const range = readRange(request.headers.get("range"), found.size, headers);
  const [first, last] = range ?? [0, found.size - 1];
  const body = streamOf(readBlob(call.db, found.sha256, first, last));
  return new Response(body, { status: range ? 206 : 200, headers: { ...headers, "content-length": String(last - first + 1), ...(range ? { "content-range": `bytes ${first}-${last}/${found.size}` } : {}) } });
}

async function findFile(call: ReadCall, itemId: string, as: string): Promise<Found> {
  const { db } = call;
  const [item] = await db<(Found & { openBefore: boolean; given: boolean })[]>`
    select
      item.piece_id, item.sha256, item.size, item.media_type, item.name, item.kind, assignment.open_before,
      exists (select from version_item where item_id = item.id) or exists (select from checkpoint_item where item_id = item.id) as given
    from item
    join piece on piece.id = item.piece_id
    join hand_out on hand_out.id = piece.hand_out_id
    join assignment on assignment.id = hand_out.assignment_id
    where item.id = ${itemId}`;
  if (!item) throw new NotFound();
  const standing = await requireOnPiece(call, item.pieceId, call.who.kind === "student" ? "piece.see" : "feedback.see");
  if (may(standing, "feedback.see") && !item.given && !item.openBefore) throw new NotFound();
  if (as === "original") return { ...item, size: Number(item.size) };
  if (as === "shown" && ["photo", "picture", "pdf", "sound", "film"].includes(item.kind)) return { ...item, size: Number(item.size) };
  const [made] = await db<{ sha256: Buffer; size: number; mediaType: string }[]>`
    select blob.sha256, blob.size, blob.media_type
    from rendition
    join blob on blob.sha256 = rendition.made
    where rendition.source = ${item.sha256} and rendition.kind = ${as}`;
  if (!made) throw new NotFound();
  // Needed no other form: the file itself plays.
  const mediaType = made.sha256.equals(item.sha256) ? item.mediaType : made.mediaType;
  return { ...item, ...made, size: Number(made.size), mediaType };
}

/** One range; several at once are answered with the whole file, as the standard allows. */
function readRange(header: string | null, size: number, headers: Record<string, string>): [number, number] | null {
  const found = /^bytes=(\d*)-(\d*)$/.exec(header?.trim() ?? "");
  if (!found || (found[1] === "" && found[2] === "")) return null;
  const first = found[1] === "" ? Math.max(0, size - Number(found[2])) : Number(found[1]);
  const last = found[1] === "" || found[2] === "" ? size - 1 : Math.min(size - 1, Number(found[2]));
  if (first > last || first >= size) throw new HttpProblem(416, "There is no such part of this file.", `It has ${size} bytes. ${headers["accept-ranges"]}`);
  return [first, last];
}
