import { contract } from "@/core/api/contract";
import { changeHandOut } from "@/server/handouts/changeHandOut";
import { deleteHandOut } from "@/server/handouts/withdraw";
import { change } from "@/server/http/serve";

export const PUT = change(contract.changeHandOut, (call, { params, body, revision }) =>
  changeHandOut(call, params.handOutId!, body, revision),
);
export const DELETE = change(contract.deleteHandOut, (call, { params }) =>
  deleteHandOut(call, params.handOutId!),
);
