import { contract } from "@/core/api/contract";
import { prepareRuling, rule } from "@/server/marking/rulings";
import { preparedChange } from "@/server/http/serve";

export const PUT = preparedChange(
  contract.rule,
  (call, { params }) => prepareRuling(call, params.pieceId!),
  (call, { params, body }) => rule(call, params.pieceId!, params.markId!, body),
);
