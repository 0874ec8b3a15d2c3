import { log } from "../log";
import { settings } from "../settings";
import { connect, database, type Sql } from "./connection";
import { inTime } from "./inTime";

/** How often PostgreSQL is asked whether it is there, and how long it may take to say so. */
const EVERY_MS = 1500;
const PATIENCE_MS = 3000;

/**
 * Watches over the pool. When PostgreSQL dies under load, the driver can leave queries behind that are
 * neither answered nor refused; whoever waits for them would wait for ever. So PostgreSQL is asked at
 * short intervals on a connection of its own; when it stops answering, the pool is put away, which
 * refuses all that hangs on it, and again when it is back, so that the application goes on with a
 * fresh one without being restarted.
 */
export function startHeartbeat(): void {
  let probe = connect(settings().databaseUrl, 1);
  let alive = true;
  const beat = async () => {
    const answered = (await inTime(probe`select 1`, PATIENCE_MS)) !== null;
    if (!answered) {
      void probe.end({ timeout: 0 }).catch(() => {});
      probe = connect(settings().databaseUrl, 1);
    }
    if (answered !== alive) {
      alive = answered;
      log.warn({ database: alive ? "back" : "away" }, "the pool begins anew");
      renewPool();
      if (answered) globalThis.almanacHub?.renew();
    }
    setTimeout(() => void beat(), EVERY_MS).unref();
  };
  void beat();
}

function renewPool(): void {
  const old: Sql | undefined = globalThis.almanacSql;
  globalThis.almanacSql = undefined;
  database();
  void old?.end({ timeout: 0 }).catch(() => {});
}
