import { contract } from "@/core/api/contract";
import { readUses } from "@/server/comments/bank";
import { read } from "@/server/http/serve";

export const GET = read(contract.commentUses, (call, { params }) =>
  readUses(call, params.handOutId!),
);
