import { isNothingIn } from "@/core/pieces/life";
import { Invalid, NotFound, Refused } from "@/core/refusals";
import { isWall } from "@/core/handouts/checkDates";
import { sayTime } from "@/core/time/words";
import { wallToInstant } from "@/core/time/zone";
import { requireOnHandOut, requireOnPiece } from "../access/standing";
import type { Call } from "../call";
import type { Db } from "../db/connection";
import { lockPiece, recordEvent } from "../life/queries";
import { syncPieces } from "./pieces";

/** Gives a hand-out to one more student of the section, or takes it from one: their work is kept, hidden, and comes back with them. */
export async function giveTo(
  call: Call,
  handOutId: string,
  studentId: string,
  given: boolean,
): Promise<{ given: boolean }> {
  const { tx, who, now } = call;
  await requireOnHandOut(tx, who, handOutId, "section.handOut");
  const [student] = await tx<{ sectionId: string }[]>`
    select enrolment.section_id
    from hand_out
    join enrolment on enrolment.section_id = hand_out.section_id
    where hand_out.id = ${handOutId} and enrolment.student_id = ${studentId}`;
  if (!student) throw new NotFound();
  await tx`
    insert into piece (id, hand_out_id, student_id, removed_at)
    select ${call.newId()}, ${handOutId}, ${studentId}, null
    where ${given}
    on conflict (hand_out_id, student_id) do nothing`;
  const [piece] = await tx<{ id: string }[]>`
    update piece
    set removed_at = ${given ? null : now}
    where hand_out_id = ${handOutId} and student_id = ${studentId}
    returning id`;
  if (!piece) throw new NotFound();
  await recordEvent(call, {
    handOutId,
    pieceId: piece.id,
    kind: given ? "given to" : "taken from",
    detail: {},
  });
  if (given) await syncPieces(call, student.sectionId, handOutId);
  return { given };
}

export type GivenException = {
  due: string | null;
  excused: boolean;
  versionId: string | null;
  tell: boolean;
};

/** How a student is told that they are excused, or no longer. */
export const sayExcused = (excused: boolean): string =>
  excused ? "you are excused from it" : "you are no longer excused from it";

/** Writes down that something is other for one student, and tells them where that is wanted. */
export async function noteForOne(
  call: Call,
  { handOutId, pieceId, words }: { handOutId: string; pieceId: string; words: readonly string[] },
  tell: boolean,
): Promise<void> {
  await recordEvent(call, {
    ...{ handOutId, pieceId, kind: "set for one student", detail: { words: [...words] } },
  });
  if (tell)
    await call.tx`
      insert into piece_notice (id, piece_id, words, at)
      values (${call.newId()}, ${pieceId}, ${`Changed for you: ${words.join("; ")}.`}, ${call.now})`;
}

/** A piece by its id, or by the one it has on pages that show its student's name. Index: piece_by_name. */
async function pieceNamed(db: Db, named: string): Promise<string> {
  const [piece] = await db<
    { id: string }[]
  >`select id from piece where id = ${named} or by_name = ${named}`;
  if (!piece) throw new NotFound();
  return piece.id;
}

/** What is other for one student: a due time of their own, excused, another version of the task. */
export async function setException(
  call: Call,
  named: string,
  given: GivenException,
): Promise<{ due: string; own: boolean; excused: boolean }> {
  const { tx, who, now } = call;
  const pieceId = await pieceNamed(tx, named);
  await requireOnPiece(call, pieceId, "piece.except");
  if (given.due !== null && !isWall(given.due))
    throw new Invalid({ due: "This is not a date and a time." });
  const before = await lockPiece(tx, pieceId);
  const ownDueAt = given.due === null ? null : wallToInstant(given.due, who.zone).at;
  if (ownDueAt && ownDueAt < before.opensAt)
    throw new Invalid({ due: "It would be due before it opens." });
  if (given.versionId) {
    const [version] = await tx`
      select assignment_version.id
      from assignment_version
      join hand_out on hand_out.assignment_id = assignment_version.assignment_id
      where assignment_version.id = ${given.versionId} and hand_out.id = ${before.handOutId}`;
    if (!version) throw new NotFound();
  }
  if (given.versionId !== before.versionId && !isNothingIn(before.state))
    throw new Refused(
      "This student has handed in already, so the version of the task stays as it is.",
    );
  await tx`
    update piece
    set own_due_at = ${ownDueAt}, own_due_from = ${ownDueAt ? "teacher" : null}, excused = ${given.excused}, version_id = ${given.versionId}
    where id = ${pieceId}`;
  await syncPieces(call, before.sectionId, before.handOutId);
  const after = await lockPiece(tx, pieceId);
  const words = [
    before.due.getTime() === after.due.getTime()
      ? ""
      : `due ${sayTime(after.due, now, who.zone)} (it was ${sayTime(before.due, now, who.zone)})`,
    before.excused === after.excused ? "" : sayExcused(after.excused),
    before.versionId === after.versionId ? "" : "the task was changed",
  ].filter(Boolean);
  if (words.length > 0) {
    const about = { handOutId: before.handOutId, pieceId, words };
    await noteForOne(call, about, given.tell && before.opensAt <= now);
  }
  return {
    due: sayTime(after.due, now, who.zone),
    own: given.due !== null,
    excused: after.excused,
  };
}
