import { contract } from "@/core/api/contract";
import { saveFeedback } from "@/server/marking/draft";
import { change } from "@/server/http/serve";

export const PUT = change(contract.saveFeedback, (call, { params, body, revision }) =>
  saveFeedback(call, params.pieceId!, body, revision),
);
