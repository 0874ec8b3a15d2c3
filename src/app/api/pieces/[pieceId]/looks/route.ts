import { contract } from "@/core/api/contract";
import { change } from "@/server/http/serve";
import { askForLook } from "@/server/pieces/askForLook";

export const POST = change(contract.askForLook, (call, { params, body, revision }) =>
  askForLook(call, params.pieceId!, body, revision),
);
