import { uuidv7 } from "uuidv7";
import { TYPED_MINUTES, type Shows } from "@/core/ledger/shows";
import { Invalid, NotFound, Refused } from "@/core/refusals";
import { wallToInstant } from "@/core/time/zone";
import { requireOnHandOut, requireOnPiece } from "../access/standing";
import type { Call } from "../call";
import type { Db, Sql } from "../db/connection";
import { isUntold, joinDrafts } from "../grades/drafts";
import { sendBack } from "../handingBack/handBack";
import { readPerson } from "../handingBack/readPerson";
import { recordEvent } from "../life/queries";
import { log } from "../log";

/**
 * Says when students see the scores of a column for work off the screen. What they have seen stays seen.
 *
 * @param on the day from which on, at the school; asked for `date` alone
 * @throws Refused for work that is handed in: it goes back with its feedback
 */
export async function setShows(
  call: Call,
  handOutId: string,
  { shows, on }: { shows: Shows; on: string | null },
): Promise<{ shows: Shows }> {
  const { tx, who } = call;
  await requireOnHandOut(tx, who, handOutId, "feedback.handBack");
  if (shows === "date" && on === null) throw new Invalid({ on: "Say from which day on." });
  const from = shows === "date" ? wallToInstant(`${on}T00:00`, who.zone).at : null;
  const changed = await tx`
    update hand_out
    set shows = ${shows}, shows_from = ${from}, shows_by = ${who.id}
    from assignment
    where hand_out.id = ${handOutId} and assignment.id = hand_out.assignment_id
      and assignment.expects = 'nothing'
    returning hand_out.id`;
  if (changed.length === 0)
    throw new Refused("This work is handed in: its scores go back with the feedback.");
  await recordEvent(call, {
    ...{ handOutId, pieceId: null, kind: "said when scores are seen" },
    detail: { shows, on: shows === "date" ? on : null },
  });
  return { shows };
}

/** So many in one turn of the clock; each goes in a transaction of its own. */
const AT_ONCE = 200;

type Standing = { pieceId: string; showsBy: string };

/**
 * Hands back what stands typed in columns that show by themselves, in the name of who said so, as long as they may. A
 * score that was changed within the last minutes waits, and so does what an act of handing back has taken up.
 *
 * @returns how many went
 */
export async function showWhatStands(sql: Sql, now: Date): Promise<number> {
  let went = 0;
  for (const { pieceId, showsBy } of await findStanding(sql, now)) {
    try {
      await sql.begin(async (tx) => {
        const who = await readPerson(tx, showsBy);
        const call: Call = { tx, db: tx, who, now, newId: uuidv7 };
        await requireOnPiece(call, pieceId, "feedback.handBack");
        await sendBack(call, pieceId, { outcome: "final", due: null, mustSay: true });
      });
      went += 1;
    } catch (error) {
      // One that cannot go, for whatever reason, keeps no other waiting.
      const foreseen = error instanceof Refused || error instanceof NotFound;
      const why = error instanceof Error ? error.message : "unknown";
      log[foreseen ? "info" : "error"]({ pieceId, why }, "a score that shows by itself stayed");
    }
  }
  return went;
}

/**
 * What a rule would keep back is not found, so that it takes nobody's turn; who is found first is who was typed first.
 * Indexes: hand_out_shows_by_itself, piece's of its hand-out, hand_back's of its piece.
 */
function findStanding(db: Db, now: Date): Promise<Standing[]> {
  const typedBy = new Date(now.getTime() - TYPED_MINUTES * 60_000);
  return db<Standing[]>`
    select standing.id as piece_id, hand_out.shows_by
    from hand_out
    join section_teacher on section_teacher.section_id = hand_out.section_id
      and section_teacher.person_id = hand_out.shows_by and section_teacher.may_hand_back
    join piece_standing standing on standing.hand_out_id = hand_out.id
    ${joinDrafts(db)}
    left join lateral (
      select hand_back.content->>'overall' as overall, hand_back.handed_back_at as at
      from hand_back
      where hand_back.piece_id = draft.piece_id and hand_back.round_number = draft.round_number
        and not exists (select from hand_back_withdrawn where hand_back_id = hand_back.id)
      order by hand_back.number desc
      limit 1
    ) last on true
    where hand_out.shows in ('typed', 'date') and coalesce(hand_out.shows_from, ${now}) <= ${now}
      and hand_out.withdrawn_at is null and hand_out.opens_at <= ${now} and not hand_out.anonymous
      and standing.state not in ('to_revise', 'reworking') and not standing.excused
      and draft.changed_at <= ${typedBy} and draft.changed_at > coalesce(last.at, '-infinity')
      and (draft.points is not null and ${isUntold(db)}
        or draft.overall <> '' and draft.overall <> coalesce(last.overall, ''))
      and not exists (
        select from hand_back_batch_piece where piece_id = standing.id and waits
      )
    order by draft.changed_at
    limit ${AT_ONCE}`;
}
