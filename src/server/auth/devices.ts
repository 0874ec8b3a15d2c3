import type { Db } from "../db/connection";
import { cookieOf, newToken, readCookie, tokenHash } from "./tokens";

/** The name of a browser's cookie by which it is known again, apart from the session. */
export const DEVICE_COOKIE = "almanac_device";
const KEPT_DAYS = 400;

export const readDevice = (cookieHeader: string | null): string | null =>
  readCookie(cookieHeader, DEVICE_COOKIE);

/** Its digest, where someone has signed in as this person from it before; null otherwise. */
export async function knownDevice(
  db: Db,
  personId: string | undefined,
  token: string | null,
): Promise<Buffer | null> {
  if (!personId || !token) return null;
  const digest = tokenHash(token);
  const [found] =
    await db`select token_hash from device where token_hash = ${digest} and person_id = ${personId}`;
  return found ? digest : null;
}

/** Notes that this browser is this person's. @returns the token it is to keep */
export async function keepDevice(db: Db, personId: string, now: Date): Promise<string> {
  const token = newToken();
  await db`insert into device (token_hash, person_id, seen_at) values (${tokenHash(token)}, ${personId}, ${now})`;
  return token;
}

export const deviceCookie = (token: string, secure: boolean): string =>
  cookieOf(DEVICE_COOKIE, token, KEPT_DAYS * 86_400, secure);

/** Browsers that were not seen for so long, and failures that count for nothing any more. */
export async function dropOldTries(db: Db, now: Date): Promise<void> {
  const ago = (days: number) => new Date(now.getTime() - days * 86_400_000);
  await db`delete from device where seen_at < ${ago(KEPT_DAYS)}`;
  await db`delete from sign_in_failure where at < ${ago(2)}`;
}
