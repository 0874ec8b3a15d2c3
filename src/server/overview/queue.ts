import { WORK_PILES } from "@/core/pieces/standing";
import type { DeskQueue, QueueItem } from "@/core/views/deskViews";
import { readSeconds } from "../marking/desk/here";
import { isHandedBack, isHidden, readNumbers, shownName } from "../names/names";
import type { ReadCall } from "../call";
import { requireKind, requireOnHandOut } from "../access/standing";
import { moonOf, type StandingRow } from "../life/standings";
import type { Db } from "../db/connection";

export const QUEUE_PILES = ["waiting", "questions", "all", ...WORK_PILES] as const;
export type QueuePile = (typeof QUEUE_PILES)[number];

/**
 * The pieces of the Desk's queue, rework first, then in the order of their coming in: of one hand-out
 * or of all, and of one pile ("waiting": all that is in and not handed back).
 */
export async function queueView(
  call: ReadCall,
  filter: { handOutId: string | null; pile: QueuePile },
): Promise<QueueItem[]> {
  const { db, who, now } = call;
  requireKind(who, "teacher");
  if (filter.handOutId) await requireOnHandOut(db, who, filter.handOutId, "feedback.see");
  const rows = await db<
    (StandingRow & {
      student: string;
      sortName: string;
      handOut: string;
      section: string;
      anonymous: boolean;
      handedBack: boolean;
    })[]
  >`
    select standing.*, shown_name(student) as student, student.sort_name, hand_out.anonymous,
      ${isHandedBack(db, db`standing.id`)} as handed_back,
      standing.title as hand_out, section.name as section
    from section_teacher
    join section on section.id = section_teacher.section_id
    join hand_out on hand_out.section_id = section.id and hand_out.opens_at <= ${now} and hand_out.withdrawn_at is null
      ${filter.handOutId ? db`` : db`and hand_out.put_away_at is null`}
    cross join lateral (
      select * from piece_standing where piece_standing.hand_out_id = hand_out.id offset 0
    ) standing
    join person student on student.id = standing.student_id
    where section_teacher.person_id = ${who.id}
      ${filter.handOutId ? db`and hand_out.id = ${filter.handOutId}` : db``}
      and ${inPile(db, filter.pile)}
    order by
      ${filter.pile === "all" ? db`student.sort_name,` : db`standing.round > 1 and standing.state = 'handed_in' desc, standing.handed_in_at nulls last,`}
      student.sort_name, standing.id
    limit 400`;
  const numbers = new Map<string, number>();
  for (const handOutId of new Set(rows.filter((r) => r.anonymous).map((r) => r.handOutId)))
    for (const [id, number] of await readNumbers(db, handOutId)) numbers.set(id, number);
  const items = rows.map((row) => {
    const number = numbers.get(row.id) ?? 0;
    const naming = { anonymous: row.anonymous, handedBack: row.handedBack, number };
    const hidden = isHidden(naming);
    return {
      pieceId: row.id,
      student: shownName(row.student, naming),
      studentId: hidden ? null : row.studentId,
      sortName: hidden ? `~${String(number).padStart(4, "0")}` : row.sortName,
      handOut: row.handOut,
      handOutId: row.handOutId,
      section: row.section,
      moon: moonOf(row, now),
      drafted: row.drafted,
      handedInAt: hidden ? null : (row.handedInAt?.toISOString() ?? null),
    };
  });
  // The order of coming in, or of the alphabet, would tell who is who: hidden pieces stand by their numbers.
  if (numbers.size > 0)
    items.sort((a, b) =>
      a.sortName.startsWith("~") && b.sortName.startsWith("~")
        ? a.sortName.localeCompare(b.sortName)
        : 0,
    );
  return items;
}

/** The queue with what this teacher's pace is worked out from. */
export async function deskQueue(
  call: ReadCall,
  filter: { handOutId: string | null; pile: QueuePile },
): Promise<DeskQueue> {
  return {
    items: await queueView(call, filter),
    seconds: await readSeconds(call, filter.handOutId),
  };
}

function inPile(db: Db, pile: QueuePile) {
  switch (pile) {
    case "waiting":
      return db`(standing.state = 'handed_in')`;
    case "questions":
      return db`standing.asked`;
    case "all":
      return db`true`;
    default:
      return db`standing.pile = ${pile}`;
  }
}
