import { contract } from "@/core/api/contract";
import { change } from "@/server/http/serve";
import { noteLetterRead } from "@/server/letters/answer";

export const PUT = change(contract.noteLetterRead, (call, { params }) =>
  noteLetterRead(call, params.letterToId!),
);
