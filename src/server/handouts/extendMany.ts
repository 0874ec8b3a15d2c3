import { isWall } from "@/core/handouts/checkDates";
import { Invalid } from "@/core/refusals";
import { sayTime } from "@/core/time/words";
import { wallToInstant } from "@/core/time/zone";
import { requireOnHandOut } from "../access/standing";
import type { Call } from "../call";
import { noteForOne } from "./exceptions";
import { syncPieces } from "./pieces";

export type GivenExtension = {
  pieceIds: readonly string[];
  /** At the school; null: as for everyone again. */ due: string | null;
  tell: boolean;
};

/**
 * One due time for chosen students of a hand-out: each has its line of history, and is told where that is wanted and it
 * has opened. Pieces come by their ids, or by those of pages that show their students' names.
 *
 * @returns how many have another due time now, and the time in words
 * @throws Invalid for a time that there is not, or before it opens
 */
export async function extendMany(
  call: Call,
  handOutId: string,
  { pieceIds, due, tell }: GivenExtension,
): Promise<{ changed: number; due: string }> {
  const { tx, who, now } = call;
  await requireOnHandOut(tx, who, handOutId, "piece.except");
  if (due !== null && !isWall(due)) throw new Invalid({ due: "This is not a date and a time." });
  const [out] = await tx<{ opensAt: Date; dueAt: Date; sectionId: string }[]>`
    select opens_at, due_at, section_id from hand_out where id = ${handOutId}`;
  const { opensAt, dueAt, sectionId } = out!;
  const own = due === null ? null : wallToInstant(due, who.zone).at;
  if (own && own < opensAt) throw new Invalid({ due: "It would be due before it opens." });
  const changed = await tx<{ id: string }[]>`
    update piece
    set own_due_at = ${own}, own_due_from = ${own ? "teacher" : null}
    from (
      select id from piece
      where hand_out_id = ${handOutId} and removed_at is null
        and (id = any(${[...pieceIds]}) or by_name = any(${[...pieceIds]}))
        and (own_due_at is distinct from ${own} or own_due_from is distinct from ${own ? "teacher" : null})
      order by id
      for update
    ) chosen
    where piece.id = chosen.id
    returning piece.id`;
  // A group's extra time takes the place of what was taken off.
  await syncPieces(call, sectionId, handOutId);
  const dues = await tx<{ id: string; due: Date }[]>`
    select id, due from piece_standing where id = any(${changed.map(({ id }) => id)}) order by id`;
  for (const { id, due: stands } of dues)
    await noteForOne(
      call,
      { handOutId, pieceId: id, words: [`due ${sayTime(stands, now, who.zone)}`] },
      tell && opensAt <= now,
    );
  return { changed: changed.length, due: sayTime(own ?? dueAt, now, who.zone) };
}
