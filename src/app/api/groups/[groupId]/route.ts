import { contract } from "@/core/api/contract";
import { changeGroup, deleteGroup } from "@/server/classes/members";
import { change } from "@/server/http/serve";

export const PUT = change(contract.changeGroup, (call, { params, body, revision }) =>
  changeGroup(call, params.groupId!, body, revision),
);
export const DELETE = change(contract.deleteGroup, (call, { params }) =>
  deleteGroup(call, params.groupId!),
);
