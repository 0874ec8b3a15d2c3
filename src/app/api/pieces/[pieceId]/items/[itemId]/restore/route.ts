import { contract } from "@/core/api/contract";
import { change } from "@/server/http/serve";
import { restoreItem } from "@/server/items/items";

export const POST = change(contract.restoreItem, (call, { params }) =>
  restoreItem(call, params.pieceId!, params.itemId!),
);
