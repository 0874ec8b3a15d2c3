import { contract } from "@/core/api/contract";
import { bringIn, readBankIn } from "@/server/comments/exchange";
import { preparedChange } from "@/server/http/serve";

export const POST = preparedChange(
  contract.bringIn,
  (call, { body }) => readBankIn(call, body),
  (call, { body }, read) => bringIn(call, body, read),
);
