import { Server } from "@tus/server";
import { refusesSize, type Limits, type Used } from "@/core/items/kinds";
import { holdsFiles, type Part } from "@/core/handouts/parts";
import { NotFound, Refused } from "@/core/refusals";
import { requireOnPiece } from "../access/standing";
import type { Call, Person, ReadCall } from "../call";
import { database, type Db } from "../db/connection";
import { decide } from "../life/decide";
import { requireRoomForJobs } from "../jobs/jobs";
import { lockPiece } from "../life/queries";
import { now } from "../settings";
import { TransferStore } from "./store";

export type Begun = { pieceId: string; partId: string; name: string; size: number };

/**
 * Opens an upload of a student's file, before its first byte: the piece is theirs and open, the part is asked for,
 * and there is room. The id is the maker's, so that asking twice opens one.
 */
export async function beginTransfer(
  call: Call,
  id: string,
  { pieceId, partId, name, size }: Begun,
): Promise<void> {
  const { tx, who, now: at } = call;
  await requireOnPiece(call, pieceId, "piece.write");
  const piece = await lockPiece(tx, pieceId);
  decide(piece, { kind: "write" }, "student", at);
  await partOf(tx, pieceId, partId);
  await requireRoomForJobs(tx, who.id);
  await requireRoom(call, pieceId, size);
  await tx`
    insert into transfer (id, owner_id, piece_id, part_id, name, size, created_at, changed_at)
    values (${id}, ${who.id}, ${pieceId}, ${partId}, ${name}, ${size}, ${at}, ${at})
    on conflict (id) do nothing`;
  // An id belongs to who began it, for what it was begun: for anyone else, and anything else, there is none.
  const [mine] = await tx`
    select id
    from transfer
    where id = ${id} and owner_id = ${who.id} and piece_id = ${pieceId} and part_id = ${partId} and size = ${size} and item_id is null`;
  if (!mine) throw new NotFound();
}

/** A part of the assignment of this piece that takes files, or has them in its text. */
export async function partOf(db: Db, pieceId: string, partId: string): Promise<Part> {
  const [row] = await db<{ parts: Part[] }[]>`
    select assignment.parts
    from piece
    join hand_out on hand_out.id = piece.hand_out_id
    join assignment on assignment.id = hand_out.assignment_id
    where piece.id = ${pieceId}`;
  const part = row?.parts.find((p) => p.id === partId && holdsFiles(p.kind));
  if (!part) throw new NotFound();
  return part;
}

export async function readLimits(db: Db, who: Person): Promise<Limits> {
  const [row] = await db<
    {
      fileMegabytes: number;
      pieceMegabytes: number;
      studentMegabytes: number;
      recordingMinutes: number;
    }[]
  >`
    select file_megabytes, piece_megabytes, student_megabytes, recording_minutes from school where id = ${who.schoolId}`;
  const { fileMegabytes, pieceMegabytes, studentMegabytes, recordingMinutes } = row!;
  return {
    file: fileMegabytes * 1e6,
    piece: pieceMegabytes * 1e6,
    student: studentMegabytes * 1e6,
    recordingMinutes,
  };
}

/**
 * All that is kept of a student's files: in the work, taken out (until they go), handed in, copies, pictures, and what
 * is on its way. What was handed in and has been replaced does not count for the piece: it stays for good, and a
 * second round must have as much room as the first. Indexes: piece_student, item_piece, upload_owner, transfer_piece.
 */
export async function readUsed(db: Db, who: Person, pieceId: string): Promise<Used> {
  const [row] = await db<{ piece: number; student: number }[]>`
    with taken as (
      select
        case when item.removed_at is null or not exists (select from version_item where item_id = item.id) then item.piece_id end as piece_id,
        item.size
      from item
      -- The student's pieces first: the planner would otherwise walk over those of the whole school.
      where item.piece_id = any(array(select id from piece where student_id = ${who.id}))
      union all
      select coalesce(piece_copy.piece_id, piece_picture.piece_id), upload.size
      from upload
      left join piece_copy on piece_copy.upload_id = upload.id
      left join piece_picture on piece_picture.upload_id = upload.id
      where upload.owner_id = ${who.id}
      union all
      select piece_id, size from transfer where owner_id = ${who.id} and item_id is null
    )
    select coalesce(sum(size) filter (where piece_id = ${pieceId}), 0)::bigint as piece, coalesce(sum(size), 0)::bigint as student
    from taken`;
  return { piece: Number(row!.piece), student: Number(row!.student) };
}

/** @throws Refused when the student has no room for so many bytes more in this piece */
export async function requireRoom(
  { db, who }: ReadCall,
  pieceId: string,
  size: number,
): Promise<void> {
  const refused = refusesSize(await readLimits(db, who), await readUsed(db, who, pieceId), size);
  if (refused) throw new Refused(refused);
}

/** Only its owner knows of an upload. */
export async function requireOwnTransfer(db: Db, who: Person, id: string): Promise<void> {
  const [row] = await db`select id from transfer where id = ${id} and owner_id = ${who.id}`;
  if (!row) throw new NotFound();
}

/** The tus protocol itself, by its usual package; who may is decided before it is asked. */
export function tus(id: string | null): Server {
  return new Server({
    path: "/api/transfers",
    datastore: new TransferStore(database(), now),
    relativeLocation: true,
    namingFunction: () => id ?? "",
    getFileIdFromRequest: () => id ?? undefined,
    // The store itself lets only one of two writers on; nothing is to be held between requests.
    locker: { newLock: () => ({ lock: () => Promise.resolve(), unlock: () => Promise.resolve() }) },
  });
}

/** Uploads that were given up: nothing came for so long. */
export async function dropOldTransfers(db: Db, at: Date, days = 14): Promise<void> {
  await db`delete from transfer where item_id is null and changed_at < ${new Date(at.getTime() - days * 86_400_000)}`;
}
