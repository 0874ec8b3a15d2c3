import { contract } from "@/core/api/contract";
import { preparedChange } from "@/server/http/serve";
import { keepRun, lookAtRecords, lookAtRoster } from "@/server/roster/runs";

export const POST = preparedChange(
  contract.checkRoster,
  (call, { file, query }) =>
    query.from === "records"
      ? lookAtRecords(call)
      : lookAtRoster(call, { ...file, sectionId: null, complete: query.complete === "1" }),
  (call, _given, looked) => keepRun(call, looked),
);
