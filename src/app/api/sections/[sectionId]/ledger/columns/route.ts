import { contract } from "@/core/api/contract";
import { change } from "@/server/http/serve";
import { addColumn } from "@/server/ledger/addColumn";

export const POST = change(contract.addColumn, (call, { params, body }) =>
  addColumn(call, params.sectionId!, body),
);
