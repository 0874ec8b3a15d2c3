import { contract } from "@/core/api/contract";
import { read } from "@/server/http/serve";
import { ledgerOneRoster } from "@/server/ledger/oneRoster";

export const GET = read(contract.ledgerOneRoster, (call, { params, query }) =>
  ledgerOneRoster(call, params.sectionId!, query.term ?? null),
);
