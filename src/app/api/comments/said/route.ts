import { contract } from "@/core/api/contract";
import { saidBefore } from "@/server/comments/exchange";
import { change } from "@/server/http/serve";

export const POST = change(contract.saidBefore, (call, { body }) => saidBefore(call, body));
