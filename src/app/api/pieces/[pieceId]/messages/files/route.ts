import { contract } from "@/core/api/contract";
import { preparedChange } from "@/server/http/serve";
import { addMessageFile, lookAtMessageFile } from "@/server/pieces/messageFiles";

export const POST = preparedChange(
  contract.addMessageFile,
  (call, { params, file }) => lookAtMessageFile(call, params.pieceId!, file),
  (call, { params }, kept) => addMessageFile(call, params.pieceId!, kept),
);
