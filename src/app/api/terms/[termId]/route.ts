import { contract } from "@/core/api/contract";
import { deleteTerm, putTerm } from "@/server/office/schoolCalendar";
import { change } from "@/server/http/serve";

export const PUT = change(contract.changeTerm, (call, { params, body }) =>
  putTerm(call, params.termId!, body),
);
export const DELETE = change(contract.deleteTerm, (call, { params }) =>
  deleteTerm(call, params.termId!),
);
