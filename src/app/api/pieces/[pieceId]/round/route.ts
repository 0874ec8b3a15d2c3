import { contract } from "@/core/api/contract";
import { NotFound } from "@/core/refusals";
import { read } from "@/server/http/serve";
import { roundView } from "@/server/pieces/roundView";

export const GET = read(contract.round, (call, { params, query }) => {
  if (!/^[1-9]\d{0,3}$/.test(query.number ?? "")) throw new NotFound();
  return roundView(call, params.pieceId!, Number(query.number));
});
