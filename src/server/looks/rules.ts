import { drawPairs } from "@/core/looks/pairs";
import type { LookRuleSettings, ShownOfSheet } from "@/core/views/lookViews";
import { requireOnHandOut } from "../access/standing";
import type { Call } from "../call";
import type { Db } from "../db/connection";
import { recordEvent } from "../life/queries";
import { timeAhead } from "./displays";
import { readShownOfSheet } from "./ofSheet";

/** How classmates may be asked for a look at the work of a hand-out: by whom, until when. */
/** A draw by lot, from the random digits of fresh ids (RFC 9562, section 5.7), so that a call made again draws the same. */
export const drawFrom =
  ({ newId }: Pick<Call, "newId">) =>
  (): number =>
    parseInt(newId().slice(-12), 16) / 2 ** 48;

/** Lets the students of a hand-out ask each other until a date, or changes how they may. */
export async function setLookRule(
  call: Call,
  handOutId: string,
  given: LookRuleSettings,
): Promise<ShownOfSheet> {
  const { tx, who, now } = call;
  await requireOnHandOut(tx, who, handOutId, "section.handOut");
  const endsAt = timeAhead(given.ends, "ends", call);
  const { readers, named, readFirst } = given;
  await tx`
    insert into look_rule ${tx({ handOutId, readers, named, readFirst, setBy: who.id, setAt: now, endsAt })}
    on conflict (hand_out_id) do update
    set readers = excluded.readers, named = excluded.named, read_first = excluded.read_first,
      set_by = excluded.set_by, set_at = excluded.set_at, ends_at = excluded.ends_at, ended_at = null`;
  if (readers === "pairs") await drawAgain(call, handOutId);
  await recordEvent(call, {
    ...{ handOutId, pieceId: null, kind: "let classmates be asked for a look" },
    detail: { readers, named, readFirst, ends: given.ends },
  });
  return readShownOfSheet(call, handOutId);
}

/** Ends all looks of classmates at this hand-out now. */
export async function endLookRule(call: Call, handOutId: string): Promise<ShownOfSheet> {
  const { tx, who, now } = call;
  await requireOnHandOut(tx, who, handOutId, "section.handOut");
  await tx`update look_rule set ended_at = ${now} where hand_out_id = ${handOutId} and ended_at is null`;
  await tx`
    update look
    set closed_at = ${now}
    from piece
    where piece.id = look.piece_id and piece.hand_out_id = ${handOutId} and look.reader_id is not null and look.closed_at is null`;
  await recordEvent(call, {
    ...{ handOutId, pieceId: null, kind: "ended the looks of classmates", detail: {} },
  });
  return readShownOfSheet(call, handOutId);
}

/** Those who have the work and are in the section. Index: piece by hand-out. */
const readClass = (db: Db, handOutId: string) =>
  db<{ pieceId: string; studentId: string; name: string; called: string }[]>`
    select piece.id as piece_id, piece.student_id, shown_name(person) as name, person.called
    from piece
    join person on person.id = piece.student_id
    where piece.hand_out_id = ${handOutId} and piece.removed_at is null and piece.left_at is null
    order by person.sort_name, person.id`;

/** Draws the pairs, or mends them where someone came or left. The rule's row is locked by who calls. */
export async function drawAgain(call: Call, handOutId: string): Promise<Map<string, string>> {
  const { tx } = call;
  const [all, before, asked] = await Promise.all([
    readClass(tx, handOutId),
    tx<
      { writer: string; reader: string }[]
    >`select piece.student_id as writer, reader_id as reader from look_pair join piece on piece.id = look_pair.piece_id where look_pair.hand_out_id = ${handOutId}`,
    tx<
      { writer: string }[]
    >`select distinct piece.student_id as writer from look join piece on piece.id = look.piece_id where piece.hand_out_id = ${handOutId} and look.reader_id is not null`,
  ]);
  const pairs = drawPairs(
    all.map((s) => s.studentId),
    new Map(before.map((b) => [b.writer, b.reader])),
    drawFrom(call),
    new Set(asked.map((a) => a.writer)),
  );
  await tx`delete from look_pair where hand_out_id = ${handOutId}`;
  const pieceOf = new Map(all.map((s) => [s.studentId, s.pieceId]));
  const rows = [...pairs].map(([writer, readerId]) => ({
    ...{ handOutId, pieceId: pieceOf.get(writer)!, readerId },
  }));
  if (rows.length > 0) await tx`insert into look_pair ${tx(rows)}`;
  return pairs;
}
