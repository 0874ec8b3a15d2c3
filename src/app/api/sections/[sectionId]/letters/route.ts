import { contract } from "@/core/api/contract";
import { change } from "@/server/http/serve";
import { writeLetter } from "@/server/letters/write";

export const POST = change(contract.writeLetter, (call, { params, body }) =>
  writeLetter(call, params.sectionId!, body),
);
