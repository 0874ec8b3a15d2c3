import { contract } from "@/core/api/contract";
import { read } from "@/server/http/serve";
import { readingPlanFile } from "@/server/overview/readingPlan";

export const GET = read(contract.readingPlan, (call) => readingPlanFile(call));
