import { contract } from "@/core/api/contract";
import { answerMark } from "@/server/pieces/answers";
import { change } from "@/server/http/serve";

export const PUT = change(contract.answerMark, (call, { params, body }) =>
  answerMark(call, params.pieceId!, params.markId!, body),
);
