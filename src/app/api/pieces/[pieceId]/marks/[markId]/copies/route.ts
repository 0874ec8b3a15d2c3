import { contract } from "@/core/api/contract";
import { copyMark } from "@/server/marking/copyMark";
import { change } from "@/server/http/serve";

export const POST = change(contract.copyMark, (call, { params, body }) =>
  copyMark(call, { pieceId: params.pieceId!, markId: params.markId! }, body),
);
