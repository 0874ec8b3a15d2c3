import { contract } from "@/core/api/contract";
import { change } from "@/server/http/serve";
import { changeSet, deleteSet } from "@/server/questions/sets";

export const PUT = change(contract.changeQuestionSet, (call, { params, body, revision }) =>
  changeSet(call, params.setId!, body, revision),
);
export const DELETE = change(contract.deleteQuestionSet, (call, { params }) =>
  deleteSet(call, params.setId!),
);
