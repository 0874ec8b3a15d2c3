import { contract } from "@/core/api/contract";
import { preparedChange } from "@/server/http/serve";
import { lookAtCopy, saveCopy } from "@/server/pieces/given";

export const PUT = preparedChange(
  contract.saveCopy,
  (call, { params, file }) => lookAtCopy(call, params.pieceId!, file),
  (call, { params }, kept) => saveCopy(call, params.pieceId!, params.materialId!, kept),
);
