import { contract } from "@/core/api/contract";
import { deleteClosure, putClosure } from "@/server/office/schoolCalendar";
import { change } from "@/server/http/serve";

export const PUT = change(contract.changeClosure, (call, { params, body }) =>
  putClosure(call, params.closureId!, body),
);
export const DELETE = change(contract.deleteClosure, (call, { params }) =>
  deleteClosure(call, params.closureId!),
);
