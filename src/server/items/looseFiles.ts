import type { Sql } from "../db/connection";

const DAY = 86_400_000;
/** So long a file that was taken out can be put back. */
const TAKEN_OUT_DAYS = 2;
/** A file sent for a task that was never handed out, and what is stored without anything that names it. */
const LOOSE_DAYS = 14;
/** Of each kind so many an hour: nothing is held up by a large cleaning. */
const MOST = 500;

/**
 * Takes away what nothing holds any more: files that a student took out of unfinished work, files of tasks that
 * came to nothing, and the stored bytes that only they had. What was handed in, shown or handed out stays for
 * good: its versions, checkpoints and tasks name it, and the database refuses to let it go.
 *
 * @returns how many stored files went
 */
export async function dropLooseFiles(sql: Sql, now: Date): Promise<number> {
  const ago = (days: number) => new Date(now.getTime() - days * DAY);
  await sql`
    delete from item
    where id in (
      select id from item
      where removed_at < ${ago(TAKEN_OUT_DAYS)}
        and not exists (select from version_item where item_id = item.id)
        and not exists (select from checkpoint_item where item_id = item.id)
        -- The photo as it was taken stays with the page that was made from it.
        and not exists (select from item made where made.made_from = item.id)
      limit ${MOST}
    )`;
  await sql`
    delete from upload
    where id in (
      select id from upload
      where created_at < ${ago(LOOSE_DAYS)}
        and not exists (select from material where upload_id = upload.id)
        and not exists (select from assignment_picture where upload_id = upload.id)
        and not exists (select from piece_copy where upload_id = upload.id)
        and not exists (select from piece_picture where upload_id = upload.id)
        and not exists (select from private_note_file where upload_id = upload.id)
        and not exists (select from message_file where upload_id = upload.id)
        and not exists (select from feedback_file where upload_id = upload.id)
        and not exists (
          select from hand_out_draft draft
          where draft.owner_id = upload.owner_id and draft.plan::text like '%' || upload.id || '%'
        )
      limit ${MOST}
    )`;
  await sql`
    delete from rendition
    where changed_at < ${ago(LOOSE_DAYS)}
      and not exists (select from item where item.sha256 = rendition.source)`;
  return dropBlobs(sql, ago(LOOSE_DAYS));
}

async function dropBlobs(sql: Sql, before: Date): Promise<number> {
  const loose = await sql<{ sha256: Buffer }[]>`
    select sha256 from blob
    where created_at < ${before}
      and not exists (select from item where item.sha256 = blob.sha256)
      and not exists (select from upload where upload.sha256 = blob.sha256)
      and not exists (select from rendition where rendition.source = blob.sha256 or rendition.made = blob.sha256)
      and not exists (select from roster_run where roster_run.sha256 = blob.sha256)
    limit ${MOST}`;
  let gone = 0;
  for (const { sha256 } of loose) {
    // Each by itself: one that was named again just now is refused by its foreign key, and stays.
    const dropped = await sql
      .begin(async (tx) => {
        await tx`delete from blob_chunk where sha256 = ${sha256}`;
        await tx`delete from blob where sha256 = ${sha256}`;
        return 1;
      })
      .catch(() => 0);
    gone += dropped;
  }
  return gone;
}
