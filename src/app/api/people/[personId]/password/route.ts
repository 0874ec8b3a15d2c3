import { contract } from "@/core/api/contract";
import { givePassword } from "@/server/auth/givePassword";
import { change } from "@/server/http/serve";

export const POST = change(contract.givePassword, (call, { params }) =>
  givePassword(call, params.personId!),
);
