import { contract } from "@/core/api/contract";
import { setSetting } from "@/server/marking/desk/setting";
import { change } from "@/server/http/serve";

export const PUT = change(contract.setSetting, (call, { body }) => setSetting(call, body));
