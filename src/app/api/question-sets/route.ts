import { contract } from "@/core/api/contract";
import { change, read } from "@/server/http/serve";
import { addSet, listSets } from "@/server/questions/sets";

export const GET = read(contract.questionSets, (call) => listSets(call));
export const POST = change(contract.addQuestionSet, (call, { body }) => addSet(call, body));
