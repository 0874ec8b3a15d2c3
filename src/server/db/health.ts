import { HttpProblem } from "../problem";
import { settings } from "../settings";
import { connect, database } from "./connection";
import { inTime } from "./inTime";
import { migrationLevel } from "./migrationLevel";

/** Whoever asks how it is going is told within a second, also when it is going badly. */
const PATIENCE_MS = 1000;

export type Health = { application: string; database: string; migration: string | null };

/**
 * Whether statements are answered as everybody's are, through the pool.
 *
 * @throws HttpProblem 503 saying whether PostgreSQL is away, or answers while all connections are taken
 */
export async function readHealth(): Promise<Health> {
  const level = migrationLevel(database());
  const answered = await inTime(
    level.then((migration) => ({ migration })),
    PATIENCE_MS,
  );
  if (answered) return { application: "ok", database: "ok", ...answered };
  const probe = connect(settings().databaseUrl, 1);
  const alive = await inTime(probe`select 1`, PATIENCE_MS);
  void probe.end({ timeout: 0 }).catch(() => {});
  throw alive
    ? new HttpProblem(
        503,
        "Almanac is busier than it can be just now.",
        "The database answers, but every connection to it is taken.",
      )
    : new HttpProblem(
        503,
        "Almanac cannot reach its database just now.",
        "The database does not answer. Nothing was changed; what is written is kept on each device.",
      );
}
