import { contract } from "@/core/api/contract";
import { change } from "@/server/http/serve";
import { addUpload } from "@/server/uploads/uploads";

export const POST = change(contract.addUpload, (call, { file }) => addUpload(call, file));
