import { contract } from "@/core/api/contract";
import { openPiece } from "@/server/pieces/moves";
import { change } from "@/server/http/serve";

export const POST = change(contract.openPiece, (call, { params }) =>
  openPiece(call, params.pieceId!),
);
