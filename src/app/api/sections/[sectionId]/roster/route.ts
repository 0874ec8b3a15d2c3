import { contract } from "@/core/api/contract";
import { preparedChange } from "@/server/http/serve";
import { keepRun, lookAtRoster } from "@/server/roster/runs";

export const POST = preparedChange(
  contract.checkSectionRoster,
  (call, { params, file, query }) =>
    lookAtRoster(call, {
      ...file,
      sectionId: params.sectionId!,
      complete: query.complete === "1",
    }),
  (call, _given, looked) => keepRun(call, looked),
);
