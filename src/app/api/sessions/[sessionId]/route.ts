import { contract } from "@/core/api/contract";
import { endOwnSession } from "@/server/auth/sessions";
import { change } from "@/server/http/serve";

export const DELETE = change(contract.endSession, (call, { params }) =>
  endOwnSession(call, params.sessionId!),
);
