import { isOpen, UNNAMED } from "@/core/looks/shown";
import { sayTime } from "@/core/time/words";
import type { ForReaders, LookLine, OwnLooks, PieceLooks } from "@/core/views/lookViews";
import { isDisplayOpen, isInHand, isLookFor } from "../access/shown";
import type { ReadCall } from "../call";
import type { Db } from "../db/connection";
import { hiddenNow } from "../names/names";
import { findRule, readMayBeAsked, type Rule } from "./findRule";

/** Looks as lists show them: to their writer, to their readers. */
export type LineRow = Omit<LookLine, "until" | "state" | "reader"> & {
  reader: string | null;
  named: boolean;
  endsAt: Date;
  doneAt: Date | null;
  closedAt: Date | null;
  hidden: boolean;
  handOutId: string;
  waits: number;
};

/** Looks as lines, the newest first. Needs what it asks for in `where`: look, piece, hand_out. */
export function selectLines(db: Db, where: ReturnType<Db>) {
  return db<LineRow[]>`
    select look.id, look.piece_id, piece.hand_out_id, full_title(assignment.emoji, assignment.number, assignment.title) as title,
      shown_name(writer) as writer, shown_name(reader) as reader, look.question, look.named, look.ends_at, look.done_at, look.closed_at,
      ${hiddenNow(db, db`piece.id`)} as hidden,
      (select count(*)::int from look_mark where look_mark.look_id = look.id and taken_at is null and shown_at is not null) as said,
      (select count(*)::int from look_mark where look_mark.look_id = look.id and taken_at is null and (shown_at is null or reported_at is not null)) as waits
    from look
    join piece on piece.id = look.piece_id
    join hand_out on hand_out.id = piece.hand_out_id
    join assignment on assignment.id = hand_out.assignment_id
    join person writer on writer.id = piece.student_id
    left join person reader on reader.id = look.reader_id
    where ${where}
    order by look.asked_at desc, look.id
    limit 200`;
}

export type Names = { writer: (row: LineRow) => string; reader: (row: LineRow) => string };

export function lineOf(row: LineRow, { who, now }: ReadCall, names: Names): LookLine {
  const { id, pieceId, title, question, said, endsAt, doneAt, closedAt } = row;
  const open = isOpen({ endsAt, endedAt: closedAt }, now);
  const openState = doneAt ? "read" : "open";
  return {
    ...{ id, pieceId, title, question, said },
    writer: names.writer(row),
    reader: names.reader(row),
    until: sayTime(endsAt, now, who.zone),
    state: open ? openState : "over",
  };
}

const unlessHidden = (name: string, row: LineRow) => (row.named ? name : UNNAMED);

/** For a student on their own piece: what they asked, and whom they may ask. */
export async function readOwnLooks(call: ReadCall, pieceId: string): Promise<PieceLooks> {
  const { db, who, now } = call;
  const [[piece], lines, rule] = await Promise.all([
    db<{ handOutId: string; display: boolean; said: number; closesAt: Date | null }[]>`
      select piece.hand_out_id, display.hand_out_id is not null and ${isDisplayOpen(call)} and (${isInHand(db)} or not display.only_handed_in) as display, display.closes_at,
        (select count(*)::int from look_mark where piece_id = piece.id and version_id is not null and shown_at is not null and taken_at is null) as said
      from piece
      left join display on display.hand_out_id = piece.hand_out_id
      where piece.id = ${pieceId}`,
    selectLines(db, db`look.piece_id = ${pieceId}`),
    findRule(db, { pieceId }),
  ]);
  const { handOutId, display, said, closesAt } = piece!;
  const names: Names = {
    writer: () => who.name,
    reader: (row) => (row.reader === null ? "your teacher" : unlessHidden(row.reader, row)),
  };
  return {
    handOutId,
    asked: lines.map((row) => lineOf(row, call, names)),
    classmates: rule && isOpen(rule, now) ? await readMayAsk(call, rule) : null,
    display: display ? { until: sayTime(closesAt!, now, who.zone), said } : null,
  };
}

async function readMayAsk({ db, who, now }: ReadCall, rule: Rule): Promise<OwnLooks["classmates"]> {
  const { handOutId, named, readers } = rule;
  const until = sayTime(rule.endsAt, now, who.zone);
  if (readers === "pairs") {
    const [drawn] = await db<{ name: string }[]>`
      select shown_name(person) as name
      from look_pair
      join piece on piece.id = look_pair.piece_id
      join person on person.id = look_pair.reader_id
      where look_pair.hand_out_id = ${handOutId} and piece.student_id = ${who.id}`;
    const name = drawn?.name ?? UNNAMED;
    return { until, named, people: [], drawn: named ? name : UNNAMED };
  }
  if (!named) return { until, named, people: [], drawn: UNNAMED };
  const people = await readMayBeAsked(db, { handOutId, whoId: who.id, readers });
  return people.length === 0
    ? null
    : { until, named, drawn: null, people: people.map((p) => ({ id: p.studentId, name: p.name })) };
}

/** On My work: looks that others ask of this student, and displays that are open to them. Indexes: look_reader, piece_student. */
export async function readForReader(call: ReadCall): Promise<ForReaders> {
  const { db, who, now } = call;
  const [lines, displays] = await Promise.all([
    selectLines(db, db`look.done_at is null and ${isLookFor(call)}`),
    db<{ handOutId: string; title: string; section: string; closesAt: Date }[]>`
      select hand_out.id as hand_out_id, full_title(assignment.emoji, assignment.number, assignment.title) as title, section.name as section, display.closes_at
      from piece
      join display on display.hand_out_id = piece.hand_out_id
      join hand_out on hand_out.id = piece.hand_out_id
      join assignment on assignment.id = hand_out.assignment_id
      join section on section.id = hand_out.section_id
      where piece.student_id = ${who.id} and piece.removed_at is null and piece.left_at is null
        and hand_out.withdrawn_at is null and hand_out.opens_at <= ${now} and ${isDisplayOpen(call)}
        and (not display.only_handed_in or ${isInHand(db)})
      order by display.closes_at`,
  ]);
  const names: Names = {
    writer: (row) => unlessHidden(row.writer, row),
    reader: () => who.name,
  };
  return {
    looks: lines.map((row) => lineOf(row, call, names)),
    displays: displays.map(({ closesAt, ...row }) => ({
      ...row,
      until: sayTime(closesAt, now, who.zone),
    })),
  };
}
