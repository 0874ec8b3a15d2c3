import { contract } from "@/core/api/contract";
import { change } from "@/server/http/serve";
import { askToReopen } from "@/server/pieces/moves";

export const POST = change(contract.askToReopen, (call, { params, body }) =>
  askToReopen(call, params.pieceId!, body),
);
