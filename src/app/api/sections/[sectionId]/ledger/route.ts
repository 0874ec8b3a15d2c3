import { contract } from "@/core/api/contract";
import { ledgerOut } from "@/server/ledger/out";
import { read } from "@/server/http/serve";

export const GET = read(contract.ledgerOut, (call, { params, query }) =>
  ledgerOut(call, params.sectionId!, query.term ?? null),
);
