import { contract } from "@/core/api/contract";
import { acrossQuestions } from "@/server/marking/judgements";
import { judgeAll } from "@/server/marking/judging";
import { change, read } from "@/server/http/serve";

export const GET = read(contract.acrossQuestions, (call, { params }) =>
  acrossQuestions(call, params.handOutId!),
);
export const PUT = change(contract.judgeAll, (call, { params, body }) =>
  judgeAll(call, params.handOutId!, body),
);
