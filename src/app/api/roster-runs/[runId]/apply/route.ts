import { contract } from "@/core/api/contract";
import { change, type After } from "@/server/http/serve";
import { applyRun, carryOut } from "@/server/roster/runs";

/** Begun in the request, carried out after its transaction has ended. */
const begin: After = ({ who, now }, { params }) => carryOut(who, params.runId!, now);

export const POST = change(
  contract.applyRoster,
  (call, { params }) => applyRun(call, params.runId!),
  begin,
);
