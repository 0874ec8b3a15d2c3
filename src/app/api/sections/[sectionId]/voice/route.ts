import { contract } from "@/core/api/contract";
import { setVoice } from "@/server/classes/changeSetUp";
import { change } from "@/server/http/serve";

export const PUT = change(contract.setVoice, (call, { params, body }) =>
  setVoice(call, params.sectionId!, body),
);
