import { contract } from "@/core/api/contract";
import { change } from "@/server/http/serve";
import { reportAnswer, showAnswer, takeAwaySaid } from "@/server/sectionNotes/sectionNotes";

export const PUT = change(contract.showAnswer, (call, { params, body }) =>
  showAnswer(call, params.sectionNoteId!, body),
);
export const DELETE = change(contract.takeAwaySaid, (call, { params }) =>
  takeAwaySaid(call, params.sectionNoteId!),
);
export const POST = change(contract.reportAnswer, (call, { params, body }) =>
  reportAnswer(call, params.sectionNoteId!, body),
);
