import { NotFound } from "@/core/refusals";
import { sayTime } from "@/core/time/words";
import type { SessionView } from "@/core/views/accountViews";
import type { Call, Person, ReadCall } from "../call";
import type { Db } from "../db/connection";
import { cookieOf, newToken, readCookie, tokenHash } from "./tokens";

export const COOKIE = "almanac_session";
/** A session ends after so long without use, and in any case after so long. */
const IDLE_HOURS = 12;
const ABSOLUTE_DAYS = 14;
/** How stale "last seen" may grow before it is written again; keeps reading pages from writing. */
const TOUCH_MINUTES = 10;

export const readToken = (cookieHeader: string | null): string | null =>
  readCookie(cookieHeader, COOKIE);

/** Makes a session and returns its token, which is stored nowhere: the database knows only its hash. */
export async function beginSession(
  db: Db,
  personId: string,
  now: Date,
  about = "",
): Promise<string> {
  const token = newToken();
  await db`
    insert into session (token_hash, person_id, created_at, seen_at, about)
    values (${tokenHash(token)}, ${personId}, ${now}, ${now}, ${about.slice(0, 120)})`;
  return token;
}

/** The person a token belongs to, if its session is still good. Index: session's primary key. */
export async function whoIs(db: Db, token: string | null, now: Date): Promise<Person | null> {
  if (!token) return null;
  const idle = new Date(now.getTime() - IDLE_HOURS * 3_600_000);
  const absolute = new Date(now.getTime() - ABSOLUTE_DAYS * 86_400_000);
  const [found] = await db<(Person & { seenAt: Date })[]>`
    select person.id, person.kind, person.name, person.called, person.school_id, school.time_zone as zone, person.must_change, person.language, session.seen_at,
      coalesce(school.kept_by = person.id, false) as keeps_school
    from session
    join person on person.id = session.person_id
    join school on school.id = person.school_id
    where session.token_hash = ${tokenHash(token)}
      and session.seen_at > ${idle}
      and session.created_at > ${absolute}`;
  if (!found) return null;
  const { seenAt, ...who } = found;
  if (now.getTime() - seenAt.getTime() > TOUCH_MINUTES * 60_000) {
    await db`update session set seen_at = ${now} where token_hash = ${tokenHash(token)}`;
  }
  return who;
}

export async function endSession(db: Db, token: string): Promise<void> {
  await db`delete from session where token_hash = ${tokenHash(token)}`;
}

export async function endAllSessions(db: Db, personId: string): Promise<void> {
  await db`delete from session where person_id = ${personId}`;
}

/** Signs a person out everywhere but here. */
export async function endOtherSessions(
  db: Db,
  personId: string,
  token: string | null,
): Promise<void> {
  await db`delete from session where person_id = ${personId} and token_hash <> ${tokenHash(token ?? "")}`;
}

/** Where a person is signed in, the latest use first. Index: session_person. */
export async function listSessions(
  { db, who, now }: ReadCall,
  token: string | null,
): Promise<SessionView[]> {
  const idle = new Date(now.getTime() - IDLE_HOURS * 3_600_000);
  const rows = await db<
    { id: string; about: string; createdAt: Date; seenAt: Date; here: boolean }[]
  >`
    select id, about, created_at, seen_at, token_hash = ${tokenHash(token ?? "")} as here
    from session
    where person_id = ${who.id} and seen_at > ${idle}
    order by here desc, seen_at desc
    limit 50`;
  return rows.map((row) => ({
    id: row.id,
    about: row.about || "a browser",
    here: row.here,
    since: sayTime(row.createdAt, now, who.zone),
    seen: sayTime(row.seenAt, now, who.zone),
  }));
}

/** Ends one of a person's own sessions. */
export async function endOwnSession(
  { tx, who }: Call,
  sessionId: string,
): Promise<{ ended: true }> {
  const [gone] =
    await tx`delete from session where id = ${sessionId} and person_id = ${who.id} returning id`;
  if (!gone) throw new NotFound();
  return { ended: true };
}

/** A browser in words, from what it says of itself. @example sayBrowser("… Firefox/128.0", ) // "Firefox on Linux" */
export function sayBrowser(userAgent: string): string {
  const first = (names: readonly (readonly [RegExp, string])[]) =>
    names.find(([sign]) => sign.test(userAgent))?.[1];
  const browser = first(BROWSERS);
  const system = first(SYSTEMS);
  return [browser ?? "a browser", system && `on ${system}`].filter(Boolean).join(" ");
}

const BROWSERS = [
  [/Firefox\/|FxiOS\//, "Firefox"],
  [/Edg(e|A|iOS)?\//, "Edge"],
  [/OPR\//, "Opera"],
  [/Chrom(e|ium)\/|CriOS\//, "Chrome or Chromium"],
  [/Safari\//, "Safari"],
] as const;
const SYSTEMS = [
  [/Android/, "Android"],
  [/iPhone|iPad/, "iOS"],
  [/Windows/, "Windows"],
  [/CrOS/, "ChromeOS"],
  [/Mac OS X/, "macOS"],
  [/Linux/, "Linux"],
] as const;

/** The Set-Cookie value; an empty token takes the cookie away. Secure only where the address is https. */
export function sessionCookie(token: string, secure: boolean): string {
  const age = token ? ABSOLUTE_DAYS * 86_400 : 0;
  return cookieOf(COOKIE, token, age, secure);
}
