import { contract } from "@/core/api/contract";
import { bringIn } from "@/server/comments/exchange";
import { change } from "@/server/http/serve";

export const POST = change(contract.bringIn, (call, { body }) => bringIn(call, body));
