import { contract } from "@/core/api/contract";
import { change } from "@/server/http/serve";
import { addPieceClip } from "@/server/speech/clips";

export const POST = change(contract.addPieceClip, (call, { params, file }) =>
  addPieceClip(call, params.pieceId!, file),
);
