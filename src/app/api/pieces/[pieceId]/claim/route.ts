import { contract } from "@/core/api/contract";
import { change } from "@/server/http/serve";
import { acceptClaim } from "@/server/pieces/receipts";

export const PUT = change(contract.acceptClaim, (call, { params, body }) =>
  acceptClaim(call, params.pieceId!, body),
);
