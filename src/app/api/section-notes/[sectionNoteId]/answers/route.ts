import { contract } from "@/core/api/contract";
import { change } from "@/server/http/serve";
import { answerToClass } from "@/server/sectionNotes/sectionNotes";

export const POST = change(contract.answerToClass, (call, { params, body }) =>
  answerToClass(call, params.sectionNoteId!, body),
);
