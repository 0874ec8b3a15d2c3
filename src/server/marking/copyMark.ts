import { wholeMark } from "@/core/marks/schema";
import { Invalid, NotFound, Refused } from "@/core/refusals";
import type { DraftMark } from "@/core/views/deskViews";
import { requireOnPiece } from "../access/standing";
import type { Call } from "../call";
import type { Db } from "../db/connection";
import { copyClip } from "../speech/clips";
import { openDraftWith } from "./draft";
import { draftMark, readMark } from "./markRows";
import { insertMarks } from "./marks";

/**
 * Puts a note of one draft on another piece too, with its voice: for a note that was written on the wrong student's
 * work. It stands there on the whole, for it does not know that work's words. Its id is the maker's, so asking twice
 * makes one. Only the piece it comes to is locked.
 */
export async function copyMark(
  call: Call,
  { pieceId, markId }: { pieceId: string; markId: string },
  { to, id }: { to: string; id: string },
): Promise<DraftMark> {
  await requireOnPiece(call, pieceId, "feedback.draft");
  await requireOnPiece(call, to, "feedback.draft");
  if (to === pieceId) throw new Invalid({ to: "It stands on this piece already." });
  const row = await readMark(call.tx, pieceId, markId);
  if (row.deletedAt) throw new NotFound();
  const given = draftMark(row);
  if (given.kind !== "note")
    throw new Refused("Edits and stamps are about these words. Only a note can be moved.");
  const { open, found } = await openDraftWith(call, to, (db) => sameWork(db, pieceId, to));
  const { round, version } = open;
  if (!version)
    throw new Refused("Nothing is handed in there, so there is nothing a note could stand on.");
  const clipId = given.clipId && (await copyClip(call, given.clipId, to));
  const mark = wholeMark({
    ...{ id, kind: "note", nature: given.nature, body: given.body, points: given.points },
    place: { on: "whole", itemId: null },
    // The criteria are those of the same work's rubric, or mean nothing there.
    criterionId: found ? given.criterionId : null,
    clipId,
  });
  const whose = { pieceId: to, round, versionId: version.id, commentId: given.commentId };
  await insertMarks(call, [mark], whose);
  return draftMark(await readMark(call.tx, to, id));
}

/** Whether two pieces are of one assignment. */
async function sameWork(db: Db, one: string, other: string): Promise<boolean> {
  const [row] = await db<{ same: boolean }[]>`
    select count(distinct hand_out.assignment_id) = 1 as same
    from piece
    join hand_out on hand_out.id = piece.hand_out_id
    where piece.id = any(${[one, other]})`;
  return row!.same;
}
