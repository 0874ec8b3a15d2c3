import { contract } from "@/core/api/contract";
import { change } from "@/server/http/serve";
import { answerLetter } from "@/server/letters/answer";

export const POST = change(contract.answerLetter, (call, { params, body }) =>
  answerLetter(call, params.letterToId!, body),
);
