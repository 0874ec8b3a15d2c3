import { contract } from "@/core/api/contract";
import { change } from "@/server/http/serve";
import { closeThread } from "@/server/pieces/closeThread";

export const PUT = change(contract.closeThread, (call, { params, body }) =>
  closeThread(call, params.pieceId!, body),
);
