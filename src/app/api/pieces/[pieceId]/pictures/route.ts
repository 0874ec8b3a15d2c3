import { contract } from "@/core/api/contract";
import { change } from "@/server/http/serve";
import { addPicture } from "@/server/pieces/pictures";

export const POST = change(contract.addPicture, (call, { params, file }) =>
  addPicture(call, params.pieceId!, file),
);
