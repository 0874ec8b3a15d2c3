import { contract } from "@/core/api/contract";
import { removeCoTeacher, setCoTeacher } from "@/server/classes/changeSetUp";
import { change } from "@/server/http/serve";

export const PUT = change(contract.setCoTeacher, (call, { params, body }) =>
  setCoTeacher(call, params.sectionId!, params.personId!, body.mayHandBack),
);
export const DELETE = change(contract.removeCoTeacher, (call, { params }) =>
  removeCoTeacher(call, params.sectionId!, params.personId!),
);
