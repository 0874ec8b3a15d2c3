import { contract } from "@/core/api/contract";
import { read } from "@/server/http/serve";
import { giveItem } from "@/server/items/give";

export const GET = read(contract.item, (call, { params, query, request }) =>
  giveItem(call, params.itemId!, query.as ?? "original", request),
);
