import { contract } from "@/core/api/contract";
import { readBatch } from "@/server/handingBack/batches";
import { read } from "@/server/http/serve";

export const GET = read(contract.handBackAct, (call, { params }) =>
  readBatch(call, params.batchId!),
);
