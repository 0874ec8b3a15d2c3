import { may } from "@/core/access/access";
import { isOpen } from "@/core/looks/shown";
import { sayTime } from "@/core/time/words";
import { dueInAWeek } from "@/core/time/lessons";
import { dayOf, instantToWall } from "@/core/time/zone";
import type { ShownOfSheet } from "@/core/views/lookViews";
import { isInHand } from "../access/shown";
import { requireOnHandOut } from "../access/standing";
import { readCalendar, readMeetings } from "../calendar/calendar";
import type { ReadCall } from "../call";
import type { Db } from "../db/connection";
import { hiddenNow, readNumbers } from "../names/names";
import { findDisplay, isDisplayRowOpen, readSettings } from "./displays";
import { findRule } from "./findRule";
import { lineOf, selectLines, type Names } from "./lines";

/** For the teachers on a hand-out's sheet: its display, its looks, and what waits for a word of theirs. */
export async function readShownOfSheet(call: ReadCall, handOutId: string): Promise<ShownOfSheet> {
  const { db, who, now } = call;
  const standing = await requireOnHandOut(db, who, handOutId, "handOut.see");
  const [display, rule, lines, [counts], handedIn, pairs, numbers] = await Promise.all([
    findDisplay(call, handOutId),
    findRule(db, { handOutId }),
    selectLines(db, db`piece.hand_out_id = ${handOutId}`),
    db<{ waits: number; reported: number; shownWaits: number; shownReported: number }[]>`
      select
        (count(*) filter (where shown_at is null))::int as waits,
        (count(*) filter (where reported_at is not null))::int as reported,
        (count(*) filter (where shown_at is null and look_mark.version_id is not null))::int as shown_waits,
        (count(*) filter (where reported_at is not null and look_mark.version_id is not null))::int as shown_reported
      from look_mark
      join piece on piece.id = look_mark.piece_id
      where piece.hand_out_id = ${handOutId} and taken_at is null`,
    db<{ pieceId: string; name: string; hidden: boolean }[]>`
      select piece.id as piece_id, shown_name(person) as name, ${hiddenNow(db, db`piece.id`)} as hidden
      from piece
      join person on person.id = piece.student_id
      join hand_out on hand_out.id = piece.hand_out_id
      where piece.hand_out_id = ${handOutId} and piece.removed_at is null and ${isInHand(db)}
      order by person.sort_name, person.id`,
    readPairs(db, handOutId),
    readNumbers(db, handOutId),
  ]);
  const numbered = (row: { pieceId: string; hidden: boolean }, name: string) =>
    row.hidden ? `Piece ${numbers.get(row.pieceId) ?? 0}` : name;
  const names: Names = {
    writer: (row) => numbered(row, row.writer),
    reader: (row) => row.reader ?? "teachers",
  };
  const { waits, reported, shownWaits, shownReported } = counts!;
  const suggestedEnd = await suggestEnd(call, handOutId);
  return {
    display: display
      ? {
          ...(await readSettings(call, display)),
          open: isDisplayRowOpen(display, now),
          until: sayTime(display.closesAt, now, who.zone),
          ...{ waits: shownWaits, reported: shownReported },
        }
      : null,
    looks: rule
      ? {
          ...{ readers: rule.readers, named: rule.named, readFirst: rule.readFirst },
          ends: instantToWall(rule.endsAt, who.zone),
          open: isOpen(rule, now),
          until: sayTime(rule.endsAt, now, who.zone),
          pairs: rule.readers === "pairs" ? pairs : [],
        }
      : null,
    asked: lines.map((row) => ({ ...lineOf(row, call, names), waits: row.waits })),
    ...{ waits, reported, suggestedEnd, mayChange: may(standing, "section.handOut") },
    handedIn: handedIn
      .map((row) => ({ pieceId: row.pieceId, name: numbered(row, row.name) }))
      .sort((a, b) =>
        handedIn.some((h) => h.hidden) ? a.name.localeCompare(b.name, "en", { numeric: true }) : 0,
      ),
  };
}

/** Who reads whose, and how far it is; nothing of it while work is read without names. */
function readPairs(db: Db, handOutId: string) {
  return db<{ writer: string; reader: string; state: string }[]>`
    select shown_name(writer) as writer, shown_name(reader) as reader,
      coalesce((select case when look.done_at is not null then 'read' else 'asked' end from look where look.piece_id = piece.id and look.reader_id = look_pair.reader_id order by asked_at desc limit 1), 'not asked yet') as state
    from look_pair
    join piece on piece.id = look_pair.piece_id
    join hand_out on hand_out.id = piece.hand_out_id
    join person writer on writer.id = piece.student_id
    join person reader on reader.id = look_pair.reader_id
    where look_pair.hand_out_id = ${handOutId} and not ${hiddenNow(db, db`piece.id`)}
    order by writer.sort_name, writer.id`;
}

/** A lesson of the section in a week, or the end of a school day then. */
async function suggestEnd({ db, who, now }: ReadCall, handOutId: string): Promise<string> {
  const [handOut] = await db<
    { sectionId: string }[]
  >`select section_id from hand_out where id = ${handOutId}`;
  const { sectionId } = handOut!;
  const [meetings, { calendar }] = await Promise.all([
    readMeetings(db, [sectionId]),
    readCalendar(db, who.schoolId),
  ]);
  return dueInAWeek(dayOf(now, who.zone), meetings.get(sectionId) ?? [], calendar);
}
