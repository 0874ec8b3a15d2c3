import { contract } from "@/core/api/contract";
import { change, read } from "@/server/http/serve";
import { addRubric, listRubrics } from "@/server/rubrics/rubrics";

export const GET = read(contract.rubrics, (call) => listRubrics(call));
export const POST = change(contract.addRubric, (call, { body }) => addRubric(call, body));
