import { contract } from "@/core/api/contract";
import { freezeTerm } from "@/server/grades/freeze";
import { change } from "@/server/http/serve";

export const POST = change(contract.freezeTerm, (call, { params, body }) =>
  freezeTerm(call, params.sectionId!, body),
);
