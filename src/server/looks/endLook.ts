import { may } from "@/core/access/access";
import { NotFound } from "@/core/refusals";
import { requireOnLook } from "../access/shown";
import type { Call } from "../call";
import { recordEvent } from "../life/queries";

/** The reader says that they are through, or the writer or a teacher ends it. */
export async function endLook(
  call: Call,
  lookId: string,
  { as }: { as: "read" | "ended" },
): Promise<{ ended: true }> {
  const { tx, now } = call;
  const standing = await requireOnLook(call, lookId, "shown.see");
  if (as === "read") {
    if (!may(standing, "shown.say")) throw new NotFound();
    await tx`update look set done_at = ${now} where id = ${lookId} and done_at is null`;
  } else {
    if (standing === "reader") throw new NotFound();
    await tx`update look set closed_at = ${now} where id = ${lookId} and closed_at is null`;
  }
  const [look] = await tx<
    { pieceId: string; handOutId: string }[]
  >`select piece_id, piece.hand_out_id from look join piece on piece.id = look.piece_id where look.id = ${lookId}`;
  await recordEvent(call, {
    ...look!,
    kind: as === "read" ? "was through with a look" : "ended a look",
    detail: { lookId },
  });
  return { ended: true };
}
