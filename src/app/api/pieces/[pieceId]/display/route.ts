import { contract } from "@/core/api/contract";
import { change, read } from "@/server/http/serve";
import { readDisplayedPiece, sayOnDisplay } from "@/server/looks/shownWork";

export const GET = read(contract.displayedPiece, (call, { params }) =>
  readDisplayedPiece(call, params.pieceId!),
);
export const POST = change(contract.sayOnDisplay, (call, { params, body }) =>
  sayOnDisplay(call, params.pieceId!, body),
);
