import { contract } from "@/core/api/contract";
import { setOutcome } from "@/server/handingBack/draftOutcome";
import { change } from "@/server/http/serve";

export const PUT = change(contract.setOutcome, (call, { params, body }) =>
  setOutcome(call, params.pieceId!, body),
);
