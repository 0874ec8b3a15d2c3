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

/** @param most connections kept open at most */
export function connect(url: string, most = 10): Sql {
  return postgres(url, {
    max: most,
    idle_timeout: 60,
    connect_timeout: 5,
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
