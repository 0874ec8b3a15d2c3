import { contract } from "@/core/api/contract";
import { withdraw } from "@/server/handouts/withdraw";
import { change } from "@/server/http/serve";

export const POST = change(contract.withdraw, (call, { params, body }) =>
  withdraw(call, params.handOutId!, body.withdrawn),
);
