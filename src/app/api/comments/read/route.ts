import { contract } from "@/core/api/contract";
import { readBankIn } from "@/server/comments/exchange";
import { read } from "@/server/http/serve";

export const POST = read(contract.readBankIn, (call, { body }) => readBankIn(call, body));
