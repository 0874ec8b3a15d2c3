import { contract } from "@/core/api/contract";
import { putAway } from "@/server/handouts/putAway";
import { change } from "@/server/http/serve";

export const POST = change(contract.putAway, (call, { params, body }) =>
  putAway(call, params.handOutId!, body.away),
);
