import { contract } from "@/core/api/contract";
import { change } from "@/server/http/serve";
import { saveWork } from "@/server/pieces/moves";

export const PUT = change(contract.saveWork, (call, { params, body, revision }) =>
  saveWork(call, params.pieceId!, body, revision),
);
