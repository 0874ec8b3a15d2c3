import { contract } from "@/core/api/contract";
import { signIn } from "@/server/auth/signIn";
import { signedIn } from "@/server/http/respondSignIn";
import { database } from "@/server/db/connection";
import { open } from "@/server/http/serve";

export const POST = open(contract.signIn, async ({ body, request, now }) => {
  const address = request.headers.get("x-almanac-address") ?? "unknown";
  return signedIn(request, await signIn(database(), { ...body, address }, now));
});
