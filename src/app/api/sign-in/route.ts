import { contract } from "@/core/api/contract";
import { readDevice } from "@/server/auth/devices";
import { sayBrowser } from "@/server/auth/sessions";
import { signIn } from "@/server/auth/signIn";
import { signedIn } from "@/server/http/respondSignIn";
import { database } from "@/server/db/connection";
import { open } from "@/server/http/serve";

export const POST = open(contract.signIn, async ({ body, request, now }) => {
  const from = {
    address: request.headers.get("x-almanac-address") ?? "unknown",
    device: readDevice(request.headers.get("cookie")),
    about: sayBrowser(request.headers.get("user-agent") ?? ""),
  };
  return signedIn(request, await signIn(database(), { ...body, ...from }, now));
});
