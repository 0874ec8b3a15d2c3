import path from "node:path";
import { createWriteStream } from "node:fs";
import { createHash, randomUUID } from "node:crypto";
import type { PendingQuery, Row } from "postgres";
import { once } from "node:events";
import type { ItemKind } from "@/core/items/kinds";
import { NotFound, Refused } from "@/core/refusals";
import { partRule } from "@/core/handouts/parts";
import { filesIn, type RichDoc } from "@/core/text/richDoc";
import type { ItemView } from "@/core/views/workViews";
import { requireOnPiece } from "../access/standing";
import { storeBlob } from "../blobs/blobs";
import type { Call, ReadCall } from "../call";
import type { Db } from "../db/connection";
import { decide } from "../life/decide";
import { lockPiece, readPiece, recordEvent, storeMove } from "../life/queries";
import { inFolder } from "../programs/jail";
import { Turns } from "../programs/turns";
import { partOf, readLimits } from "../transfers/transfers";
import { inspect, type Inspected } from "./inspect";
import { planRenditions } from "./renditions";

export type ItemRow = {
  id: string;
  pieceId: string;
  partId: string;
  kind: ItemKind;
  name: string;
  mediaType: string;
  size: number;
  sha256: Buffer;
  position: number;
  about: { width?: number; height?: number; pages?: number; seconds?: number };
  doc: RichDoc | null;
  madeFrom: string | null;
  /** It stands in the writing, where the text names it. */ inText: boolean;
  removedAt: Date | null;
  pages: Rendition;
  playable: Rendition;
  still: Rendition;
};
type Rendition = {
  state: "waiting" | "made" | "failed";
  reason: string | null;
  about: { pages?: number; seconds?: number };
} | null;

/**
 * The items of the unfinished work (or of a version, or a checkpoint), in order. Of the unfinished work also those that
 * the text does not name just now, while they are kept: undoing brings them back (see `inWork`). Indexes: item_piece,
 * the keys of version_item and checkpoint_item.
 */
export async function readItems(
  db: Db,
  pieceId: string,
  of: { version: string } | { checkpoint: string } | "work",
): Promise<ItemRow[]> {
  if (of === "work")
    return selectItems(
      db,
      db`where item.piece_id = ${pieceId} and (item.removed_at is null or item.in_text) order by item.position, item.id`,
    );
  const held =
    "version" in of
      ? db`join version_item held on held.item_id = item.id and held.version_id = ${of.version}`
      : db`join checkpoint_item held on held.item_id = item.id and held.checkpoint_id = ${of.checkpoint}`;
  return selectItems(db, db`${held} where item.piece_id = ${pieceId} order by held.position`);
}

/** Of the items of unfinished work those that belong to it just now: what stands in the writing, only where it is named. */
export function inWork(items: readonly ItemRow[], doc: RichDoc): ItemRow[] {
  const named = new Set(filesIn(doc));
  return items.filter((item) => !item.inText || named.has(item.id));
}

/** Items of a piece by their ids, in or out of the unfinished work. */
export async function readItemsById(
  db: Db,
  pieceId: string,
  ids: readonly string[],
): Promise<ItemRow[]> {
  if (ids.length === 0) return [];
  return selectItems(
    db,
    db`where item.piece_id = ${pieceId} and item.id = any(${[...new Set(ids)]}) order by item.position, item.id`,
  );
}

function selectItems(db: Db, which: PendingQuery<Row[]>): Promise<ItemRow[]> {
  const rendition = (kind: string) =>
    db`(select jsonb_build_object('state', state, 'reason', reason, 'about', about) from rendition where source = item.sha256 and kind = ${kind})`;
  return db<ItemRow[]>`
    select
      item.id, item.piece_id, item.part_id, item.kind, item.name, item.media_type, item.size, item.sha256, item.position, item.about, item.doc, item.made_from, item.in_text, item.removed_at,
      ${rendition("pages")} as pages, ${rendition("playable")} as playable, ${rendition("still")} as still
    from item
    ${which}`;
}

