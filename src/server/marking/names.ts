import { hash } from "@/core/desk/queueOrder";
import type { ItemView } from "@/core/views/workViews";
import type { Fragment } from "postgres";
import type { Db } from "../db/connection";

/**
 * Names on the Desk while a hand-out is read anonymously: a piece is "Piece 7" until it is handed back. The
 * number is its place in an order that follows the pieces' ids alone, so it stays, and tells nothing.
 */
export type Hidden = { anonymous: boolean; handedBack: boolean; number: number };

export const isHidden = ({ anonymous, handedBack }: Hidden): boolean => anonymous && !handedBack;

/** The name a piece goes by on the Desk. */
export const shownName = (name: string, hidden: Hidden): string =>
  isHidden(hidden) ? `Piece ${hidden.number}` : name;

/** Whether anything in force was handed back on a piece (of one round, where that is named). */
export function isHandedBack(db: Db, pieceId: Fragment, round: Fragment | null = null) {
  return db`exists (
    select
    from hand_back
    where hand_back.piece_id = ${pieceId} ${round ? db`and hand_back.round_number = ${round}` : db``}
      and not exists (select from hand_back_withdrawn where hand_back_id = hand_back.id)
  )`;
}

/** Of one piece. Index: piece by hand_out. */
export async function readHidden(db: Db, pieceId: string): Promise<Hidden> {
  const [row] = await db<{ anonymous: boolean; handedBack: boolean; handOutId: string }[]>`
    select hand_out.anonymous, hand_out.id as hand_out_id, ${isHandedBack(db, db`piece.id`)} as handed_back
    from piece
    join hand_out on hand_out.id = piece.hand_out_id
    where piece.id = ${pieceId}`;
  const numbers = row!.anonymous
    ? await readNumbers(db, row!.handOutId)
    : new Map<string, number>();
  return {
    anonymous: row!.anonymous,
    handedBack: row!.handedBack,
    number: numbers.get(pieceId) ?? 0,
  };
}

/** The numbers of all pieces of a hand-out. */
export async function readNumbers(db: Db, handOutId: string): Promise<Map<string, number>> {
  const rows = await db<{ id: string }[]>`select id from piece where hand_out_id = ${handOutId}`;
  return new Map(
    rows
      .map((r) => r.id)
      .sort((a, b) => hash(a) - hash(b) || a.localeCompare(b))
      .map((id, n) => [id, n + 1]),
  );
}

/** A file's own name can be its writer's: a plain one is shown instead. @example "IMG Ines.jpg" // "file 2.jpg" */
export function hideFileNames(items: readonly ItemView[]): ItemView[] {
  return items.map((item, n) => ({
    ...item,
    name: `file ${n + 1}${/\.[a-z0-9]{1,5}$/i.exec(item.name)?.[0] ?? ""}`,
  }));
}
