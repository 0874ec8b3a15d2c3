import { contract } from "@/core/api/contract";
import { change, read } from "@/server/http/serve";
import { endLook } from "@/server/looks/endLook";
import { readLook, sayInLook } from "@/server/looks/shownWork";

export const GET = read(contract.look, (call, { params }) => readLook(call, params.lookId!));
export const POST = change(contract.sayInLook, (call, { params, body }) =>
  sayInLook(call, params.lookId!, body),
);
export const PUT = change(contract.endLook, (call, { params, body }) =>
  endLook(call, params.lookId!, body),
);
