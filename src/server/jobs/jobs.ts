import type { Db, Sql } from "../db/connection";
import { Refused } from "@/core/refusals";
import { log } from "../log";

/**
 * Work in the background, kept in PostgreSQL: it rides in the transaction that asks for it, and survives every
 * restart. A job can be run twice without harm, since a worker can die after the work and before the note of it.
 */
export type Job = { id: string; kind: string; payload: Record<string, string>; attempts: number };
export type Handlers = Readonly<
  Record<string, (sql: Sql, payload: Record<string, string>, now: Date) => Promise<void>>
>;

const MOST_ATTEMPTS = 5;
/** A worker says so often enough that it is still at it; one that died lets go of its job, and of its owner's turn, soon. */
const HELD_MS = 2 * 60_000;

/** Work that is asked for: of two with one kind and key only one waits. */
export type Asked = {
  kind: string;
  key: string;
  payload: Record<string, string>;
  /** For whom it is: one job of a person runs at a time, so that no one's hundred keep others waiting. */
  ownerId?: string;
};

/** What is quick and waited for goes first; kinds not named here stand in the middle. */
const RANKS: Readonly<Record<string, number>> = {
  handBack: 0,
  mail: 1,
  scores: 1,
  sound: 2,
  aloud: 3,
  transcript: 4,
  rendition: 8,
};
/** Kinds that may take minutes, which one worker leaves to the others. */
const LONG = ["rendition"];

/** So many jobs of one person wait at most; asked before what makes them is taken in. */
const MOST_WAITING = 60;

/** @throws Refused while too much of this person's still waits to be done */
export async function requireRoomForJobs(db: Db, ownerId: string): Promise<void> {
  const [row] = await db<{ n: number }[]>`
    select count(*)::int as n from job where owner_id = ${ownerId} and dead_at is null`;
  if (row!.n >= MOST_WAITING)
    throw new Refused(
      "Many of your files are still being made ready. Wait until they are, then go on; nothing is lost.",
    );
}

/** Asks for work, to be done as soon as someone is free. */
export async function enqueue(
  db: Db,
  { kind, key, payload, ownerId }: Asked,
  now: Date,
): Promise<void> {
  await db`
    insert into job (kind, key, payload, owner_id, rank, run_at, created_at)
    values (
      ${kind}, ${key}, ${db.json(payload)}, ${ownerId ?? null}, ${RANKS[kind] ?? 5}, ${now}, ${now}
    )
    on conflict (kind, key) do update
    set run_at = least(job.run_at, excluded.run_at), dead_at = null`;
}

/**
 * Does the next piece of work that is due: the quicker kind first, of those whose owner has none running.
 * Two workers that choose at the same instant may each take one of the same owner; that once does no harm.
 *
 * @param leaving whether kinds that may take minutes are left to others
 * @returns false when there is none
 */
export async function runNext(
  sql: Sql,
  handlers: Handlers,
  now: Date,
  leaving: "nothing" | "long" = "nothing",
): Promise<boolean> {
  const [job] = await sql<Job[]>`
    update job
    set attempts = attempts + 1, held_until = ${new Date(now.getTime() + HELD_MS)}
    where id = (
      select id
      from job
      where dead_at is null and run_at <= ${now} and coalesce(held_until, '-infinity') < ${now}
        and not kind = any(${leaving === "long" ? LONG : []})
        and not exists (
          select from job running
          where running.owner_id = job.owner_id and running.dead_at is null and running.held_until >= ${now}
        )
      order by rank, run_at, id
      limit 1
      for update skip locked
    )
    returning id, kind, payload, attempts`;
  if (!job) return false;
  const letGo = holdOn(sql, job.id, now);
  try {
    const handler = handlers[job.kind];
    if (!handler) throw new Error(`there is nobody who does “${job.kind}”`);
    await handler(sql, job.payload, now);
    await sql`delete from job where id = ${job.id}`;
  } catch (error) {
    const fault = error instanceof Error ? error.message.slice(0, 400) : "unknown";
    log.warn({ job: job.kind, attempt: job.attempts, fault }, "job failed");
    const dead = job.attempts >= MOST_ATTEMPTS;
    const again = new Date(now.getTime() + 5_000 * 4 ** job.attempts);
    await sql`
      update job
      set held_until = null, fault = ${fault}, run_at = ${again}, dead_at = ${dead ? now : null}
      where id = ${job.id}`;
  } finally {
    letGo();
  }
  return true;
}

/** Renews the hold while the work goes on. @returns what ends that */
function holdOn(sql: Sql, jobId: string, from: Date): () => void {
  const began = performance.now();
  const timer = setInterval(() => {
    const until = new Date(from.getTime() + performance.now() - began + HELD_MS);
    void sql`update job set held_until = ${until} where id = ${jobId} and held_until is not null`.catch(
      () => {},
    );
  }, HELD_MS / 4);
  timer.unref();
  return () => clearInterval(timer);
}

/** Does all that is due, one after the other. */
export async function runAll(sql: Sql, handlers: Handlers, now: Date): Promise<number> {
  let done = 0;
  while (done < 1000 && (await runNext(sql, handlers, now))) done += 1;
  return done;
}
