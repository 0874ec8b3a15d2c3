import { contract } from "@/core/api/contract";
import { markLookedAt } from "@/server/handingBack/lookedAt";
import { change } from "@/server/http/serve";

export const POST = change(contract.markLookedAt, (call, { body }) => markLookedAt(call, body));
