import { contract } from "@/core/api/contract";
import { change } from "@/server/http/serve";
import { saveCells } from "@/server/ledger/save";

export const POST = change(contract.saveCells, (call, { params, body }) =>
  saveCells(call, params.sectionId!, body.cells, body.term ?? null),
);
