import { deviceCookie } from "../auth/devices";
import { ownOrigin } from "./serve";
import { sessionCookie } from "../auth/sessions";
import type { SignedIn } from "../auth/signIn";

const secure = (request: Request) => ownOrigin(request).startsWith("https:");

export function signedIn(request: Request, { token, to, device }: SignedIn): Response {
  const headers = new Headers({ "cache-control": "no-store" });
  headers.append("set-cookie", sessionCookie(token, secure(request)));
  if (device) headers.append("set-cookie", deviceCookie(device, secure(request)));
  return Response.json({ to }, { headers });
}

/** Besides the cookie, what pages kept in the browser's cache goes too. */
export function signedOut(request: Request): Response {
  return Response.json(
    { to: "/sign-in" },
    {
      headers: {
        "set-cookie": sessionCookie("", secure(request)),
        "cache-control": "no-store",
        "clear-site-data": '"cache"',
      },
    },
  );
}
