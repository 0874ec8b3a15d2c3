import { contract } from "@/core/api/contract";
import { read } from "@/server/http/serve";
import { giveClip } from "@/server/speech/giveClip";

export const GET = read(contract.clipSound, (call, { params, query, request }) =>
  giveClip(call, params.clipId!, query.as ?? "", request),
);
