import { database } from "../db/connection";
import { log } from "../log";
import { now } from "../settings";
import { HANDLERS } from "./handlers";
import { runNext } from "../jobs/jobs";

const PAUSE_MS = 700;
/** A long film does not keep a page waiting. */
const AT_ONCE = 2;

/** Goes on doing what is due for as long as the application runs; several applications share the work. */
export function startWorker(): void {
  let failing = false;
  const turn = async () => {
    const more = await runNext(database(), HANDLERS, now()).then(
      (took) => {
        if (failing) log.info("work is taken again");
        failing = false;
        return took;
      },
      (error: unknown) => {
        // PostgreSQL may be away for a while: that is said once, and asked again at the next turn.
        const fault = error instanceof Error ? error.message : "unknown";
        if (!failing) log.error({ fault }, "no work could be taken");
        failing = true;
        return false;
      },
    );
    setTimeout(() => void turn(), more ? 0 : PAUSE_MS).unref();
  };
  for (let n = 0; n < AT_ONCE; n += 1)
    setTimeout(() => void turn(), (n * PAUSE_MS) / AT_ONCE).unref();
}
