import { contract } from "@/core/api/contract";
import { change } from "@/server/http/serve";
import { sendCheckpoint } from "@/server/pieces/checkpoints";

export const POST = change(contract.sendCheckpoint, (call, { params, body, revision }) =>
  sendCheckpoint(call, params.pieceId!, body, revision),
);
