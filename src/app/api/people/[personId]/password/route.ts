import { contract } from "@/core/api/contract";
import { preparedChange } from "@/server/http/serve";
import { givePassword, prepareNewPassword } from "@/server/auth/givePassword";

export const POST = preparedChange(
  contract.givePassword,
  prepareNewPassword,
  (call, { params }, made) => givePassword(call, params.personId!, made),
);
