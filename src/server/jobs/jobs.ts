import type { Db, Sql } from "../db/connection";
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
const HELD_MS = 35 * 60_000;

/** Work that is asked for: of two with one kind and key only one waits. */
export type Asked = { kind: string; key: string; payload: Record<string, string> };

/** Asks for work, to be done as soon as someone is free. */
export async function enqueue(db: Db, { kind, key, payload }: Asked, now: Date): Promise<void> {
  await db`
    insert into job (kind, key, payload, run_at, created_at)
    values (${kind}, ${key}, ${db.json(payload)}, ${now}, ${now})
    on conflict (kind, key) do update
    set run_at = least(job.run_at, excluded.run_at), dead_at = null`;
}

/** Does the next piece of work that is due. @returns false when there is none */
export async function runNext(sql: Sql, handlers: Handlers, now: Date): Promise<boolean> {
  const [job] = await sql<Job[]>`
    update job
    set attempts = attempts + 1, held_until = ${new Date(now.getTime() + HELD_MS)}
    where id = (
      select id
      from job
      where dead_at is null and run_at <= ${now} and coalesce(held_until, '-infinity') < ${now}
      order by run_at, id
      limit 1
      for update skip locked
    )
    returning id, kind, payload, attempts`;
  if (!job) return false;
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
  }
  return true;
}

/** Does all that is due, one after the other. */
export async function runAll(sql: Sql, handlers: Handlers, now: Date): Promise<number> {
  let done = 0;
  while (done < 1000 && (await runNext(sql, handlers, now))) done += 1;
  return done;
}
