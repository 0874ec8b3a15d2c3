import { contract } from "@/core/api/contract";
import { read } from "@/server/http/serve";
import { readQti } from "@/server/questions/package";

export const POST = read(contract.readQti, (call, { file }) => readQti(call, file));
