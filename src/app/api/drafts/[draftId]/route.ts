import { contract } from "@/core/api/contract";
import { deleteDraft, saveDraft } from "@/server/handouts/drafts";
import { change } from "@/server/http/serve";

export const PUT = change(contract.saveDraft, (call, { params, body, revision }) =>
  saveDraft(call, params.draftId!, body, revision),
);
export const DELETE = change(contract.deleteDraft, (call, { params }) =>
  deleteDraft(call, params.draftId!),
);
