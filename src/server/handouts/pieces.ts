import { isMeant, owes, type Member } from "@/core/handouts/audience";
import { dueThroughGroups, type ExtraTime } from "@/core/handouts/extraTime";
import { dayOf } from "@/core/time/zone";
import { readCalendar } from "../calendar/calendar";
import type { Call } from "../call";
import type { Db } from "../db/connection";
import { recordEvent } from "../life/queries";

export type SectionMember = Member & { name: string };

/** Everyone who is or was in a section, with the groups they are in there. Indexes: enrolment's key, group_member_student. */
export async function readMembers(db: Db, sectionId: string): Promise<SectionMember[]> {
  return db<SectionMember[]>`
    select
      enrolment.student_id, shown_name(person) as name, enrolment.joined_on, enrolment.left_on,
      coalesce((
        select array_agg(member.group_id::text order by member.group_id)
        from group_member member
        join section_group on section_group.id = member.group_id
        where member.student_id = enrolment.student_id and section_group.section_id = ${sectionId}
      ), '{}') as groups
    from enrolment
    join person on person.id = enrolment.student_id
    where enrolment.section_id = ${sectionId}
    order by person.sort_name, person.id`;
}

type HandOutRow = { id: string; dueAt: Date; audience: "section" | "chosen"; groups: string[] };
type LedgerPiece = {
  id: string;
  handOutId: string;
  studentId: string;
  ownDueAt: Date | null;
  ownDueFrom: "teacher" | "group" | null;
  removedAt: Date | null;
  leftAt: Date | null;
};

/**
 * Brings the pieces of a section's hand-outs into line with who is in it and in its groups now: those
 * who joined get what they owe, those who left owe nothing more, and the extra time of groups is
 * applied where a teacher has not set a due time. Nothing is taken away that was begun.
 *
 * Run after every change of roster, groups or due times; running it again changes nothing.
 *
 * @param only one hand-out of the section; all that are not withdrawn, when left out
 */
export async function syncPieces(call: Call, sectionId: string, only?: string): Promise<void> {
  const { tx, who, now } = call;
  const [members, handOuts, { calendar }, extras] = await Promise.all([
    readMembers(tx, sectionId),
    readHandOuts(tx, sectionId, only),
    readCalendar(tx, who.schoolId),
    readExtras(tx, sectionId),
  ]);
  if (handOuts.length === 0) return;
  const pieces = await tx<LedgerPiece[]>`
    select id, hand_out_id, student_id, own_due_at, own_due_from, removed_at, left_at
    from piece
    where hand_out_id = any(${handOuts.map((h) => h.id)})`;
  const found = new Map(pieces.map((p) => [`${p.handOutId} ${p.studentId}`, p]));
  const today = dayOf(now, who.zone);
  const fresh: {
    id: string;
    handOutId: string;
    studentId: string;
    ownDueAt: Date | null;
    ownDueFrom: "group" | null;
  }[] = [];
  for (const handOut of handOuts) {
    const dueDay = dayOf(handOut.dueAt, who.zone);
    for (const member of members) {
      const piece = found.get(`${handOut.id} ${member.studentId}`);
      const extra = dueThroughGroups(
        handOut.dueAt,
        member.groups.flatMap((id) => extras.get(id) ?? []),
        calendar,
        who.zone,
      );
      const owed = owes(member, today, dueDay);
      if (!piece && isNew(handOut, member, owed))
        fresh.push({
          id: call.newId(),
          handOutId: handOut.id,
          studentId: member.studentId,
          ownDueAt: extra,
          ownDueFrom: extra ? "group" : null,
        });
      if (piece) await alignPiece(call, piece, { left: hasLeft(member, today, dueDay), extra });
    }
  }
  if (fresh.length === 0) return;
  // Two changes of one section at once can both find a student without a piece; the first makes it.
  await tx`
    insert into piece ${tx(fresh, "id", "handOutId", "studentId", "ownDueAt", "ownDueFrom")}
    on conflict (hand_out_id, student_id) do nothing`;
}

/** Who has left by now owes what is due from that day on no more. */
const hasLeft = ({ leftOn }: Member, today: string, dueDay: string): boolean =>
  leftOn !== null && leftOn <= today && leftOn <= dueDay;

/** Who is given a piece that is not there yet: meant by the hand-out, and still owing it. */
const isNew = (handOut: HandOutRow, member: Member, owed: boolean): boolean =>
  owed &&
  (handOut.audience === "section" ||
    isMeant({ kind: "chosen", groups: handOut.groups, students: [] }, member));

async function alignPiece(
  call: Call,
  piece: LedgerPiece,
  { left, extra }: { left: boolean; extra: Date | null },
): Promise<void> {
  const { tx, now } = call;
  if (left !== (piece.leftAt !== null)) {
    await tx`update piece set left_at = ${left ? now : null} where id = ${piece.id}`;
    await recordEvent(call, {
      handOutId: piece.handOutId,
      pieceId: piece.id,
      kind: left ? "left the section: owes nothing more" : "back in the section",
      detail: {},
    });
  }
  const follows = piece.ownDueFrom !== "teacher";
  if (follows && piece.ownDueAt?.getTime() !== extra?.getTime()) {
    await tx`update piece set own_due_at = ${extra}, own_due_from = ${extra ? "group" : null} where id = ${piece.id}`;
  }
}

function readHandOuts(db: Db, sectionId: string, only: string | undefined): Promise<HandOutRow[]> {
  return db<HandOutRow[]>`
    select
      hand_out.id, hand_out.due_at, hand_out.audience,
      coalesce((select array_agg(group_id::text) from hand_out_group where hand_out_id = hand_out.id), '{}') as groups
    from hand_out
    where hand_out.section_id = ${sectionId}
      and hand_out.withdrawn_at is null
      ${only ? db`and hand_out.id = ${only}` : db``}
    order by hand_out.due_at, hand_out.id`;
}

async function readExtras(db: Db, sectionId: string): Promise<Map<string, ExtraTime[]>> {
  const rows = await db<{ id: string; extraAmount: number; extraUnit: ExtraTime["unit"] }[]>`
    select id, extra_amount, extra_unit
    from section_group
    where section_id = ${sectionId} and extra_amount is not null`;
  return new Map(rows.map((row) => [row.id, [{ amount: row.extraAmount, unit: row.extraUnit }]]));
}
