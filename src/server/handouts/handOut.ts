import { Invalid } from "@/core/refusals";
import { checkDates } from "@/core/handouts/checkDates";
import { readRichDoc } from "@/core/text/richDoc";
import { dayOf, wallToInstant } from "@/core/time/zone";
import { requireOnSection } from "../access/standing";
import type { Call } from "../call";
import { recordEvent } from "../pieces/queries";

export type GivenHandOut = {
  title: string;
  instructions: unknown;
  expects: "writing" | "nothing";
  /** Decimal text, or empty for work in words only. */
  points: string;
  /** Wall-clock times in the school's zone. */
  opens: string | null;
  due: string;
  closes: string | null;
  promised: string | null;
  graceMinutes: number;
  mayTakeBack: boolean;
};

/** Hands an assignment out to a section: the assignment, the hand-out, and one piece for each student now on the roster. */
export async function handOut(call: Call, sectionId: string, given: GivenHandOut): Promise<{ handOutId: string }> {
  const { tx, who, now, newId } = call;
  await requireOnSection(tx, who, sectionId, "section.handOut");
  const instant = (wall: string | null) => (wall ? wallToInstant(wall, who.zone).at : null);
  const dates = { opensAt: instant(given.opens) ?? now, dueAt: instant(given.due)!, closesAt: instant(given.closes), promisedAt: instant(given.promised) };
  const faults = checkDates(dates, now);
  if (Object.keys(faults).length > 0) throw new Invalid(faults);
  const points = given.points === "" ? null : given.points.replace(",", ".");
  if (points !== null && Number(points) === 0) throw new Invalid({ points: "Points are more than 0; leave the field empty for work in words only." });
  const assignmentId = newId();
  const handOutId = newId();
  await tx`
    insert into assignment (id, course_id, title, instructions, expects, points_possible, may_take_back, created_by, created_at)
    select ${assignmentId}, course_id, ${given.title}, ${tx.json(readRichDoc(given.instructions) as never)}, ${given.expects}, ${points}, ${given.mayTakeBack}, ${who.id}, ${now}
    from section
    where id = ${sectionId}`;
  await tx`
    insert into hand_out (id, assignment_id, section_id, opens_at, due_at, closes_at, promised_at, grace_minutes, created_by, created_at)
    values (${handOutId}, ${assignmentId}, ${sectionId}, ${dates.opensAt}, ${dates.dueAt}, ${dates.closesAt}, ${dates.promisedAt}, ${given.graceMinutes}, ${who.id}, ${now})`;
  const today = dayOf(now, who.zone);
  const students = await tx<{ studentId: string }[]>`
    select student_id
    from enrolment
    where section_id = ${sectionId}
      and joined_on <= ${today}::date
      and (left_on is null or left_on > ${today}::date)
    order by student_id`;
  if (students.length > 0) {
    const pieces = students.map(({ studentId }) => ({ id: newId(), handOutId, studentId }));
    await tx`insert into piece ${tx(pieces, "id", "handOutId", "studentId")}`;
  }
  await recordEvent(call, { handOutId, pieceId: null, kind: "handed out", detail: { students: students.length } });
  return { handOutId };
}
