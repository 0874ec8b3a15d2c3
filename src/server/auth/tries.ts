import { sayWait, secondsToWait } from "@/core/access/guessing";
import type { Db, Sql } from "../db/connection";
import { HttpProblem } from "../problem";

/** Who tries to sign in as whom, and from where. */
export type Trying = {
  /** As typed, in lower case. */ account: string;
  address: string;
  /** The browser, where it has signed in to this account before. */ device: Buffer | null;
};

/** Failures count for a day. */
const WINDOW_MS = 86_400_000;
/** So many failures of strange browsers within a minute, from one address: a school's whole class may mistype. */
const MOST_A_MINUTE = 40;

/**
 * Counts a try *before* its password is looked at: it is a failure until it was right, so that many at once are
 * no more than many one after the other. Counted are tries on one account from one address; a browser
 * that has signed in to it before has a count of its own, which nobody else can run up.
 *
 * @throws HttpProblem 429 while it has to wait
 */
export async function countTry(sql: Sql, trying: Trying, now: Date): Promise<void> {
  const { account, address, device } = trying;
  const wait = await sql.begin(async (tx) => {
    const lock = device ? device.toString("hex") : `${account}\n${address}`;
    await tx`select pg_advisory_xact_lock(hashtextextended(${lock}, 0))`;
    const left = await secondsLeft(tx, trying, now);
    if (left === 0)
      await tx`
        insert into sign_in_failure (account, address, device, at)
        values (${account}, ${address}, ${device}, ${now})`;
    return left;
  });
  if (wait === 0) return;
  throw new HttpProblem(
    429,
    "Too many tries.",
    `Wait ${sayWait(wait)} before the next one, or ask the office for a new password.`,
  );
}

async function secondsLeft(db: Db, trying: Trying, now: Date): Promise<number> {
  const { account, address, device } = trying;
  const own = device
    ? db`device = ${device}`
    : db`account = ${account} and address = ${address} and device is null`;
  const since = new Date(now.getTime() - WINDOW_MS);
  const [counted] = await db<{ n: number; last: Date | null }[]>`
    select count(*)::int as n, max(at) as last
    from sign_in_failure
    where ${own} and at > ${since}`;
  const { n, last } = counted!;
  const waited = last ? (now.getTime() - last.getTime()) / 1000 : Infinity;
  const wait = Math.ceil(secondsToWait(n) - waited);
  if (wait > 0 || device) return Math.max(0, wait);
  const minute = new Date(now.getTime() - 60_000);
  const [crowd] = await db<{ n: number }[]>`
    select count(*)::int as n
    from sign_in_failure
    where address = ${address} and device is null and at > ${minute}`;
  return crowd!.n >= MOST_A_MINUTE ? 30 : 0;
}

/** The password was right: what was counted on the way to it is forgotten. */
export async function forgetTries(db: Db, { account, address, device }: Trying): Promise<void> {
  await (device
    ? db`delete from sign_in_failure where device = ${device}`
    : db`delete from sign_in_failure where account = ${account} and address = ${address} and device is null`);
}

/** A new password begins with no failures, wherever they came from. */
export async function forgetAccount(db: Db, personId: string): Promise<void> {
  await db`
    delete from sign_in_failure
    using person
    where person.id = ${personId} and account in (lower(person.email), lower(person.school_name))`;
}
