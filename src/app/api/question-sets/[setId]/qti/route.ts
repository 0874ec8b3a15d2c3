import { contract } from "@/core/api/contract";
import { read } from "@/server/http/serve";
import { giveQti } from "@/server/questions/package";

export const GET = read(contract.questionSetQti, (call, { params }) =>
  giveQti(call, params.setId!),
);
