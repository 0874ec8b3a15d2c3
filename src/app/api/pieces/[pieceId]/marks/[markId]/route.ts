import { contract } from "@/core/api/contract";
import { changeMark, deleteMark } from "@/server/marking/marks";
import { change } from "@/server/http/serve";

export const PATCH = change(contract.changeMark, (call, { params, body, revision }) =>
  changeMark(call, { pieceId: params.pieceId!, markId: params.markId! }, body, revision),
);
export const DELETE = change(contract.deleteMark, (call, { params }) =>
  deleteMark(call, params.pieceId!, params.markId!),
);
