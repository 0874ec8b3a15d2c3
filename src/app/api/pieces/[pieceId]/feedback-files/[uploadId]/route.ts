import { contract } from "@/core/api/contract";
import { removeReturnedFile } from "@/server/handingBack/files";
import { change } from "@/server/http/serve";

export const DELETE = change(contract.removeReturnedFile, (call, { params }) =>
  removeReturnedFile(call, params.pieceId!, params.uploadId!),
);
