import { contract } from "@/core/api/contract";
import { rule } from "@/server/marking/rulings";
import { change } from "@/server/http/serve";

export const PUT = change(contract.rule, (call, { params, body }) =>
  rule(call, params.pieceId!, params.markId!, body.ruling),
);
