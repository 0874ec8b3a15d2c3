import type { Here } from "@/core/views/deskViews";
import { requireOnPiece } from "../../access/standing";
import type { Call, ReadCall } from "../../call";
import type { Db } from "../../db/connection";

/** Someone is at a piece who was seen within this many seconds; the Desk says so about every ten. */
const LATELY = 25;
/** Between two signs of life no more than this counts as time spent: whoever went away did not read. */
const MOST_BETWEEN = 20;

/**
 * A sign of life from the Desk: notes that this teacher is at the piece, adds to the time they spent on it
 * (while they are `active`), and says who else is there and whether the draft has changed.
 */
export async function here(
  call: Call,
  pieceId: string,
  { active }: { active: boolean },
): Promise<Here> {
  const { tx, who, now } = call;
  await requireOnPiece(call, pieceId, "feedback.see");
  await tx`
    insert into at_desk (piece_id, person_id, seconds, seen_at)
    values (${pieceId}, ${who.id}, 0, ${now})
    on conflict (piece_id, person_id) do update
    set seconds = at_desk.seconds + case when ${active} and excluded.seen_at > at_desk.seen_at and excluded.seen_at - at_desk.seen_at <= make_interval(secs => ${MOST_BETWEEN})
          then extract(epoch from excluded.seen_at - at_desk.seen_at)::int else 0 end,
        seen_at = excluded.seen_at`;
  const others = await tx<{ name: string }[]>`
    select person.name
    from at_desk
    join person on person.id = at_desk.person_id
    where at_desk.piece_id = ${pieceId} and at_desk.person_id <> ${who.id} and at_desk.seen_at > ${new Date(now.getTime() - LATELY * 1000)}
    order by person.name`;
  return { others: others.map((o) => o.name), ...(await readStamp(tx, pieceId, who.id)) };
}

/** Changes whenever a draft, a mark or a ruling of the piece does (before the `/`), or a hand-in (after it); and who changed the draft last, if another. */
export async function readStamp(
  db: Db,
  pieceId: string,
  personId: string,
): Promise<{ stamp: string; lastBy: string | null }> {
  const [row] = await db<{ stamp: string; lastBy: string | null }[]>`
    select
      concat_ws('.',
        (select concat(sum(revision), '-', count(*)) from feedback where piece_id = piece.id),
        (select concat(sum(revision), '-', count(*)) from mark where piece_id = piece.id),
        (select count(*) from ruling where piece_id = piece.id),
        (select count(*) from hand_back where piece_id = piece.id),
        piece.flag) || '/' || (select count(*) from version where piece_id = piece.id) || piece.state as stamp,
      (
        select person.name
        from feedback
        join person on person.id = feedback.changed_by
        where feedback.piece_id = piece.id and feedback.changed_by <> ${personId}
        order by feedback.round_number desc
        limit 1
      ) as last_by
    from piece
    where piece.id = ${pieceId}`;
  return row!;
}

/** Seconds this teacher spent on each piece of a hand-out (or of all in the last month) that they left with a draft or handed back. */
export async function readSeconds(
  { db, who, now }: ReadCall,
  handOutId: string | null,
): Promise<number[]> {
  const rows = await db<{ seconds: number }[]>`
    select at_desk.seconds
    from at_desk
    join piece on piece.id = at_desk.piece_id
    where at_desk.person_id = ${who.id} and at_desk.seconds >= 5
      and ${handOutId ? db`piece.hand_out_id = ${handOutId}` : db`at_desk.seen_at > ${new Date(now.getTime() - 30 * 86_400_000)}`}
      and exists (select from feedback where piece_id = piece.id)
    order by at_desk.seen_at desc
    limit 200`;
  return rows.map((r) => r.seconds);
}
