import { contract } from "@/core/api/contract";
import { Refused } from "@/core/refusals";
import { database } from "../db/connection";
import { change } from "../http/serve";
import { addItem, dropTransfer } from "./items";

/** A file that has arrived becomes part of the piece. One that is refused is thrown away, outside the transaction that said no. */
export const addItemOrDrop = change(contract.addItem, async (call, { params, body }) => {
  try {
    return await addItem(call, params.pieceId!, body);
  } catch (error) {
    if (error instanceof Refused) void dropTransferSoon(call.who.id, body.transferId);
    throw error;
  }
});

/** After the refusing transaction has let go of the row. */
async function dropTransferSoon(whoId: string, transferId: string): Promise<void> {
  await new Promise((resolve) => setTimeout(resolve, 200));
  await dropTransfer(database(), whoId, transferId).catch(() => {});
}
