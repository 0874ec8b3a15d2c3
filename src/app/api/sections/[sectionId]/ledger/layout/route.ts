import { contract } from "@/core/api/contract";
import { change } from "@/server/http/serve";
import { setLayout } from "@/server/ledger/layout";

export const PATCH = change(contract.setLayout, (call, { params, body }) =>
  setLayout(call, params.sectionId!, body),
);
