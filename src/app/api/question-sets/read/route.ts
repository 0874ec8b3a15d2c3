import { contract } from "@/core/api/contract";
import { change } from "@/server/http/serve";
import { readQti } from "@/server/questions/package";

export const POST = change(contract.readQti, (call, { file }) =>
  Promise.resolve(readQti(call, file)),
);
