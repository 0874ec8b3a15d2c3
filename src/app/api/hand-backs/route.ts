import { contract } from "@/core/api/contract";
import { makeBatch } from "@/server/handingBack/batches";
import { change } from "@/server/http/serve";

export const POST = change(contract.makeHandBack, (call, { body }) =>
  makeBatch(call, { ...body, pieceIds: body.pieceIds }),
);
