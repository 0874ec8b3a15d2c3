import { contract } from "@/core/api/contract";
import { database } from "../db/connection";
import { change } from "../http/serve";
import { HttpProblem } from "../problem";
import { addItem, dropTransfer, FileRefused } from "./items";

/** A file that has arrived becomes part of the piece. One that is refused is thrown away, outside the transaction that said no. */
export const addItemOrDrop = change(contract.addItem, async (call, { params, body }) => {
  try {
    return await addItem(call, params.pieceId!, body);
  } catch (error) {
    if (!(error instanceof FileRefused)) throw error;
    void dropTransferSoon(call.who.id, body.transferId);
    throw new HttpProblem(422, error.reason);
  }
});

/** After the refusing transaction has let go of the row. */
async function dropTransferSoon(whoId: string, transferId: string): Promise<void> {
  await new Promise((resolve) => setTimeout(resolve, 200));
  await dropTransfer(database(), whoId, transferId).catch(() => {});
}
