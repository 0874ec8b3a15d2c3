import { contract } from "@/core/api/contract";
import { signedOut } from "@/server/http/respondSignIn";
import { endAllSessions, endSession, readToken } from "@/server/auth/sessions";
import { change } from "@/server/http/serve";

export const POST = change(contract.signOut, async ({ tx, who }, { body, request }) => {
  if (body.everywhere) await endAllSessions(tx, who.id);
  else await endSession(tx, readToken(request.headers.get("cookie"))!);
  return signedOut(request) as never;
});
