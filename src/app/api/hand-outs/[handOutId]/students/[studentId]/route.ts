import { contract } from "@/core/api/contract";
import { giveTo } from "@/server/handouts/exceptions";
import { change } from "@/server/http/serve";

export const PUT = change(contract.giveTo, (call, { params, body }) =>
  giveTo(call, params.handOutId!, params.studentId!, body.given),
);
