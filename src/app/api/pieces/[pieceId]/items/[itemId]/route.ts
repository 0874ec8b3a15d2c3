import { contract } from "@/core/api/contract";
import { change } from "@/server/http/serve";
import { removeItem } from "@/server/items/items";

export const PUT = change(contract.changeItem, (call, { params, body }) =>
  removeItem(call, params.pieceId!, params.itemId!, body.removed),
);
