import { contract } from "@/core/api/contract";
import { addReturnedFile } from "@/server/handingBack/files";
import { change } from "@/server/http/serve";

export const POST = change(contract.addReturnedFile, (call, { body }) =>
  addReturnedFile(call, body),
);