/** How an item is shown, and whether it can be yet. */
export function itemView(row: ItemRow): ItemView {
  const { id, partId, kind, name, size, about } = row;
  const href = `/api/items/${id}`;
  const base = {
    id,
    partId,
    kind,
    name,
    size: Number(size),
    sha256: row.sha256.toString("hex"),
    pages: about.pages ?? row.pages?.about.pages ?? null,
    seconds: row.playable?.about.seconds ?? about.seconds ?? null,
    width: about.width ?? null,
    height: about.height ?? null,
    original: href,
    madeFrom: row.madeFrom,
    inText: row.inText,
    still: row.still?.state === "made" ? `${href}?as=still` : null,
  };
  const shown = (view: NonNullable<ItemView["view"]>): ItemView => ({
    ...base,
    view,
    state: "ready",
    why: null,
  });
  const waiting = (why: string): ItemView => ({ ...base, view: null, state: "being made", why });
  const notShown = (why: string): ItemView => ({ ...base, view: null, state: "not shown", why });
  switch (kind) {
    case "photo":
    case "picture":
      return shown({ as: "picture", href: `${href}?as=shown` });
    case "pdf":
      return shown({ as: "pages", href: `${href}?as=shown` });
    case "document":
      if (row.pages?.state === "made") return shown({ as: "pages", href: `${href}?as=pages` });
      return row.pages?.state === "failed"
        ? notShown(row.pages.reason ?? "")
        : waiting("Its pages are being made; that takes some seconds.");
    case "text":
      return shown({ as: "text", href });
    case "sound":
    case "film":
      if (row.playable?.state === "failed") return notShown(row.playable.reason ?? "");
      return shown({
        as: kind,
        href: row.playable?.state === "made" ? `${href}?as=playable` : `${href}?as=shown`,
      });
    case "other":
      return notShown(
        "Files of this kind cannot be shown here. It is kept as it came, and can be fetched.",
      );
  }
}

/** Something is wrong with the file itself: it is thrown away. Every other refusal keeps it. */
export class FileRefused extends Refused {}

export type NewItem = {
  itemId: string;
  transferId: string;
  partId: string;
  replaces: string | null;
};

/** A file that has arrived and was looked into; null where it is part of the piece already. */
export type LookedAt = {
  looked: Inspected;
  sha256: Buffer;
  size: number;
  lookedId: string;
} | null;

/**
 * Looks into a file that has arrived, before anything is locked: that takes seconds, and a minute at worst.
 *
 * @throws FileRefused with what is wrong with the file, for the student
 */
export async function lookAtArrived(
  call: ReadCall,
  pieceId: string,
  { itemId, transferId, partId }: NewItem,
): Promise<LookedAt> {
  const { db, who } = call;
  await requireOnPiece(call, pieceId, "piece.write");
  const [there] = await db`select id from item where id = ${itemId} and piece_id = ${pieceId}`;
  if (there) return null;
  decide(await readPiece(db, pieceId), { kind: "write" }, "student", call.now);
  const part = await partOf(db, pieceId, partId);
  const transfer = await arrivedTransfer(call, { pieceId, transferId, partId });
  const limits = await readLimits(db, who);
  const lookedId = await noteLooking(db, transferId);
  return LOOKING.take(who.id, () =>
    inFolder(async (folder) => {
      const sha256 = await transferToFile(db, transferId, path.join(folder, "given"));
      const looked = await inspect(folder, "given", transfer.name, part, limits).catch(
        (error: unknown) => {
          throw error instanceof Refused ? new FileRefused(error.reason) : error;
        },
      );
      return { looked, sha256, size: Number(transfer.size), lookedId };
    }),
  );
}

/** As many at once as the least machine has processors; what one person may have waiting is a whole album. */
const LOOKING = new Turns(2, 60);

/** A sign on the upload as it is looked into: one that is begun anew under the same id does not have it. */
async function noteLooking(db: Db, transferId: string): Promise<string> {
  const [row] = await db<{ lookedId: string }[]>`
    update transfer
    set looked_id = coalesce(looked_id, ${randomUUID()})
    where id = ${transferId} and item_id is null
    returning looked_id`;
  if (!row) throw new NotFound();
  return row.lookedId;
}

type ArrivedTransfer = { name: string; size: number; lookedId: string | null };

