import type { ItemView, Room } from "@/core/views/workViews";
import { requireOnPiece } from "../access/standing";
import type { ReadCall } from "../call";
import { readLimits, readUsed } from "../transfers/transfers";
import { itemView, readItems } from "./items";

/** The files of a student's unfinished work, and the room that is left for more. */
export async function listItems(
  call: ReadCall,
  pieceId: string,
): Promise<{ items: ItemView[]; room: Room }> {
  await requireOnPiece(call, pieceId, "piece.see");
  const [items, room] = await Promise.all([
    readItems(call.db, pieceId, "work"),
    readRoom(call, pieceId),
  ]);
  return { items: items.map(itemView), room };
}

export async function readRoom({ db, who }: ReadCall, pieceId: string): Promise<Room> {
  const [limits, used] = await Promise.all([readLimits(db, who), readUsed(db, who, pieceId)]);
  return { limits, used };
}
