import type { LookReaders } from "@/core/looks/shown";
import type { Db } from "../db/connection";

/** How classmates may be asked for a look at the work of one hand-out. */
export type Rule = {
  handOutId: string;
  readers: LookReaders;
  named: boolean;
  readFirst: boolean;
  endsAt: Date;
  endedAt: Date | null;
};

/** The rule of a hand-out, by itself or by one of its pieces. */
export async function findRule(
  db: Db,
  of: { handOutId: string } | { pieceId: string },
  lock = false,
): Promise<Rule | undefined> {
  const handOut =
    "handOutId" in of
      ? db`${of.handOutId}`
      : db`(select hand_out_id from piece where id = ${of.pieceId})`;
  const [row] = await db<Rule[]>`
    select hand_out_id, readers, named, read_first, ends_at, ended_at
    from look_rule
    where hand_out_id = ${handOut}
    ${lock ? db`for update` : db``}`;
  return row;
}

/** Classmates who can be asked: of the class, or of a group that both are in; with how many looks each has to read. */
export function readMayBeAsked(
  db: Db,
  { handOutId, whoId, readers }: { handOutId: string; whoId: string; readers: LookReaders },
) {
  return db<{ studentId: string; name: string; load: number }[]>`
    select piece.student_id, shown_name(person) as name,
      (select count(*)::int from look join piece theirs on theirs.id = look.piece_id where theirs.hand_out_id = ${handOutId} and look.reader_id = piece.student_id and look.done_at is null and look.closed_at is null) as load
    from piece
    join person on person.id = piece.student_id
    join hand_out on hand_out.id = piece.hand_out_id
    where piece.hand_out_id = ${handOutId} and piece.student_id <> ${whoId} and piece.removed_at is null and piece.left_at is null
      and (${readers !== "group"} or exists (
        select
        from section_group
        join group_member mine on mine.group_id = section_group.id and mine.student_id = ${whoId}
        join group_member theirs on theirs.group_id = section_group.id and theirs.student_id = piece.student_id
        where section_group.section_id = hand_out.section_id
      ))
    order by person.sort_name, person.id`;
}
