import { contract } from "@/core/api/contract";
import { makeGroup } from "@/server/classes/members";
import { change } from "@/server/http/serve";

export const POST = change(contract.makeGroup, (call, { params, body }) =>
  makeGroup(call, params.sectionId!, body),
);
