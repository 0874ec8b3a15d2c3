import type { SentFile } from "@/core/threads/message";
import { sayTime } from "@/core/time/words";
import type { MessageView } from "@/core/views/views";
import type { ReadCall } from "../call";
import type { Db } from "../db/connection";

/** The files that went with a message, by name. Index: message_file's key. */
export const filesOf = (db: Db, message: ReturnType<Db>) => db`(
  select coalesce(jsonb_agg(jsonb_build_object('id', upload.id, 'name', upload.name, 'size', upload.size) order by upload.name, upload.id), '[]')
  from message_file
  join upload on upload.id = message_file.upload_id
  where ${message}.with_files and message_file.message_id = ${message}.id
)`;

/** The thread of a piece: what is about the whole, and what is about single marks. Index: message_piece. */
export async function readMessages(
  { db, who, now }: ReadCall,
  pieceId: string,
): Promise<{ whole: MessageView[]; byMark: Map<string, MessageView[]> }> {
  const rows = await db<
    {
      id: string;
      markId: string | null;
      checkpoint: number | null;
      authorId: string;
      author: string;
      body: string;
      clipId: string | null;
      sentAt: Date;
      files: SentFile[];
    }[]
  >`
    select message.id, message.mark_id, checkpoint.number as checkpoint, message.author_id, person.name as author, message.body, message.clip_id, message.sent_at,
      ${filesOf(db, db`message`)} as files
    from message
    join person on person.id = message.author_id
    left join checkpoint on checkpoint.id = message.checkpoint_id
    where message.piece_id = ${pieceId}
    order by message.sent_at, message.id`;
  const byMark = new Map<string, MessageView[]>();
  const whole: MessageView[] = [];
  for (const row of rows) {
    const view = {
      id: row.id,
      author: row.author,
      mine: row.authorId === who.id,
      body: row.body,
      clipId: row.clipId,
      files: row.files,
      checkpoint: row.checkpoint,
      when: sayTime(row.sentAt, now, who.zone),
    };
    if (row.markId === null) whole.push(view);
    else byMark.set(row.markId, [...(byMark.get(row.markId) ?? []), view]);
  }
  return { whole, byMark };
}
