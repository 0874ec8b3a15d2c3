import { contract } from "@/core/api/contract";
import { takeBack } from "@/server/pieces/moves";
import { change } from "@/server/http/serve";

export const POST = change(contract.takeBack, (call, { params }) =>
  takeBack(call, params.pieceId!),
);
