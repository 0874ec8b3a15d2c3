import { contract } from "@/core/api/contract";
import { setMember } from "@/server/classes/members";
import { change } from "@/server/http/serve";

export const PUT = change(contract.setMember, (call, { params, body }) =>
  setMember(call, params.sectionId!, params.studentId!, body),
);
