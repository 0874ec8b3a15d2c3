import { database } from "../db/connection";
import { log } from "../log";
import { now } from "../settings";
import { HANDLERS } from "./handlers";
import { runNext } from "../jobs/jobs";

const PAUSE_MS = 700;
/** Two for everything, so that a long film does not keep a page waiting; one that never takes what may be long. */
const WORKERS = ["nothing", "nothing", "long"] as const;

/** Goes on doing what is due for as long as the application runs; several applications share the work. */
export function startWorker(): void {
  let failing = false;
  const turn = async (leaving: (typeof WORKERS)[number]) => {
    const more = await runNext(database(), HANDLERS, now(), leaving).then(
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
    setTimeout(() => void turn(leaving), more ? 0 : PAUSE_MS).unref();
  };
  WORKERS.forEach((leaving, n) =>
    setTimeout(() => void turn(leaving), (n * PAUSE_MS) / WORKERS.length).unref(),
  );
}
