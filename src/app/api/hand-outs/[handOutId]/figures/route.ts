import { contract } from "@/core/api/contract";
import { read } from "@/server/http/serve";
import { readFigures } from "@/server/overview/figures";

export const GET = read(contract.sheetFigures, (call, { params }) =>
  readFigures(call, params.handOutId!),
);
