import { Invalid, NotFound } from "@/core/refusals";
import { sayTime } from "@/core/time/words";
import type { PrivateNote } from "@/core/views/deskViews";
import { requireOnPiece } from "../access/standing";
import type { Call, ReadCall } from "../call";

type Row = {
  id: string;
  pieceId: string | null;
  authorId: string;
  author: string;
  body: string;
  writtenAt: Date;
  files: { id: string; name: string }[];
};

/** Notes on this piece, and on its student in this section; for the section's teachers. Index: private_note_student. */
export async function readPrivateNotes(
  { db, who, now }: ReadCall,
  pieceId: string,
): Promise<PrivateNote[]> {
  const rows = await db<Row[]>`
    select private_note.id, private_note.piece_id, private_note.author_id, author.name as author, private_note.body, private_note.written_at,
      coalesce((
        select jsonb_agg(jsonb_build_object('id', upload.id, 'name', upload.name) order by upload.name)
        from private_note_file
        join upload on upload.id = private_note_file.upload_id
        where private_note_file.note_id = private_note.id
      ), '[]') as files
    from piece
    join hand_out on hand_out.id = piece.hand_out_id
    join private_note on private_note.section_id = hand_out.section_id and private_note.student_id = piece.student_id
      and (private_note.piece_id is null or private_note.piece_id = piece.id)
    join person author on author.id = private_note.author_id
    where piece.id = ${pieceId} and private_note.deleted_at is null
    order by private_note.written_at, private_note.id`;
  return rows.map((row) => ({
    id: row.id,
    about: row.pieceId ? "piece" : "student",
    by: row.author,
    mine: row.authorId === who.id,
    body: row.body,
    when: sayTime(row.writtenAt, now, who.zone),
    files: row.files.map((f) => ({ ...f, href: `/api/uploads/${f.id}` })),
  }));
}

export async function addPrivateNote(
  call: Call,
  pieceId: string,
  given: { about: "piece" | "student"; body: string; uploads: string[] },
): Promise<PrivateNote[]> {
  const { tx, who, now, newId } = call;
  await requireOnPiece(call, pieceId, "feedback.draft");
  const own =
    given.uploads.length === 0
      ? []
      : await tx<
          { id: string }[]
        >`select id from upload where owner_id = ${who.id} and id in ${tx(given.uploads)}`;
  if (own.length !== new Set(given.uploads).size)
    throw new Invalid({
      uploads: "A file of this note is not there any more. Choose it again; the note is kept here.",
    });
  const id = newId();
  await tx`
    insert into private_note (id, section_id, student_id, piece_id, author_id, body, written_at)
    select ${id}, hand_out.section_id, piece.student_id, ${given.about === "piece" ? tx`piece.id` : null}, ${who.id}, ${given.body}, ${now}
    from piece
    join hand_out on hand_out.id = piece.hand_out_id
    where piece.id = ${pieceId}`;
  for (const { id: uploadId } of own)
    await tx`insert into private_note_file (note_id, upload_id) values (${id}, ${uploadId})`;
  return readPrivateNotes(call, pieceId);
}

/** Takes one's own note away. */
export async function deletePrivateNote(
  call: Call,
  pieceId: string,
  noteId: string,
): Promise<PrivateNote[]> {
  await requireOnPiece(call, pieceId, "feedback.draft");
  const known = (await readPrivateNotes(call, pieceId)).find((n) => n.id === noteId && n.mine);
  if (!known) throw new NotFound();
  await call.tx`update private_note set deleted_at = ${call.now} where id = ${noteId}`;
  return readPrivateNotes(call, pieceId);
}
