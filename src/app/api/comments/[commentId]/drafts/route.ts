import { contract } from "@/core/api/contract";
import { countDrafts } from "@/server/comments/bank";
import { read } from "@/server/http/serve";

export const GET = read(contract.commentDrafts, (call, { params }) =>
  countDrafts(call, params.commentId!),
);
