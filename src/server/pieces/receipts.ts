import { NotFound, Refused } from "@/core/refusals";
import { sayTime } from "@/core/time/words";
import type { CheckedReceipt } from "@/core/views/views";
import { requireKind, requireOnPiece } from "../access/standing";
import type { Call, ReadCall } from "../call";
import { lockPiece, readVersions, recordEvent } from "../life/queries";
import { hiddenNow } from "../names/names";
import { receiptOf } from "./receipt";

/** @example cleanCode(" 7kq2 m9xd") // "7KQ2-M9XD"; letters that look like figures are read as these (Crockford) */
export function cleanCode(typed: string): string {
  const signs = typed
    .toUpperCase()
    .replace(/O/g, "0")
    .replace(/[IL]/g, "1")
    .replace(/[^0-9A-Z]/g, "")
    .slice(0, 8);
  return `${signs.slice(0, 4)}-${signs.slice(4)}`;
}

/** What stands behind a receipt's code, for teachers of that section; for everyone else there is no such receipt. */
export async function checkReceipt(call: ReadCall, code: string): Promise<CheckedReceipt> {
  const { db, who } = call;
  requireKind(who, "teacher");
  const [found] = await db<
    {
      pieceId: string;
      versionId: string;
      student: string;
      title: string;
      section: string;
      hidden: boolean;
    }[]
  >`
    select version.piece_id, version.id as version_id, person.name as student, full_title(assignment.emoji, assignment.number, assignment.title) as title, section.name as section, ${hiddenNow(db, db`piece.id`)} as hidden
    from version
    join piece on piece.id = version.piece_id
    join person on person.id = piece.student_id
    join hand_out on hand_out.id = piece.hand_out_id
    join assignment on assignment.id = hand_out.assignment_id
    join section on section.id = hand_out.section_id
    where version.receipt = ${cleanCode(code)}`;
  if (!found) throw new NotFound();
  await requireOnPiece(call, found.pieceId, "feedback.see");
  const version = (await readVersions(db, found.pieceId)).find((v) => v.id === found.versionId)!;
  return {
    // While the Desk shows the piece without its name, no name leads to it.
    pieceId: found.hidden ? null : found.pieceId,
    student: found.student,
    title: found.title,
    section: found.section,
    receipt: receiptOf(version, who.zone),
  };
}

/**
 * The teacher takes the device's word for when "Hand in" was pressed without a connection, so that lateness counts from
 * then; or goes back to the server's time.
 */
export async function acceptClaim(
  call: Call,
  pieceId: string,
  { accepted }: { accepted: boolean },
): Promise<{ lateness: string; accepted: boolean }> {
  const { tx, who, now } = call;
  await requireOnPiece(call, pieceId, "feedback.handBack");
  const piece = await lockPiece(tx, pieceId);
  const version = (await readVersions(tx, pieceId)).at(-1);
  if (!version?.pressedAt)
    throw new Refused("This was handed in with a connection: there is only the server's time.");
  if (accepted) {
    await tx`
      insert into claim_accepted (version_id, accepted_by, accepted_at)
      values (${version.id}, ${who.id}, ${now})
      on conflict (version_id) do nothing`;
  } else await tx`delete from claim_accepted where version_id = ${version.id}`;
  await recordEvent(call, {
    handOutId: piece.handOutId,
    pieceId,
    kind: accepted ? "accepted the device's time" : "went back to the server's time",
    detail: { pressed: sayTime(version.pressedAt, now, who.zone) },
  });
  const after = (await readVersions(tx, pieceId)).at(-1)!;
  return { lateness: receiptOf(after, who.zone).lateness, accepted };
}
