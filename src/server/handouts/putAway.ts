import { Refused } from "@/core/refusals";
import { requireOnHandOut } from "../access/standing";
import type { Call } from "../call";
import type { Sql } from "../db/connection";
import { recordEvent } from "../life/queries";

/** So many in one go; the next turn of the clock goes on. */
const AT_ONCE = 200;

/**
 * Files work away that is over: nothing of it waits for its teacher, and the last thing that could or did happen (a due
 * or closing time, a round's, a student's own, a hand-in, a hand-back, a word) is as many days ago as it says. What
 * happens to it later brings it back by itself (a trigger, see the migration).
 *
 * @returns how many were put away. Indexes: hand_out_on_lists, piece_hand_out and those of what hangs on a piece.
 */
export async function putAwayWhatIsOver(sql: Sql, now: Date): Promise<number> {
  const { count } = await sql`
    update hand_out
    set put_away_at = ${now}
    from (
      select hand_out.id
      from hand_out
      cross join lateral (
        select
          bool_or(piece.state = 'handed_in' or (piece.state in ('not_opened', 'started') and exists (
            select from feedback where feedback.piece_id = piece.id and feedback.round_number = piece.round
          ))) as waits,
          max(greatest(
            piece.own_due_at,
            (select max(due_at) from round where round.piece_id = piece.id),
            (select max(handed_in_at) from version where version.piece_id = piece.id),
            (select max(handed_back_at) from hand_back where hand_back.piece_id = piece.id),
            (select max(sent_at) from message where message.piece_id = piece.id)
          )) as last
        from piece
        where piece.hand_out_id = hand_out.id and piece.removed_at is null
      ) pieces
      where hand_out.put_away_at is null and hand_out.withdrawn_at is null and hand_out.archive_days is not null
        and hand_out.due_at + make_interval(days => hand_out.archive_days) < ${now}
        and pieces.waits is not true
        and greatest(hand_out.due_at, hand_out.closes_at, hand_out.opens_at, hand_out.kept_since, pieces.last)
          + make_interval(days => hand_out.archive_days) < ${now}
      order by hand_out.due_at
      limit ${AT_ONCE}
      for update of hand_out skip locked
    ) over_now
    where hand_out.id = over_now.id`;
  return count;
}

/** Puts a hand-out away by hand, or brings it back: its days are then counted anew. */
export async function putAway(
  call: Call,
  handOutId: string,
  away: boolean,
): Promise<{ away: boolean }> {
  const { tx, who, now } = call;
  await requireOnHandOut(tx, who, handOutId, "section.handOut");
  if (away) await requireNothingWaits(call, handOutId);
  const changed = await tx`
    update hand_out
    set put_away_at = ${away ? now : null}, kept_since = ${away ? null : now}
    where id = ${handOutId} and (put_away_at is null) = ${away}
    returning id`;
  if (changed.length > 0)
    await recordEvent(call, {
      handOutId,
      pieceId: null,
      kind: away ? "put away" : "brought back to the lists",
      detail: {},
    });
  return { away };
}

/** Put away, handed-in pieces would be on no list that anybody reads. */
async function requireNothingWaits({ tx }: Call, handOutId: string): Promise<void> {
  const [waiting] = await tx<{ n: number }[]>`
    select count(*)::int as n
    from piece
    where hand_out_id = ${handOutId} and removed_at is null and state = 'handed_in'`;
  if (waiting!.n > 0)
    throw new Refused(
      `${waiting!.n === 1 ? "One piece is" : `${waiting!.n} pieces are`} handed in and not handed back. Hand back first; nothing that waits is put away.`,
    );
}
