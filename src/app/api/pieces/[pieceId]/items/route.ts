import { contract } from "@/core/api/contract";
import { change, read } from "@/server/http/serve";
import { addItemOrDrop } from "@/server/items/arrive";
import { listItems } from "@/server/items/list";
import { orderItems } from "@/server/items/items";

export const GET = read(contract.items, (call, { params }) => listItems(call, params.pieceId!));
export const POST = addItemOrDrop;
export const PUT = change(contract.orderItems, (call, { params, body }) =>
  orderItems(call, params.pieceId!, body.ids),
);