/** @throws NotFound, or Refused while bytes are missing */
async function arrivedTransfer(
  { db, who }: ReadCall,
  { pieceId, transferId, partId }: { pieceId: string; transferId: string; partId: string },
  lock = db``,
): Promise<ArrivedTransfer> {
  const [transfer] = await db<
    (ArrivedTransfer & { arrived: number; itemId: string | null })[]
  >`select name, size, arrived, item_id, looked_id from transfer where id = ${transferId} and owner_id = ${who.id} and piece_id = ${pieceId} and part_id = ${partId} ${lock}`;
  if (!transfer || transfer.itemId) throw new NotFound();
  if (Number(transfer.arrived) < Number(transfer.size))
    throw new Refused("This file has not arrived whole yet.");
  return transfer;
}

/**
 * Turns a file that has arrived, and was looked into, into a part of the piece. Asking again with the same id
 * changes nothing. What has arrived whole is never written to again; what was begun anew meanwhile is not it.
 */
export async function addItem(
  call: Call,
  pieceId: string,
  { itemId, transferId, partId, replaces }: NewItem,
  ready: LookedAt,
): Promise<ItemView> {
  const { tx, now } = call;
  await requireOnPiece(call, pieceId, "piece.write");
  const piece = await lockPiece(tx, pieceId);
  const [there] = await tx`select id from item where id = ${itemId} and piece_id = ${pieceId}`;
  if (there) return oneItem(tx, pieceId, itemId);
  const to = decide(piece, { kind: "write" }, "student", now);
  const part = await partOf(tx, pieceId, partId);
  const transfer = await arrivedTransfer(call, { pieceId, transferId, partId }, tx`for update`);
  if (!ready || transfer.lookedId !== ready.lookedId) throw new NotFound();
  const { looked } = ready;
  const stored = await keepLooked(call, transferId, ready);
  const inText = partRule(part.kind).holds === "writing";
  await storeItem(call, { id: itemId, pieceId, partId, replaces, inText }, looked, stored);
  await tx`update transfer set item_id = ${itemId} where id = ${transferId}`;
  await tx`delete from transfer_chunk where transfer_id = ${transferId}`;
  await planRenditions(call, stored.sha256, looked);
  if (to.state !== piece.state) await storeMove(call, piece, to, { kind: "began" });
  await recordEvent(call, {
    handOutId: piece.handOutId,
    pieceId,
    kind: replaces ? "changed a file" : "added a file",
    detail: { itemId, kind: looked.kind },
  });
  return oneItem(tx, pieceId, itemId);
}

/** The bytes as they are kept: made anew where looking into them made them so, else as they came. */
async function keepLooked(
  call: Call,
  transferId: string,
  { looked, sha256, size }: NonNullable<LookedAt>,
): Promise<{ sha256: Buffer; size: number }> {
  const { bytes, mediaType } = looked;
  if (!bytes)
    return { sha256: await keepTransfer(call, transferId, { sha256, size, mediaType }), size };
  return { sha256: await storeBlob(call.tx, bytes, mediaType, call.now), size: bytes.length };
}

/** A file that was refused goes at once; the student was told why. */
export async function dropTransfer(db: Db, whoId: string, transferId: string): Promise<void> {
  await db`delete from transfer where id = ${transferId} and owner_id = ${whoId} and item_id is null`;
}

async function oneItem(db: Db, pieceId: string, itemId: string): Promise<ItemView> {
  const row = (await readItems(db, pieceId, "work")).find((r) => r.id === itemId);
  if (!row) throw new Refused("This was taken out of the piece again.");
  return itemView(row);
}

async function transferToFile(db: Db, transferId: string, file: string): Promise<Buffer> {
  const out = createWriteStream(file);
  const hash = createHash("sha256");
  for (let number = 0; ; number += 1) {
    const [row] = await db<
      { bytes: Buffer }[]
    >`select bytes from transfer_chunk where transfer_id = ${transferId} and number = ${number}`;
    if (!row) break;
    hash.update(row.bytes);
    if (!out.write(row.bytes)) await once(out, "drain");
  }
  out.end();
  await once(out, "finish");
  return hash.digest();
}

/** The chunks are of the same size on both sides, so they go over inside the database. */
async function keepTransfer(
  { tx, now }: Call,
  transferId: string,
  { sha256, size, mediaType }: { sha256: Buffer; size: number; mediaType: string },
): Promise<Buffer> {
  const [fresh] = await tx`
    insert into blob (sha256, size, media_type, created_at)
    values (${sha256}, ${size}, ${mediaType}, ${now})
    on conflict (sha256) do nothing
    returning sha256`;
  if (fresh)
    await tx`insert into blob_chunk (sha256, number, bytes) select ${sha256}, number, bytes from transfer_chunk where transfer_id = ${transferId}`;
  return sha256;
}

