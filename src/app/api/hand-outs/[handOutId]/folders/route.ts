import { contract } from "@/core/api/contract";
import { folderCodes } from "@/server/fetching/wholeHandOut";
import { read } from "@/server/http/serve";

export const GET = read(contract.folderCodes, (call, { params }) =>
  folderCodes(call, params.handOutId!),
);
