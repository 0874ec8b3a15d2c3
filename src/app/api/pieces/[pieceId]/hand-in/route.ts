import { contract } from "@/core/api/contract";
import { change } from "@/server/http/serve";
import { handIn } from "@/server/pieces/moves";

export const POST = change(contract.handIn, (call, { params, body, revision }) =>
  handIn(call, params.pieceId!, body, revision),
);
