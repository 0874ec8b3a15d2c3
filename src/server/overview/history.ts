import { sayTime } from "@/core/time/words";
import type { ReadCall } from "../call";
import { hiddenNow } from "../names/names";

/** The newest lines of the record, in words. Index: event_hand_out. */
export async function readHistory({ db, who, now }: ReadCall, handOutId: string) {
  const rows = await db<
    { at: Date; actor: string; kind: string; student: string | null; words: string[] | null }[]
  >`
    select event.at,
      case when actor.id = piece.student_id and ${hiddenNow(db, db`piece.id`)} then 'a student' else actor.name end as actor, event.kind, case when piece.id is not null and ${hiddenNow(db, db`piece.id`)} then 'a student' else student.name end as student, event.detail -> 'words' as words
    from event
    join person actor on actor.id = event.actor_id
    left join piece on piece.id = event.piece_id
    left join person student on student.id = piece.student_id
    join hand_out on hand_out.id = event.hand_out_id
    where event.hand_out_id = ${handOutId}
    order by event.id desc
    limit 40`;
  return rows.map((row) => ({
    when: sayTime(row.at, now, who.zone),
    who: row.actor,
    what: [
      row.student && row.student !== row.actor ? `${row.kind} (${row.student})` : row.kind,
      ...(row.words ?? []),
    ].join(" · "),
  }));
}
