import { createHash, randomBytes } from "node:crypto";

/** A token for a cookie; the database knows only its digest. */
export const newToken = (): string => randomBytes(32).toString("base64url");

export const tokenHash = (token: string): Buffer => createHash("sha256").update(token).digest();

/** The token in a cookie of this name; null where there is none of the right form. */
export function readCookie(header: string | null, name: string): string | null {
  const found = new RegExp(`(?:^|;\\s*)${name}=([A-Za-z0-9_-]{43})(?:;|$)`).exec(header ?? "");
  return found?.[1] ?? null;
}

/** The Set-Cookie value of a token, kept for so many seconds. Secure only where the address is https. */
export const cookieOf = (name: string, token: string, seconds: number, secure: boolean): string =>
  `${name}=${token}; Path=/; HttpOnly; SameSite=Lax; Max-Age=${seconds}${secure ? "; Secure" : ""}`;
