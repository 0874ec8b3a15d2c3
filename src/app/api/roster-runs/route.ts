import { contract } from "@/core/api/contract";
import { change } from "@/server/http/serve";
import { checkRoster, checkRecords } from "@/server/roster/runs";

export const POST = change(contract.checkRoster, (call, { file, query }) =>
  query.from === "records"
    ? checkRecords(call)
    : checkRoster(call, { ...file, sectionId: null, complete: query.complete === "1" }),
);
