import path from "node:path";
import workerpool, { type Pool } from "workerpool";
import type { compareKept } from "@/core/text/kept";

/** The functions of the core that a thread can be asked for; each stands in `worker.cjs`. */
type Heavy = { compareKept: typeof compareKept };

const PROGRAM = path.join(process.cwd(), "src/server/threads/worker.cjs");
/** One processor stays for those who wait for a page. */
const AT_ONCE = 1;
const MOST_WAITING = 200;
const MEGABYTES = 512;
/** A thread that nobody has asked for anything for so long gives its memory back. */
const IDLE_MS = 30_000;

let pool: Pool | null = null;
let busy = 0;
let idle: ReturnType<typeof setTimeout> | undefined;

/**
 * Has a heavy function of the core done beside the event loop, so that nobody's request waits for another's.
 *
 * @param seconds the most it may take; then its thread is ended and another begun at the next call
 * @throws Error when it took too long or too much memory, or too many wait
 */
export async function inThread<N extends keyof Heavy>(
  name: N,
  given: Parameters<Heavy[N]>,
  seconds: number,
): Promise<ReturnType<Heavy[N]>> {
  clearTimeout(idle);
  pool ??= workerpool.pool(PROGRAM, {
    workerType: "thread",
    maxWorkers: AT_ONCE,
    maxQueueSize: MOST_WAITING,
    workerThreadOpts: { resourceLimits: { maxOldGenerationSizeMb: MEGABYTES } },
  });
  busy += 1;
  try {
    return (await pool.exec(name, given).timeout(seconds * 1000)) as ReturnType<Heavy[N]>;
  } finally {
    busy -= 1;
    if (busy === 0) idle = setTimeout(() => void endThreads(), IDLE_MS);
    idle?.unref();
  }
}

/** Ends what runs; the next call begins anew. */
export async function endThreads(): Promise<void> {
  const ending = pool;
  pool = null;
  await ending?.terminate(true);
}
