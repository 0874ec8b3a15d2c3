import { contract } from "@/core/api/contract";
import { changeComment, deleteComment } from "@/server/comments/bank";
import { change } from "@/server/http/serve";

export const PUT = change(contract.changeComment, (call, { params, body, revision }) =>
  changeComment(call, params.commentId!, body, revision),
);
export const DELETE = change(contract.deleteComment, (call, { params }) =>
  deleteComment(call, params.commentId!),
);
