import { contract } from "@/core/api/contract";
import { read } from "@/server/http/serve";
import { readClip } from "@/server/speech/clips";

export const GET = read(contract.clip, (call, { params }) => readClip(call, params.clipId!));
