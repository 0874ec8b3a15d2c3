import { contract } from "@/core/api/contract";
import { choosePick } from "@/server/marking/across";
import { change } from "@/server/http/serve";

export const PUT = change(contract.choosePick, (call, { params, body, revision }) =>
  choosePick(call, params.pieceId!, { ...body, pick: body.pick ?? null }, revision),
);
