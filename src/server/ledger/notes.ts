import { Conflict } from "@/core/refusals";
import type { CellNotes } from "@/core/views/ledgerViews";
import { requireOnPiece } from "../access/standing";
import type { Call, ReadCall } from "../call";
import { changeDraft } from "../marking/draft";
import { readPrivateNotes } from "../marking/privateNotes";
import { hiddenNow } from "../names/names";
import { joinDrafts } from "../grades/drafts";
import { typedScoresView } from "../life/typedScoresView";

/** What is written beside a cell of the Ledger. @throws NotFound */
export async function cellNotes(call: ReadCall, pieceId: string): Promise<CellNotes> {
  await requireOnPiece(call, pieceId, "feedback.draft");
  const [rows, kept, typedScores] = await Promise.all([
    call.db<{ note: string | null; revision: number | null }[]>`
      select draft.overall as note, draft.revision
      from piece_standing standing
      ${joinDrafts(call.db)}
      where standing.id = ${pieceId}`,
    readPrivateNotes(call, pieceId),
    typedScoresView(call, pieceId),
  ]);
  return { note: rows[0]?.note ?? "", revision: rows[0]?.revision ?? 0, kept, typedScores };
}

/** All that is written beside the cells of a section, for its teachers, by piece. Who may see it was decided before. */
export async function writtenBeside(
  { db }: ReadCall,
  sectionId: string,
): Promise<Map<string, string>> {
  const pieces = db`
    hand_out.section_id = ${sectionId} and not ${hiddenNow(db, db`standing.id`)}`;
  const rows = await db<{ pieceId: string; words: string }[]>`
    select written.piece_id, string_agg(written.words, E'\n' order by written.at) as words
    from (
      select standing.id as piece_id, 'To the student: ' || draft.overall as words, draft.changed_at as at
      from piece_standing standing
      join hand_out on hand_out.id = standing.hand_out_id
      ${joinDrafts(db)}
      where ${pieces} and draft.overall <> ''
      union all
      select standing.id, 'Private, ' || author.name || ': ' || private_note.body, private_note.written_at
      from private_note
      join piece_standing standing on standing.id = private_note.piece_id
      join hand_out on hand_out.id = standing.hand_out_id
      join person author on author.id = private_note.author_id
      where private_note.deleted_at is null and ${pieces}
    ) written
    group by written.piece_id`;
  return new Map(rows.map(({ pieceId, words }) => [pieceId, words]));
}

/**
 * Keeps the word to the student: the overall note of the round that feedback is about, the same as at the Desk. It goes
 * with the score when that is handed back. A score that was typed meanwhile is no conflict, another note is.
 *
 * @param was the note as it was read here
 * @throws Conflict with theirs when a co-teacher changed the note since
 */
export async function saveCellNote(
  call: Call,
  pieceId: string,
  { was, note }: { was: string; note: string },
): Promise<{ revision: number }> {
  const changed = await changeDraft(call, pieceId, ({ overall, changedByName, revision }) => {
    if (overall === note) return null;
    if (overall === was) return { overall: note };
    throw new Conflict(
      `${changedByName} changed this note since you opened it. Both are kept: choose which to go on with.`,
      { note: overall, revision },
    );
  });
  return { revision: changed.revision };
}
