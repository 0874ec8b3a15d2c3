import { contract } from "@/core/api/contract";
import { freezeTerm, openTerm } from "@/server/grades/freeze";
import { change } from "@/server/http/serve";

export const POST = change(contract.freezeTerm, (call, { params, body }) =>
  freezeTerm(call, params.sectionId!, body),
);
export const DELETE = change(contract.openTerm, (call, { params, body }) =>
  openTerm(call, params.sectionId!, body),
);