export async function storeItem(
  { tx, now }: Call,
  {
    id,
    pieceId,
    partId,
    replaces,
    inText = false,
  }: { id: string; pieceId: string; partId: string; replaces: string | null; inText?: boolean },
  looked: Inspected,
  stored: { sha256: Buffer; size: number },
): Promise<void> {
  const [old] = replaces
    ? await tx<
        { id: string; position: number; madeFrom: string | null }[]
      >`select id, position, made_from from item where id = ${replaces} and piece_id = ${pieceId} and part_id = ${partId} and removed_at is null`
    : [];
  if (replaces && !old) throw new NotFound();
  await tx`
    insert into item (id, piece_id, part_id, kind, name, media_type, size, sha256, position, about, doc, made_from, in_text, added_at)
    values (
      ${id}, ${pieceId}, ${partId}, ${looked.kind}, ${looked.name}, ${looked.mediaType}, ${stored.size}, ${stored.sha256},
      ${old ? old.position : tx`(select coalesce(max(position), 0) + 1 from item where piece_id = ${pieceId})`}, ${tx.json(looked.about)}, ${looked.doc ? tx.json(looked.doc as never) : null},
      ${old ? (old.madeFrom ?? old.id) : null}, ${inText}, ${now}
    )`;
  if (old) await tx`update item set removed_at = ${now} where id = ${old.id}`;
}

/**
 * What stands in the writing leaves and comes back with its words: as the text names it. One that stays out goes after
 * the days that files taken out are kept.
 */
export async function followText({ tx, now }: Call, pieceId: string, doc: RichDoc): Promise<void> {
  const named = tx`id = any(${filesIn(doc)}::uuid[])`;
  await tx`
    update item
    set removed_at = case when ${named} then null else ${now}::timestamptz end
    where piece_id = ${pieceId} and in_text and (removed_at is null) <> (${named})`;
}

/** Takes an item out of the unfinished work, or puts it back; versions that have it keep it. */
export async function removeItem(
  call: Call,
  pieceId: string,
  itemId: string,
  removed: boolean,
): Promise<{ removed: boolean }> {
  await requireOnPiece(call, pieceId, "piece.write");
  const piece = await lockPiece(call.tx, pieceId);
  const to = decide(piece, { kind: "write" }, "student", call.now);
  const [row] =
    await call.tx`update item set removed_at = ${removed ? call.now : null} where id = ${itemId} and piece_id = ${pieceId} returning id`;
  if (!row) throw new NotFound();
  if (to.state !== piece.state) await storeMove(call, piece, to, { kind: "began" });
  await recordEvent(call, {
    handOutId: piece.handOutId,
    pieceId,
    kind: removed ? "took a file out" : "put a file back",
    detail: { itemId },
  });
  return { removed };
}

/** Goes back from a page that was turned, cut or lightened to the photo as it was taken. */
export async function restoreItem(call: Call, pieceId: string, itemId: string): Promise<ItemView> {
  await requireOnPiece(call, pieceId, "piece.write");
  const [row] = await call.tx<
    { madeFrom: string | null; position: number }[]
  >`select made_from, position from item where id = ${itemId} and piece_id = ${pieceId} and removed_at is null`;
  if (!row) throw new NotFound();
  if (!row.madeFrom) throw new Refused("This photo is as it was taken.");
  await removeItem(call, pieceId, itemId, true);
  await call.tx`update item set removed_at = null, position = ${row.position} where id = ${row.madeFrom}`;
  return oneItem(call.tx, pieceId, row.madeFrom);
}

/** Puts the items of a part in this order; those not named stay behind them. */
export async function orderItems(
  call: Call,
  pieceId: string,
  ids: readonly string[],
): Promise<{ ordered: number }> {
  await requireOnPiece(call, pieceId, "piece.write");
  const piece = await lockPiece(call.tx, pieceId);
  decide(piece, { kind: "write" }, "student", call.now);
  const rows = await call.tx`
    update item
    set position = place.n
    from unnest(${[...ids]}::uuid[]) with ordinality place(id, n)
    where item.id = place.id and item.piece_id = ${pieceId} and item.removed_at is null
    returning item.id`;
  return { ordered: rows.length };
}
