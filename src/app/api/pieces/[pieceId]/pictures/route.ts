import { contract } from "@/core/api/contract";
import { preparedChange } from "@/server/http/serve";
import { addPicture, lookAtPicture } from "@/server/pieces/pictures";

export const POST = preparedChange(
  contract.addPicture,
  (call, { params, file }) => lookAtPicture(call, params.pieceId!, file),
  (call, { params }, kept) => addPicture(call, params.pieceId!, kept),
);
