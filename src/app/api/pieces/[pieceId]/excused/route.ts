import { contract } from "@/core/api/contract";
import { setExcused } from "@/server/marking/flag";
import { change } from "@/server/http/serve";

export const PUT = change(contract.excuse, (call, { params, body }) =>
  setExcused(call, params.pieceId!, body),
);
