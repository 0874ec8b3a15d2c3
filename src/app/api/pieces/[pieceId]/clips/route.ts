import { contract } from "@/core/api/contract";
import { preparedChange } from "@/server/http/serve";
import { addPieceClip, lookAtClip } from "@/server/speech/clips";

export const POST = preparedChange(
  contract.addPieceClip,
  (call, { params, file }) => lookAtClip(call, params.pieceId!, file),
  (call, { params }, voice) => addPieceClip(call, params.pieceId!, voice),
);
