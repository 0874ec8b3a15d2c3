import { contract } from "@/core/api/contract";
import { change, read } from "@/server/http/serve";
import { readShownOfSheet } from "@/server/looks/ofSheet";
import { endLookRule, setLookRule } from "@/server/looks/rules";

export const GET = read(contract.shownOfSheet, (call, { params }) =>
  readShownOfSheet(call, params.handOutId!),
);
export const PUT = change(contract.setLookRule, (call, { params, body }) =>
  setLookRule(call, params.handOutId!, body),
);
export const DELETE = change(contract.endLookRule, (call, { params }) =>
  endLookRule(call, params.handOutId!),
);
