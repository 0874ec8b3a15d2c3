import { contract } from "@/core/api/contract";
import { takeBatchBack } from "@/server/handingBack/batches";
import { change } from "@/server/http/serve";

export const POST = change(contract.takeHandBack, (call, { params }) =>
  takeBatchBack(call, params.batchId!),
);
