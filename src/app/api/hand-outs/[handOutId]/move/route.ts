import { contract } from "@/core/api/contract";
import { moveDue } from "@/server/handouts/changeHandOut";
import { change } from "@/server/http/serve";

export const POST = change(contract.moveDue, (call, { params, body }) =>
  moveDue(call, params.handOutId!, body),
);
