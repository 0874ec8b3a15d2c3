import { contract } from "@/core/api/contract";
import { handOut } from "@/server/handouts/handOut";
import { change } from "@/server/http/serve";

export const POST = change(contract.handOut, (call, { body }) => handOut(call, body));
