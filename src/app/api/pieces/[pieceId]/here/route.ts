import { contract } from "@/core/api/contract";
import { here } from "@/server/marking/desk/here";
import { change } from "@/server/http/serve";

export const POST = change(contract.here, (call, { params, body }) =>
  here(call, params.pieceId!, body),
);
