import { contract } from "@/core/api/contract";
import { read } from "@/server/http/serve";
import { readRun } from "@/server/roster/runs";

export const GET = read(contract.rosterRun, (call, { params }) => readRun(call, params.runId!));
