import { contract } from "@/core/api/contract";
import { read } from "@/server/http/serve";
import { giveUpload } from "@/server/uploads/give";

export const GET = read(contract.upload, (call, { params, request }) =>
  giveUpload(call, params.uploadId!, request),
);
