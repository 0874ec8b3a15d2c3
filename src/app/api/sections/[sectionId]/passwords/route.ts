import { contract } from "@/core/api/contract";
import { giveFirstPasswords, prepareFirstPasswords } from "@/server/auth/givePassword";
import { preparedChange } from "@/server/http/serve";

export const POST = preparedChange(
  contract.giveFirstPasswords,
  (call, { params, body }) =>
    prepareFirstPasswords(call, params.sectionId!, body.studentIds.length),
  (call, { params, body }, made) =>
    giveFirstPasswords(call, params.sectionId!, body.studentIds, made),
);
