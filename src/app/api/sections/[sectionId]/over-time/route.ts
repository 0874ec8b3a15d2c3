import { contract } from "@/core/api/contract";
import { read } from "@/server/http/serve";
import { sectionOverTime } from "@/server/overview/overTime";

export const GET = read(contract.sectionOverTime, (call, { params }) =>
  sectionOverTime(call, params.sectionId!),
);
