import { hiddenNow, plainFile } from "../names/names";
import { may } from "@/core/access/access";
import { NotFound } from "@/core/refusals";
import { requireOnPiece } from "../access/standing";
import { isItemShown } from "../access/shown";
import { readBlob } from "../blobs/blobs";
import type { ReadCall } from "../call";
import { giveBytes } from "../http/giveBytes";

type Found = {
  pieceId: string;
  sha256: Buffer;
  size: number;
  mediaType: string;
  name: string;
  kind: string;
};

/**
 * A student's file, whole or a range of it (RFC 9110, section 14), for the student and for the teachers of the section:
 * these once it was handed in or shown, or where they may open work before. As it came it is only ever a download;
 * what is shown in the page are pictures made anew, PDF, sound and film, each under its own type, sandboxed.
 */
export async function giveItem(
  call: ReadCall,
  itemId: string,
  as: string,
  request: Request,
): Promise<Response> {
  const found = await findFile(call, itemId, as);
  return giveBytes(request, {
    ...found,
    inline: as !== "original",
    etag: found.sha256.toString("hex"),
    read: (first, last) => readBlob(call.db, found.sha256, first, last),
  });
}

async function findFile(call: ReadCall, itemId: string, as: string): Promise<Found> {
  const { db } = call;
  const [item] = await db<(Found & { openBefore: boolean; given: boolean; hidden: boolean })[]>`
    select
      item.piece_id, item.sha256, item.size, item.media_type, item.name, item.kind, assignment.open_before, ${hiddenNow(db, db`piece.id`)} as hidden,
      exists (select from version_item where item_id = item.id) or exists (select from checkpoint_item where item_id = item.id) as given
    from item
    join piece on piece.id = item.piece_id
    join hand_out on hand_out.id = piece.hand_out_id
    join assignment on assignment.id = hand_out.assignment_id
    where item.id = ${itemId}`;
  if (!item) throw new NotFound();
  const isStudent = call.who.kind === "student";
  if (isStudent && (await isItemShown(call, itemId))) return shownFile(call, item, as);
  const standing = await requireOnPiece(
    call,
    item.pieceId,
    isStudent ? "piece.see" : "feedback.see",
  );
  const isTeachers = may(standing, "feedback.see");
  if (isTeachers && !item.given && !item.openBefore) throw new NotFound();
  // A file saved under its own name would say whose it is.
  if (item.hidden && isTeachers) item.name = plainFile(item.name, 0);
  return inForm(call, item, as);
}

/** The file in the form that is asked for. */
function inForm(call: ReadCall, item: Found, as: string): Promise<Found> {
  const asItIs = as === "original" || (as === "shown" && SHOWN_AS_IT_IS.has(item.kind));
  return asItIs ? Promise.resolve({ ...item, size: Number(item.size) }) : findMade(call, item, as);
}

/** To classmates a file is shown in the page; as it came, under its own name, it stays its writer's. */
function shownFile(call: ReadCall, item: Found, as: string): Promise<Found> {
  // A plain text is shown from the file itself.
  if (as === "original" && item.kind !== "text") throw new NotFound();
  return inForm(call, { ...item, name: plainFile(item.name, 0) }, as);
}

/** Kinds that are shown in the form in which they are kept. */
const SHOWN_AS_IT_IS = new Set(["photo", "picture", "pdf", "sound", "film"]);

async function findMade({ db }: ReadCall, item: Found, as: string): Promise<Found> {
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
