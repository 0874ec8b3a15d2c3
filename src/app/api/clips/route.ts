import { contract } from "@/core/api/contract";
import { preparedChange } from "@/server/http/serve";
import { addOwnClip, lookAtClip } from "@/server/speech/clips";

export const POST = preparedChange(
  contract.addClip,
  (call, { file }) => lookAtClip(call, null, file),
  (call, _given, voice) => addOwnClip(call, voice),
);
