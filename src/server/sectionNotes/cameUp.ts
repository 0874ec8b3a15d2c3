import { examplesFrom, isOften, wasSaid, type CameUp } from "@/core/sectionNotes/cameUp";
import { requireOnHandOut } from "../access/standing";
import type { ReadCall } from "../call";

type Row = { text: string; pieces: number; quotes: string[] };
const MOST = 5;

/**
 * Comments that stand on many pieces of a hand-out, in drafts and in what came back: what to say to all at once. Those
 * the class was told already are left out. Indexes: piece by hand-out, mark_round.
 */
export async function readCameUp(call: ReadCall, handOutId: string): Promise<CameUp[]> {
  const { db, who } = call;
  await requireOnHandOut(db, who, handOutId, "class.say");
  const [rows, [counts], notes, names] = await Promise.all([
    db<Row[]>`
      select coalesce(comment.text, min(mark.body)) as text, count(distinct mark.piece_id)::int as pieces,
        (array_agg(mark.quote order by mark.created_at) filter (where mark.quote <> ''))[1:40] as quotes
      from piece
      join mark on mark.piece_id = piece.id and mark.deleted_at is null and mark.kind = 'note' and mark.body <> '' and mark.nature <> 'praise'
      left join comment on comment.id = mark.comment_id
      where piece.hand_out_id = ${handOutId} and piece.removed_at is null
      group by comment.id, case when comment.id is null then lower(trim(mark.body)) end
      having count(distinct mark.piece_id) > 2
      order by count(distinct mark.piece_id) desc, 1
      limit 40`,
    db<{ of: number }[]>`
      select count(*)::int as of
      from piece
      where hand_out_id = ${handOutId} and removed_at is null and exists (select from version where piece_id = piece.id)`,
    db<{ body: string }[]>`
      select body from section_note where hand_out_id = ${handOutId} and answers_id is null and taken_at is null`,
    db<{ name: string; called: string }[]>`
      select person.name, person.called from piece join person on person.id = piece.student_id where piece.hand_out_id = ${handOutId}`,
  ]);
  const { of } = counts!;
  const known = names.flatMap(({ name, called }) => [name, called]);
  const said = notes.map((note) => note.body);
  return (
    rows
      .filter((row) => isOften({ pieces: row.pieces, of }) && !wasSaid(plain(row.text), said))
      // A word written to one is not said to all.
      .filter((row) => !known.some((name) => name.length > 1 && row.text.includes(name)))
      .slice(0, MOST)
      .map(({ text, pieces, quotes }) => ({
        ...{ text: plain(text), pieces, of },
        examples: examplesFrom(quotes ?? [], known),
      }))
  );
}

/** A comment as it can be said to all: what it would fill in for one stays open. */
const plain = (text: string): string =>
  text
    .replace(/\{name\},?\s*/gi, "")
    .replace(/\{[^{}]*\}/g, "…")
    .replace(/^./, (c) => c.toUpperCase())
    .trim();
