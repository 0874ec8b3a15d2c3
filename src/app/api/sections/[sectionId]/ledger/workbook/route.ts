import { contract } from "@/core/api/contract";
import { read } from "@/server/http/serve";
import { ledgerWorkbook } from "@/server/ledger/workbook";

export const GET = read(contract.ledgerWorkbook, (call, { params, query }) =>
  ledgerWorkbook(call, params.sectionId!, query.term ?? null),
);
