import { contract } from "@/core/api/contract";
import { change } from "@/server/http/serve";
import { extendMany } from "@/server/handouts/extendMany";

export const PUT = change(contract.extendMany, (call, { params, body }) =>
  extendMany(call, params.handOutId!, body),
);
