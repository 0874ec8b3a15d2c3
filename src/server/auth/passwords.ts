import { hash, verify } from "@node-rs/argon2";

/** Argon2id with the second recommended setting of RFC 9106, section 4 scaled to a web server (OWASP: 19 MiB, t = 2, p = 1). */
const SETTING = { memoryCost: 19_456, timeCost: 2, parallelism: 1 } as const;

export function hashPassword(password: string): Promise<string> {
  return hash(password, SETTING);
}

let nobody: Promise<string> | undefined;

/** For an account that does not exist the same work is done, so that the time tells nothing. */
export async function passwordMatches(password: string, stored: string | null): Promise<boolean> {
  nobody ??= hashPassword("nobody has this password");
  // What is no digest (an account brought in from elsewhere) is matched by nothing.
  const matches = await verify(stored ?? (await nobody), password).catch(() => false);
  return matches && stored !== null;
}
