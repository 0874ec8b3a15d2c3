import { contract } from "@/core/api/contract";
import { judgeOne } from "@/server/marking/judging";
import { change } from "@/server/http/serve";

export const PUT = change(contract.judgeOne, (call, { params, body }) =>
  judgeOne(call, params.pieceId!, body),
);
