import { contract } from "@/core/api/contract";
import { addMark } from "@/server/marking/marks";
import { change } from "@/server/http/serve";

export const POST = change(contract.addMark, (call, { params, body }) =>
  addMark(call, params.pieceId!, body),
);
