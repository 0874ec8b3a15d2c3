import { contract } from "@/core/api/contract";
import { readBank, addComment } from "@/server/comments/bank";
import { change, read } from "@/server/http/serve";

export const GET = read(contract.comments, readBank);
export const POST = change(contract.addComment, (call, { body }) => addComment(call, body));
