import { contract } from "@/core/api/contract";
import { change } from "@/server/http/serve";
import { tryAnswer } from "@/server/questions/answers";

export const POST = change(contract.tryAnswer, (call, { params, body }) =>
  tryAnswer(call, params.pieceId!, body),
);
