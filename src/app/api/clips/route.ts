import { contract } from "@/core/api/contract";
import { change } from "@/server/http/serve";
import { addOwnClip } from "@/server/speech/clips";

export const POST = change(contract.addClip, (call, { file }) => addOwnClip(call, file));
