import { contract } from "@/core/api/contract";
import { change } from "@/server/http/serve";
import { flagMany } from "@/server/marking/flag";

export const PUT = change(contract.flagMany, (call, { params, body }) =>
  flagMany(call, params.handOutId!, body),
);
