import { contract } from "@/core/api/contract";
import { change } from "@/server/http/serve";
import { changeRubric, deleteRubric } from "@/server/rubrics/rubrics";

export const PUT = change(contract.changeRubric, (call, { params, body, revision }) =>
  changeRubric(call, params.rubricId!, body, revision),
);
export const DELETE = change(contract.deleteRubric, (call, { params }) =>
  deleteRubric(call, params.rubricId!),
);
