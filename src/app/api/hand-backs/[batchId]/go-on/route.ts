import { contract } from "@/core/api/contract";
import { goOnWithBatch } from "@/server/handingBack/batches";
import { change } from "@/server/http/serve";

export const POST = change(contract.goOnHandBack, (call, { params }) =>
  goOnWithBatch(call, params.batchId!),
);
