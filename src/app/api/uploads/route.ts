import { contract } from "@/core/api/contract";
import { preparedChange } from "@/server/http/serve";
import { addUpload, lookAtUpload } from "@/server/uploads/uploads";

export const POST = preparedChange(
  contract.addUpload,
  (call, { file }) => lookAtUpload(call, file),
  (call, _given, kept) => addUpload(call, kept),
);
