import { contract } from "@/core/api/contract";
import { change } from "@/server/http/serve";
import { reportShownMark, showShownMark, takeAwayShownMark } from "@/server/looks/moderate";

export const PUT = change(contract.showShownMark, (call, { params, body }) =>
  showShownMark(call, params.lookMarkId!, body),
);
export const DELETE = change(contract.takeAwayShownMark, (call, { params }) =>
  takeAwayShownMark(call, params.lookMarkId!),
);
export const POST = change(contract.reportShownMark, (call, { params, body }) =>
  reportShownMark(call, params.lookMarkId!, body),
);
