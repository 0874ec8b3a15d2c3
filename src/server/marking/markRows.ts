import type { Place } from "@/core/marks/place";
import { MARK_TABLE, wholeMark, type Mark, type MarkField } from "@/core/marks/schema";
import { NotFound } from "@/core/refusals";
import type { DraftMark } from "@/core/views/deskViews";
import type { Db } from "../db/connection";

/**
 * Marks as rows of the table `mark`: the columns of what a mark says come from its one description
 * (`core/marks/schema`); beside them stands whose it is.
 */
export type MarkRow = Omit<Mark, "place"> & {
  place: Place | null;
  pieceId: string;
  round: number;
  versionId: string;
  commentId: string | null;
  againOf: string | null;
  revision: number;
  by: string;
  deletedAt: Date | null;
};

/** A row's mark: what it says and where it stands, without whose it is. */
export const markOf = ({ place, ...row }: Pick<MarkRow, MarkField>): Mark =>
  wholeMark({ ...row, place: place ?? undefined });

export const draftMark = ({ by, commentId, againOf, revision, ...row }: MarkRow): DraftMark => ({
  ...markOf(row),
  by,
  commentId,
  againOf,
  revision,
});

const columnOf = (field: MarkField, column: string | undefined) => column ?? field;

/** What a mark says as column → value, to insert or to set. */
export function columnsOf(db: Db, mark: Partial<Mark>): Record<string, never> {
  return Object.fromEntries(
    MARK_TABLE.flatMap(([field, { column, json, nothing }]) => {
      const value = mark[field];
      if (value === undefined) return [];
      const isNothing = json === "unless nothing" && sameJson(value, nothing);
      const stored = json && !isNothing ? db.json(value as never) : value;
      return [[columnOf(field, column), isNothing ? null : stored]];
    }),
  ) as Record<string, never>;
}

const sameJson = (a: unknown, b: unknown) => JSON.stringify(a) === JSON.stringify(b);

const markColumns = (db: Db) => db`
  mark.piece_id, mark.round_number as round, mark.version_id, mark.comment_id, mark.again_of,
  mark.revision, mark.deleted_at, person.name as by
  ${MARK_TABLE.map(
    ([field, { column }]) => db`, ${db(`mark.${columnOf(field, column)}`)} as ${db(field)}`,
  )}`;

/** The draft's marks in the order of the text. Index: mark_round. */
export async function readMarks(db: Db, pieceId: string, round: number): Promise<MarkRow[]> {
  return db<MarkRow[]>`
    select ${markColumns(db)}
    from mark
    join person on person.id = mark.created_by
    where mark.piece_id = ${pieceId} and mark.round_number = ${round} and mark.deleted_at is null
    order by mark.start_at, mark.created_at, mark.id`;
}

/** One mark of a piece, deleted or not. @throws NotFound */
export async function readMark(db: Db, pieceId: string, markId: string): Promise<MarkRow> {
  const [row] = await db<MarkRow[]>`
    select ${markColumns(db)}
    from mark
    join person on person.id = mark.created_by
    where mark.id = ${markId} and mark.piece_id = ${pieceId}`;
  if (!row) throw new NotFound();
  return row;
}
