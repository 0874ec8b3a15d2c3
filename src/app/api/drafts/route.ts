import { contract } from "@/core/api/contract";
import { beginDraft } from "@/server/handouts/drafts";
import { change } from "@/server/http/serve";

export const POST = change(contract.beginDraft, (call, { body }) => beginDraft(call, body));
