import { contract } from "@/core/api/contract";
import { openTerm } from "@/server/grades/freeze";
import { change } from "@/server/http/serve";

export const POST = change(contract.openTerm, (call, { params, body }) =>
  openTerm(call, params.sectionId!, body),
);
