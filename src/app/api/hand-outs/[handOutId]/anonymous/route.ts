import { contract } from "@/core/api/contract";
import { setAnonymous } from "@/server/marking/flag";
import { change } from "@/server/http/serve";

export const PUT = change(contract.setAnonymous, (call, { params, body }) =>
  setAnonymous(call, params.handOutId!, body),
);
