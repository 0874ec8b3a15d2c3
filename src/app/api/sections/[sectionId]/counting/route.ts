import { contract } from "@/core/api/contract";
import { setCounting } from "@/server/classes/changeSetUp";
import { change } from "@/server/http/serve";

export const PUT = change(contract.setCounting, (call, { params, body }) =>
  setCounting(call, params.sectionId!, body),
);
