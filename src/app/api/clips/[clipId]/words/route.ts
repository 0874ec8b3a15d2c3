import { contract } from "@/core/api/contract";
import { change, read } from "@/server/http/serve";
import { bringWords, changeWords, giveVtt } from "@/server/speech/words";

export const GET = read(contract.clipWords, (call, { params }) => giveVtt(call, params.clipId!));
export const PUT = change(contract.changeClipWords, (call, { params, body, revision }) =>
  changeWords(call, params.clipId!, body, revision),
);
export const POST = change(contract.bringClipWords, (call, { params, body }) =>
  bringWords(call, params.clipId!, body.vtt),
);
