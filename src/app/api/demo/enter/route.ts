import { contract } from "@/core/api/contract";
import { NotFound } from "@/core/refusals";
import { enterDemo } from "@/server/auth/signIn";
import { signedIn } from "@/server/http/respondSignIn";
import { database } from "@/server/db/connection";
import { open } from "@/server/http/serve";
import { settings } from "@/server/settings";

export const POST = open(contract.enterDemo, async ({ body, request, now }) => {
  // Outside demo mode this way in does not exist.
  const entered =
    settings().mode === "demo" ? await enterDemo(database(), body.personId, now) : null;
  if (!entered) throw new NotFound();
  return signedIn(request, entered);
});
