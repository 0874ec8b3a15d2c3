import { contract } from "@/core/api/contract";
import { change } from "@/server/http/serve";
import { saveCopy } from "@/server/pieces/given";

export const PUT = change(contract.saveCopy, (call, { params, file }) =>
  saveCopy(call, params.pieceId!, params.materialId!, file),
);
