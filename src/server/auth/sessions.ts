import { createHash, randomBytes } from "node:crypto";
import type { Person } from "../call";
import type { Db } from "../db/connection";

export const COOKIE = "almanac_session";
/** A session ends after so long without use, and in any case after so long. */
const IDLE_HOURS = 12;
const ABSOLUTE_DAYS = 14;
/** How stale "last seen" may grow before it is written again; keeps reading pages from writing. */
const TOUCH_MINUTES = 10;

export function readToken(cookieHeader: string | null): string | null {
  const found = new RegExp(`(?:^|;\\s*)${COOKIE}=([A-Za-z0-9_-]{43})(?:;|$)`).exec(
    cookieHeader ?? "",
  );
  return found?.[1] ?? null;
}

const hash = (token: string) => createHash("sha256").update(token).digest();

/** Makes a session and returns its token, which is stored nowhere: the database knows only its hash. */
export async function beginSession(db: Db, personId: string, now: Date): Promise<string> {
  const token = randomBytes(32).toString("base64url");
  await db`
    insert into session (token_hash, person_id, created_at, seen_at)
    values (${hash(token)}, ${personId}, ${now}, ${now})`;
  return token;
}

/** The person a token belongs to, if its session is still good. Index: session's primary key. */
export async function whoIs(db: Db, token: string | null, now: Date): Promise<Person | null> {
  if (!token) return null;
  const idle = new Date(now.getTime() - IDLE_HOURS * 3_600_000);
  const absolute = new Date(now.getTime() - ABSOLUTE_DAYS * 86_400_000);
  const [found] = await db<(Person & { seenAt: Date })[]>`
    select person.id, person.kind, person.name, person.called, person.school_id, school.time_zone as zone, session.seen_at
    from session
    join person on person.id = session.person_id
    join school on school.id = person.school_id
    where session.token_hash = ${hash(token)}
      and session.seen_at > ${idle}
      and session.created_at > ${absolute}`;
  if (!found) return null;
  const { seenAt, ...who } = found;
  if (now.getTime() - seenAt.getTime() > TOUCH_MINUTES * 60_000) {
    await db`update session set seen_at = ${now} where token_hash = ${hash(token)}`;
  }
  return who;
}

export async function endSession(db: Db, token: string): Promise<void> {
  await db`delete from session where token_hash = ${hash(token)}`;
}

export async function endAllSessions(db: Db, personId: string): Promise<void> {
  await db`delete from session where person_id = ${personId}`;
}

/** The Set-Cookie value; an empty token takes the cookie away. Secure only where the address is https. */
export function sessionCookie(token: string, secure: boolean): string {
  const age = token ? ABSOLUTE_DAYS * 86_400 : 0;
  return `${COOKIE}=${token}; Path=/; HttpOnly; SameSite=Lax; Max-Age=${age}${secure ? "; Secure" : ""}`;
}
