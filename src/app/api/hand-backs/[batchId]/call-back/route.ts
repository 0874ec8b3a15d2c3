import { contract } from "@/core/api/contract";
import { callBatchBack } from "@/server/handingBack/batches";
import { change } from "@/server/http/serve";

export const POST = change(contract.callHandBack, (call, { params }) =>
  callBatchBack(call, params.batchId!),
);
