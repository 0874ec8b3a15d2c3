import { contract } from "@/core/api/contract";
import { read } from "@/server/http/serve";
import { liveStream, LONGEST } from "@/server/live/stream";

export const GET = read(contract.live, (call, { query, request }) => {
  const seconds = Number(query.seconds ?? LONGEST);
  return liveStream(call, {
    seconds: Number.isFinite(seconds) ? seconds : LONGEST,
    signal: request.signal,
  });
});
