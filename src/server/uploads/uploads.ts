import sharp from "sharp";
import { cleanFileName, withEnding } from "@/core/items/kinds";
import { NotFound } from "@/core/refusals";
import { isPictureShown } from "../access/shown";
import type { UploadView } from "@/core/views/handOutViews";
import { requireKind } from "../access/standing";
import { storeBlob } from "../blobs/blobs";
import type { Call, Person, ReadCall } from "../call";
import { HttpProblem } from "../problem";
import { Turns } from "../programs/turns";

export const UPLOAD_LIMIT = 25_000_000;
const MOST_PIXELS = 60_000_000;
const LONGEST_SIDE = 2400;

/**
 * Keeps a file of a teacher's. A picture is made anew (at most 2,400 px, upright, without its place and
 * camera); anything else is kept as it came, under a name without a path, and is only ever given out as
 * a download.
 */
export async function addUpload(call: Call, kept: KeptFile): Promise<UploadView> {
  requireKind(call.who, "teacher");
  return storeUpload(call, kept);
}

/** A file as it is to be kept: pictures made anew, anything else as it came. */
export type KeptFile = { name: string; bytes: Buffer; mediaType: string };

/** Looks into a file of a teacher's; the first half of `addUpload`, before its transaction. */
export function lookAtUpload(call: ReadCall, given: GivenFile): Promise<KeptFile> {
  requireKind(call.who, "teacher");
  return lookAtFile(call.who, given);
}

type GivenFile = { name: string; bytes: Buffer };
const LOOKING = new Turns(2, 20);

/** Looks into a file of someone of whom it is known that they may send it. @throws HttpProblem 422 when it is empty */
export async function lookAtFile(who: Person, { name, bytes }: GivenFile): Promise<KeptFile> {
  if (bytes.length === 0) throw new HttpProblem(422, "This file is empty.", "Nothing was changed.");
  const picture = await LOOKING.take(who.id, () => asPicture(bytes));
  const clean = cleanFileName(name);
  return picture
    ? { ...picture, name: withEnding(clean, ".webp") }
    : { name: clean, bytes, mediaType: "application/octet-stream" };
}

export async function storeUpload(
  { tx, who, now, newId }: Call,
  { name, bytes, mediaType }: KeptFile,
): Promise<UploadView> {
  const id = newId();
  const sha256 = await storeBlob(tx, bytes, mediaType, now);
  await tx`
    insert into upload (id, owner_id, sha256, name, media_type, size, created_at)
    values (${id}, ${who.id}, ${sha256}, ${name}, ${mediaType}, ${bytes.length}, ${now})`;
  return { id, name, mediaType, size: bytes.length };
}

async function asPicture(bytes: Buffer): Promise<{ bytes: Buffer; mediaType: string } | null> {
  try {
    const image = sharp(bytes, { limitInputPixels: MOST_PIXELS, failOn: "error" });
    const { format } = await image.metadata();
    if (format !== "jpeg" && format !== "png" && format !== "webp" && format !== "gif") return null;
    const made = await image
      .rotate()
      .resize(LONGEST_SIDE, LONGEST_SIDE, { fit: "inside", withoutEnlargement: true })
      .webp({ quality: 86 })
      .toBuffer();
    return { bytes: made, mediaType: "image/webp" };
  } catch {
    return null;
  }
}

type Stored = { sha256: Buffer; name: string; mediaType: string; size: number };

/**
 * A file for someone who may have it: its owner; a teacher of a section that has it; a student to whom
 * an assignment that shows it was handed out and has opened (in their version of it); the teacher of a
 * student whose own copy it is.
 */
export async function readUpload(call: ReadCall, uploadId: string): Promise<Stored> {
  const { db } = call;
  const [found] = await db<
    Stored[]
  >`select sha256, name, media_type, size from upload where id = ${uploadId} and ${maySee(call)}`;
  if (!found) throw new NotFound();
  return { ...found, size: Number(found.size) };
}

/** Indexes: material_upload, assignment_picture_upload, assignment's and piece's keys. */
function maySee(call: ReadCall) {
  const { db, who, now } = call;
  return db`(
    upload.owner_id = ${who.id}
    or exists (
      -- It goes back with feedback: its section's teachers have it, and its student once it was handed back.
      select
      from feedback_file
      join piece on piece.id = feedback_file.piece_id
      join hand_out on hand_out.id = piece.hand_out_id
      where feedback_file.upload_id = upload.id
        and (
          exists (select from section_teacher where section_id = hand_out.section_id and person_id = ${who.id})
          or piece.student_id = ${who.id} and exists (
            select
            from hand_back
            where hand_back.piece_id = piece.id
              and hand_back.content->'files' @> jsonb_build_array(jsonb_build_object('id', upload.id))
              and not exists (select from hand_back_withdrawn where hand_back_id = hand_back.id)
          )
        )
    )
    or exists (
      -- It was sent in the thread of a piece: its student and its section's teachers have it.
      select
      from message_file
      join message on message.id = message_file.message_id
      join piece on piece.id = message.piece_id
      join hand_out on hand_out.id = piece.hand_out_id
      where message_file.upload_id = upload.id
        and (
          piece.student_id = ${who.id}
          or exists (select from section_teacher where section_id = hand_out.section_id and person_id = ${who.id})
        )
    )
    or exists (
      select
      from private_note_file
      join private_note on private_note.id = private_note_file.note_id and private_note.deleted_at is null
      join section_teacher on section_teacher.section_id = private_note.section_id
      where private_note_file.upload_id = upload.id and section_teacher.person_id = ${who.id}
    )
    or exists (
      select
      from (
        select assignment_id, version_id from material where upload_id = upload.id
        union all
        select assignment_id, version_id from assignment_picture where upload_id = upload.id
      ) shown
      join hand_out on hand_out.assignment_id = shown.assignment_id
      where exists (select from section_teacher where section_id = hand_out.section_id and person_id = ${who.id})
        or (hand_out.opens_at <= ${now} and hand_out.withdrawn_at is null and exists (
          select
          from piece
          where piece.hand_out_id = hand_out.id and piece.student_id = ${who.id} and piece.removed_at is null and (shown.version_id is null or shown.version_id = piece.version_id)
        ))
    )
    or exists (
      select
      from piece_copy
      join piece on piece.id = piece_copy.piece_id
      join hand_out on hand_out.id = piece.hand_out_id
      join section_teacher on section_teacher.section_id = hand_out.section_id and section_teacher.person_id = ${who.id}
      where piece_copy.upload_id = upload.id
    )
    or exists (
      select
      from piece_picture
      join piece on piece.id = piece_picture.piece_id
      join hand_out on hand_out.id = piece.hand_out_id
      join section_teacher on section_teacher.section_id = hand_out.section_id and section_teacher.person_id = ${who.id}
      where piece_picture.upload_id = upload.id
    )
    or ${isPictureShown(call)}
  )`;
}

/** Whether all of these may be given on by a teacher: their own, or shown in something they teach. */
export async function mayUseUploads(
  { tx, who, now }: Call,
  ids: readonly string[],
): Promise<boolean> {
  const unique = [...new Set(ids)];
  const [own] = await tx<
    { n: number }[]
  >`select count(*)::int as n from upload where id = any(${unique}) and ${maySee({ db: tx, who, now })}`;
  return own!.n === unique.length;
}
