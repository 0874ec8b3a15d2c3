import { Refused } from "@/core/refusals";
import { requireOnHandOut } from "../access/standing";
import type { Call } from "../call";
import { recordEvent } from "../life/queries";
import { syncPieces } from "./pieces";

/** Hides a hand-out from its students and from the lists, with all that was done; or brings it back as it was. */
export async function withdraw(
  call: Call,
  handOutId: string,
  withdrawn: boolean,
): Promise<{ withdrawn: boolean }> {
  const { tx, who, now } = call;
  await requireOnHandOut(tx, who, handOutId, "section.handOut");
  const [changed] = await tx<{ sectionId: string }[]>`
    update hand_out
    set withdrawn_at = ${withdrawn ? now : null}, withdrawn_by = ${withdrawn ? who.id : null}, revision = revision + 1
    where id = ${handOutId} and (withdrawn_at is null) = ${withdrawn}
    returning section_id`;
  if (changed) {
    if (!withdrawn) await syncPieces(call, changed.sectionId, handOutId);
    await recordEvent(call, {
      handOutId,
      pieceId: null,
      kind: withdrawn ? "withdrawn" : "brought back",
      detail: {},
    });
  }
  return { withdrawn };
}

/**
 * Deletes a hand-out that nobody has begun, with its assignment when no other section has it. Once there
 * is anything a student or teacher did, it can only be withdrawn.
 */
export async function deleteHandOut(call: Call, handOutId: string): Promise<{ deleted: true }> {
  const { tx, who } = call;
  await requireOnHandOut(tx, who, handOutId, "section.handOut");
  const [row] = await tx<{ assignmentId: string; title: string }[]>`
    select hand_out.assignment_id, assignment.title
    from hand_out
    join assignment on assignment.id = hand_out.assignment_id
    where hand_out.id = ${handOutId}
    for update of hand_out`;
  await tx`select id from piece where hand_out_id = ${handOutId} for update`;
  const [begun] = await tx<{ n: number }[]>`
    select count(*)::int as n
    from piece
    where hand_out_id = ${handOutId}
      and (opened_at is not null or state <> 'not_opened'
        or exists (select from round where piece_id = piece.id) or exists (select from message where piece_id = piece.id) or exists (select from piece_copy where piece_id = piece.id))`;
  if (begun!.n > 0)
    throw new Refused(
      `${begun!.n} ${begun!.n === 1 ? "student has" : "students have"} begun, so it cannot be deleted. Withdraw it instead: that hides it, and can be undone.`,
    );
  await tx`delete from display_piece where hand_out_id = ${handOutId}`;
  await tx`delete from display where hand_out_id = ${handOutId}`;
  await tx`delete from look_pair where hand_out_id = ${handOutId}`;
  await tx`delete from look_rule where hand_out_id = ${handOutId}`;
  await tx`delete from section_note where hand_out_id = ${handOutId}`;
  await tx`delete from piece where hand_out_id = ${handOutId}`;
  await tx`delete from hand_out where id = ${handOutId}`;
  const { assignmentId, title } = row!;
  const [other] = await tx`select id from hand_out where assignment_id = ${assignmentId} limit 1`;
  if (!other) {
    await tx`delete from material where assignment_id = ${assignmentId}`;
    await tx`delete from assignment_picture where assignment_id = ${assignmentId}`;
    await tx`delete from assignment_version where assignment_id = ${assignmentId}`;
    await tx`delete from assignment where id = ${assignmentId}`;
  }
  await recordEvent(call, {
    handOutId,
    pieceId: null,
    kind: "deleted a hand-out nobody had begun",
    detail: { title },
  });
  return { deleted: true };
}
