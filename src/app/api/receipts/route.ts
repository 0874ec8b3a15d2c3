import { contract } from "@/core/api/contract";
import { read } from "@/server/http/serve";
import { checkReceipt } from "@/server/pieces/receipts";

export const GET = read(contract.checkReceipt, (call, { query }) =>
  checkReceipt(call, query.code ?? ""),
);
