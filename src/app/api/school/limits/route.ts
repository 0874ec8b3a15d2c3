import { contract } from "@/core/api/contract";
import { change } from "@/server/http/serve";
import { setLimits } from "@/server/transfers/limits";

export const PUT = change(contract.setLimits, (call, { body }) => setLimits(call, body));
