import { contract } from "@/core/api/contract";
import { read } from "@/server/http/serve";
import { readAloud } from "@/server/speech/aloud";

export const POST = read(contract.readAloud, (call, { body, request }) =>
  readAloud(call, body.text, request),
);
