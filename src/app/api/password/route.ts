import { contract } from "@/core/api/contract";
import { changeOwnPassword, prepareOwnPassword } from "@/server/auth/givePassword";
import { readToken } from "@/server/auth/sessions";
import { preparedChange } from "@/server/http/serve";

export const PUT = preparedChange(
  contract.changePassword,
  (call, { body }) => prepareOwnPassword(call, body),
  (call, { request }, hash) =>
    changeOwnPassword(call, hash, readToken(request.headers.get("cookie"))),
);
