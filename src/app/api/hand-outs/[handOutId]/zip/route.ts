import { contract } from "@/core/api/contract";
import { giveWholeHandOut } from "@/server/fetching/wholeHandOut";
import { read } from "@/server/http/serve";

export const GET = read(contract.wholeHandOut, (call, { params }) =>
  giveWholeHandOut(call, params.handOutId!),
);
