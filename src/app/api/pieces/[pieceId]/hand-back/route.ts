import { contract } from "@/core/api/contract";
import { handBack } from "@/server/handingBack/handBack";
import { change } from "@/server/http/serve";

export const POST = change(contract.handBack, (call, { params, body }) =>
  handBack(call, params.pieceId!, body),
);
