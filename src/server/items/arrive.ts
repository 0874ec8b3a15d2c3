import { contract } from "@/core/api/contract";
import { preparedChange } from "../http/serve";
import { HttpProblem } from "../problem";
import { addItem, dropTransfer, FileRefused, lookAtArrived } from "./items";

/** A file that has arrived becomes part of the piece. One that is refused is thrown away. */
export const addItemOrDrop = preparedChange(
  contract.addItem,
  async (call, { params, body }) => {
    try {
      return await lookAtArrived(call, params.pieceId!, body);
    } catch (error) {
      if (!(error instanceof FileRefused)) throw error;
      await dropTransfer(call.db, call.who.id, body.transferId);
      throw new HttpProblem(422, error.reason);
    }
  },
  (call, { params, body }, ready) => addItem(call, params.pieceId!, body, ready),
);
