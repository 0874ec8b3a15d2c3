import { contract } from "@/core/api/contract";
import { momentsIn, momentsOut } from "@/server/marking/moments";
import { change, read } from "@/server/http/serve";

export const GET = read(contract.moments, (call, { params }) => momentsOut(call, params.itemId!));
export const POST = change(contract.bringMoments, (call, { params, body }) =>
  momentsIn(call, params.itemId!, body.vtt),
);
