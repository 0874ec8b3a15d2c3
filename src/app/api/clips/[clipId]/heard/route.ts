import { contract } from "@/core/api/contract";
import { change } from "@/server/http/serve";
import { noteHeard } from "@/server/speech/clips";

export const POST = change(contract.clipHeard, (call, { params }) =>
  noteHeard(call, params.clipId!),
);
