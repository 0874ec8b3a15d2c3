import path from "node:path";
import workerpool, { type Pool } from "workerpool";
import { Refused } from "@/core/refusals";
import type { Person } from "../call";
import { log } from "../log";
import { Turns } from "../programs/turns";
import type * as heavy from "../reading/heavy";

type Heavy = typeof heavy;
type Given<N extends keyof Heavy> = Parameters<Heavy[N]>;
type Made<N extends keyof Heavy> = Awaited<ReturnType<Heavy[N]>>;

const PROGRAM = path.join(process.cwd(), "src/server/reading/thread.cjs");
/** So that one who sends a whole school's roster does not keep a comparison waiting. */
const AT_ONCE = 2;
const MOST_WAITING = 200;
const MEGABYTES = 512;
/** A thread that nobody has asked for anything for so long gives its memory back. */
const IDLE_MS = 30_000;

let pool: Pool | null = null;
let busy = 0;
let idle: ReturnType<typeof setTimeout> | undefined;

/**
 * Has a heavy function done beside the event loop, so that nobody's request waits for another's.
 *
 * @param seconds the most it may take; then its thread is ended and another begun at the next call
 * @throws Error when it took too long or too much memory, or too many wait
 */
export async function inThread<N extends keyof Heavy>(
  name: N,
  given: Given<N>,
  seconds: number,
): Promise<Made<N>> {
  clearTimeout(idle);
  pool ??= workerpool.pool(PROGRAM, {
    workerType: "thread",
    maxWorkers: AT_ONCE,
    maxQueueSize: MOST_WAITING,
    workerThreadOpts: { resourceLimits: { maxOldGenerationSizeMb: MEGABYTES } },
  });
  busy += 1;
  try {
    return (await pool.exec(name, given).timeout(seconds * 1000)) as Made<N>;
  } finally {
    busy -= 1;
    if (busy === 0) idle = setTimeout(() => void endThreads(), IDLE_MS);
    idle?.unref();
  }
}

const READING = new Turns(1, 4);
const SECONDS = 20;

/**
 * Reads what a person sent, in a thread and one thing of theirs at a time; reading one file does not keep
 * those waiting whose texts are compared.
 *
 * @throws Refused, where it would take longer than any such file does
 */
export async function readInThread<N extends keyof Heavy>(
  who: Pick<Person, "id">,
  name: N,
  given: Given<N>,
): Promise<Made<N>> {
  return READING.take(who.id, () =>
    inThread(name, given, SECONDS).catch((error: unknown) => {
      log.warn({ name, fault: error instanceof Error ? error.message : "unknown" }, "not read");
      throw new Refused("This cannot be read in reasonable time. Nothing was changed.");
    }),
  );
}

/** Ends what runs; the next call begins anew. */
export async function endThreads(): Promise<void> {
  const ending = pool;
  pool = null;
  await ending?.terminate(true);
}
