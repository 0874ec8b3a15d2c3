import { may, type Standing } from "@/core/access/access";
import { mayReport } from "@/core/looks/shown";
import { NotFound, Refused } from "@/core/refusals";
import { mayTakeAway, seesSaid } from "@/core/sectionNotes/sectionNote";
import { requireOnDisplayed, requireOnLook } from "../access/shown";
import type { Call } from "../call";
import { recordEvent } from "../life/queries";
import { readShownMarks, stateOf, type MarkRow } from "./marks";

/** What is done about something that was said in a look or on a display: let through, taken away, reported. */
type Known = { row: MarkRow; standing: Standing; handOutId: string };

/** A mark that is there for the one who asks. @throws NotFound */
async function requireMark(call: Call, markId: string): Promise<Known> {
  const [found] = await call.tx<{ pieceId: string; handOutId: string }[]>`
    select look_mark.piece_id, piece.hand_out_id
    from look_mark
    join piece on piece.id = look_mark.piece_id
    where look_mark.id = ${markId}
    for update of look_mark`;
  if (!found) throw new NotFound();
  const row = (await readShownMarks(call.tx, found.pieceId)).find((r) => r.id === markId)!;
  const standing = row.lookId
    ? await requireOnLook(call, row.lookId, "shown.see")
    : await requireOnDisplayed(call, row.pieceId, "shown.see");
  if (!seesSaid(standing, stateOf(row, call.who.id))) throw new NotFound();
  return { row, standing, handOutId: found.handOutId };
}

/** A teacher lets others see what a student said, or hides it again. */
export async function showShownMark(
  call: Call,
  markId: string,
  { shown }: { shown: boolean },
): Promise<{ shown: boolean }> {
  const { row, standing, handOutId } = await requireMark(call, markId);
  if (!may(standing, "shown.moderate")) throw new NotFound();
  if (row.takenAt) throw new Refused("This was taken away already.");
  // Read by a teacher who lets it stand, a report is dealt with.
  await call.tx`
    update look_mark
    set shown_at = ${shown ? call.now : null}, reported_at = null, reported_by = null
    where id = ${markId}`;
  await record(call, { row, handOutId }, shown ? "let what was said be seen" : "hid what was said");
  return { shown };
}

/** Its author, or a teacher, takes it away; the row stays, with who took it. */
export async function takeAwayShownMark(call: Call, markId: string): Promise<{ taken: true }> {
  const { row, standing, handOutId } = await requireMark(call, markId);
  if (!mayTakeAway(standing, stateOf(row, call.who.id))) throw new NotFound();
  await call.tx`update look_mark set taken_at = ${call.now}, taken_by = ${call.who.id} where id = ${markId}`;
  await record(call, { row, handOutId }, "took away what was said");
  return { taken: true };
}

/** Someone who sees it reports it to the teachers; nobody else learns who did. */
export async function reportShownMark(
  call: Call,
  markId: string,
  { why }: { why: string },
): Promise<{ reported: true }> {
  const { row, standing, handOutId } = await requireMark(call, markId);
  if (!mayReport(standing, stateOf(row, call.who.id)))
    throw new Refused("This is with your teacher already.");
  await call.tx`
    update look_mark
    set reported_at = ${call.now}, reported_by = ${call.who.id}, report_why = ${why}
    where id = ${markId}`;
  await record(call, { row, handOutId }, "reported what was said");
  return { reported: true };
}

const record = (
  call: Call,
  { row, handOutId }: { row: MarkRow; handOutId: string },
  kind: string,
) =>
  recordEvent(call, {
    ...{ handOutId, pieceId: row.pieceId, kind },
    detail: { lookMarkId: row.id },
  });
