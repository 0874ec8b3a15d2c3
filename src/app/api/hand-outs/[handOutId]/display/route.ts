import { contract } from "@/core/api/contract";
import { change, read } from "@/server/http/serve";
import { closeDisplay, openDisplay, readDisplay } from "@/server/looks/displays";

export const GET = read(contract.display, (call, { params }) =>
  readDisplay(call, params.handOutId!),
);
export const PUT = change(contract.openDisplay, (call, { params, body }) =>
  openDisplay(call, params.handOutId!, body),
);
export const DELETE = change(contract.closeDisplay, (call, { params }) =>
  closeDisplay(call, params.handOutId!),
);
