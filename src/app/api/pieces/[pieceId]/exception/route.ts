import { contract } from "@/core/api/contract";
import { setException } from "@/server/handouts/exceptions";
import { change } from "@/server/http/serve";

export const PUT = change(contract.setException, (call, { params, body }) =>
  setException(call, params.pieceId!, body),
);
