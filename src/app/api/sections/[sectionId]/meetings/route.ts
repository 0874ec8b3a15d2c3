import { contract } from "@/core/api/contract";
import { setMeetings } from "@/server/classes/changeSetUp";
import { change } from "@/server/http/serve";

export const PUT = change(contract.setMeetings, (call, { params, body }) =>
  setMeetings(call, params.sectionId!, body.meetings),
);
