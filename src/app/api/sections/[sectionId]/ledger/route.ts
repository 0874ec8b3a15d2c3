import { contract } from "@/core/api/contract";
import { ledgerOut } from "@/server/ledger/out";
import { read } from "@/server/http/serve";

export const GET = read(contract.ledgerOut, (call, { params }) =>
  ledgerOut(call, params.sectionId!),
);
