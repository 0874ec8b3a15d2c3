import { contract } from "@/core/api/contract";
import { setFlag } from "@/server/marking/flag";
import { change } from "@/server/http/serve";

export const PUT = change(contract.setFlag, (call, { params, body }) =>
  setFlag(call, params.pieceId!, body),
);
