import { contract } from "@/core/api/contract";
import { acrossCriterion } from "@/server/marking/across";
import { read } from "@/server/http/serve";

export const GET = read(contract.acrossCriterion, (call, { params, query }) =>
  acrossCriterion(call, params.handOutId!, query.criterion ?? null),
);
