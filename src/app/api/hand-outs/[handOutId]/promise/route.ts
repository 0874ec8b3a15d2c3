import { contract } from "@/core/api/contract";
import { movePromise } from "@/server/handouts/changeHandOut";
import { change } from "@/server/http/serve";

export const PUT = change(contract.movePromise, (call, { params, body }) =>
  movePromise(call, params.handOutId!, body),
);
