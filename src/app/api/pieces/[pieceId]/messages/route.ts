import { contract } from "@/core/api/contract";
import { sendMessage } from "@/server/pieces/answers";
import { change } from "@/server/http/serve";

export const POST = change(contract.sendMessage, (call, { params, body }) =>
  sendMessage(call, params.pieceId!, body),
);
