import { contract } from "@/core/api/contract";
import { readBankIn } from "@/server/comments/exchange";
import { change } from "@/server/http/serve";

export const POST = change(contract.readBankIn, (call, { body }) => readBankIn(call, body));
