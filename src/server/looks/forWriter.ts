import { isEdit } from "@/core/marks/mark";
import type { Mark } from "@/core/marks/schema";
import { Refused } from "@/core/refusals";
import type { AnsweredMark } from "@/core/views/views";
import type { Call, ReadCall } from "../call";
import type { Db } from "../db/connection";
import { readShownMarks, shownMarks, type MarkRow } from "./marks";

/** What others said of a piece that its writer may see. */
export const readForWriter = async (db: Db, pieceId: string): Promise<MarkRow[]> =>
  (await readShownMarks(db, pieceId)).filter((row) => row.shownAt && !row.takenAt);

/**
 * The same, for its writer beside their work: at the words as they are now.
 *
 * @param on the text the writer looks at, and the files beside it
 */
export async function marksForWriter(
  { db, who, now }: ReadCall,
  rows: readonly MarkRow[],
  on: { text: string; items: ReadonlySet<string> },
): Promise<AnsweredMark[]> {
  if (rows.length === 0) return [];
  const marks = await shownMarks(db, rows, { standing: "student", who, now, ...on });
  return marks.map((mark, n): AnsweredMark => {
    const { id, kind, nature, quote, body, replacement, place, strokes, sentence, ink } = mark;
    const { criterionId, points, clipId, round, at, gone, request, decision, messages } = mark;
    return {
      ...{ id, kind, nature, quote, body, replacement, place, strokes, sentence, ink },
      ...{ criterionId, points, clipId, round, at, gone, request, decision, messages },
      from: `${mark.author}, ${rows[n]!.lookId ? "in a look" : "on the display"}`,
    };
  });
}

/** The writer accepts or declines an edit that was offered in a look. @returns false where it is no such mark */
export async function decideOnOffered(
  { tx, who }: Call,
  { pieceId, markId, decision }: { pieceId: string; markId: string; decision: MarkRow["decision"] },
): Promise<boolean> {
  const [row] = await tx<{ kind: Mark["kind"] }[]>`
    update look_mark
    set decision = ${decision}
    from piece
    where look_mark.id = ${markId} and look_mark.piece_id = ${pieceId} and piece.id = look_mark.piece_id and piece.student_id = ${who.id}
      and shown_at is not null and taken_at is null
    returning look_mark.kind`;
  if (row && decision !== null && !isEdit(row))
    throw new Refused("Only an edit can be accepted or declined.");
  return row !== undefined;
}
