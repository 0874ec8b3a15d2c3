import { contract } from "@/core/api/contract";
import { change } from "@/server/http/serve";
import { checkRoster } from "@/server/roster/runs";

export const POST = change(contract.checkSectionRoster, (call, { params, file, query }) =>
  checkRoster(call, { ...file, sectionId: params.sectionId!, complete: query.complete === "1" }),
);
