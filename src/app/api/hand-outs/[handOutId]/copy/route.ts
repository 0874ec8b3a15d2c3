import { contract } from "@/core/api/contract";
import { copyHandOut } from "@/server/handouts/drafts";
import { change } from "@/server/http/serve";

export const POST = change(contract.copyHandOut, (call, { params, body }) =>
  copyHandOut(call, params.handOutId!, body.sectionIds),
);
