import postgres from "postgres";
import { settings } from "../settings";

export type Sql = postgres.Sql;
/** A transaction; every use-case gets one and none opens its own. */
export type Tx = postgres.TransactionSql;
/** What a query function needs: it reads as well inside a transaction as outside. */
export type Db = Sql | Tx;

declare global {
  // Development reloads modules; the pool must outlive them.
  var almanacSql: Sql | undefined;
}

/** The pool, made at first use so that building needs no database. */
export function database(): Sql {
  globalThis.almanacSql ??= connect(settings().databaseUrl);
  return globalThis.almanacSql;
}

/**
 * What no statement, lock or half-done transaction may take longer than, in milliseconds. PostgreSQL itself
 * ends what does, so that one that hangs holds up nobody for good. Migrations switch them off for themselves.
 */
const BOUNDS = {
  statement_timeout: 60_000,
  lock_timeout: 10_000,
  idle_in_transaction_session_timeout: 30_000,
};

/**
 * How PostgreSQL plans. Each statement is short: compiling one (which it does by the estimate of its cost) takes longer
 * than running it. And a page far from the last one costs hardly more than the next one, in memory and on a disk without
 * moving parts: with its own estimate (4) it reads the hand-outs of a whole school to find those of one student.
 */
const PLANS = { jit: "off", random_page_cost: "1.1" };

/** A connection that failed is tried again after so long. */
const RETRY_SECONDS = 0.5;

/**
 * A pool for single statements, and one beside it for transactions, behind one face. The driver sends several
 * statements down one connection without waiting, and under pressure a BEGIN sent behind others is not noticed
 * to have begun: what follows would then run in a transaction nobody ends. Where only transactions are
 * begun, no BEGIN stands behind anything; and those who read do not wait for those who change.
 *
 * @param most connections of each that are kept open at most
 */
export function connect(url: string, most = 10): Sql {
  const [reads, changes] = [pool(url, most), pool(url, Math.ceil(most * 0.6))];
  const end = reads.end.bind(reads);
  return Object.assign(reads, {
    begin: changes.begin.bind(changes),
    end: async (options?: { timeout?: number }) => {
      await Promise.all([end(options), changes.end(options)]);
    },
  });
}

function pool(url: string, most: number): Sql {
  return postgres(url, {
    max: most,
    connection: { application_name: "almanac", ...PLANS, ...BOUNDS },
    // A new connection has to learn every statement anew, which takes longer than most of them; so it stays for half an hour.
    idle_timeout: 1800,
    connect_timeout: 5,
    // By itself the driver waits up to twenty seconds before it tries again, counting the failures of all connections
    // together: who asks while PostgreSQL is away would get no answer at all.
    backoff: () => RETRY_SECONDS,
    onnotice: () => {},
    transform: { column: { from: postgres.toCamel, to: postgres.fromCamel } },
    types: {
      // bigint counts here (revisions, sizes) stay far below 2^53.
      bigint: { to: 20, from: [20], serialize: (n: number) => String(n), parse: Number },
      // Calendar days stay text: a Date would put a time and a zone on them.
      day: { to: 1082, from: [1082], serialize: (day: string) => day, parse: (day: string) => day },
    },
  }) as unknown as Sql;
}
