import autocannon from "autocannon";
import { readFileSync } from "node:fs";
import postgres from "postgres";
import type { ReadCall } from "../../src/server/call";
import { whoIs } from "../../src/server/auth/sessions";
import { connect, type Db, type Sql } from "../../src/server/db/connection";
import { gathering } from "../../src/server/db/gathering";
import { mastheadView } from "../../src/server/overview/school";

/** Pages of the running application: how long each takes, what it asks of the database, what it sends. */
const ORIGIN = process.env.ORIGIN!;
export type Statement = { query: string; parameters: unknown[] };
export type Row = {
  what: string;
  perSecond: string;
  p50: string;
  p95: string;
  p99: string;
  statements: string;
  kB: string;
  processor: string;
  sql: string;
  ratio: string;
};

/** A connection that notes every statement it sends. */
const noted: Statement[] = [];
const noting = postgres(process.env.DATABASE_URL!, {
  max: 1,
  onnotice: () => {},
  transform: { column: { from: postgres.toCamel, to: postgres.fromCamel } },
  debug: (_c, query, parameters) => noted.push({ query, parameters: parameters as unknown[] }),
}) as unknown as Sql;
const sql = connect(process.env.DATABASE_URL!, 4);

export const endPages = () => Promise.all([sql.end(), noting.end()]);

/** What a page and its frame send to the database, as the page asks for it. */
export async function statementsOf(
  token: string,
  work: (call: ReadCall) => Promise<unknown>,
): Promise<Statement[]> {
  const now = new Date();
  const page = async () => {
    const who = (await whoIs(noting as Db, token, now))!;
    const call = { db: gathering(noting), who, now };
    await Promise.all([mastheadView(call), work(call)]);
  };
  // At the first time the columns of each reading are asked for too.
  await page();
  return noteOf(page);
}

export async function noteOf(work: () => Promise<unknown>): Promise<Statement[]> {
  noted.length = 0;
  await work();
  return [...noted];
}
export const healthStatements = (work: (db: Db) => Promise<unknown>) => noteOf(() => work(noting));

/** Milliseconds that the statements take one after the other, the median of many rounds. */
async function timeOf(statements: readonly Statement[]): Promise<number> {
  const times: number[] = [];
  for (let n = 0; n < 60; n += 1) {
    const start = performance.now();
    for (const { query, parameters } of statements) await sql.unsafe(query, parameters as never[]);
    times.push(performance.now() - start);
  }
  return median(times.slice(10));
}

/** Tables that grow with the school: a sequential scan of one of them is a query that grows with it. */
const LARGE = new Set([
  ...["piece", "version", "event", "enrolment", "person", "hand_out", "round"],
  ...["feedback", "mark", "hand_back", "message", "score"],
]);

type Plan = {
  "Node Type": string;
  "Relation Name"?: string;
  "Actual Rows"?: number;
  "Rows Removed by Filter"?: number;
  Plans?: Plan[];
};

/** Statements that read more than a page of a large table, by EXPLAIN ANALYZE. */
export async function scansOf(statements: readonly Statement[]): Promise<string[]> {
  const found: string[] = [];
  for (const { query, parameters } of statements) {
    const [row] = await sql.unsafe(
      `explain (format json, analyze) ${query}`,
      parameters as never[],
    );
    const walk = (node: Plan) => {
      // The planner reads a small table whole; what counts is that it reads more than a page of a large one.
      if (
        node["Node Type"] === "Seq Scan" &&
        LARGE.has(node["Relation Name"] ?? "") &&
        (node["Actual Rows"] ?? 0) + (node["Rows Removed by Filter"] ?? 0) > 2000
      )
        found.push(`${node["Relation Name"]} in: ${query.replace(/\s+/g, " ").slice(0, 90)}`);
      node.Plans?.forEach(walk);
    };
    const [plan] = Object.values(row as unknown as Record<string, [{ Plan: Plan }]>);
    walk(plan![0].Plan);
  }
  return found;
}

type Asked = { path: string; token: string | null; method?: "GET" | "POST" };

function load({ path, token, method = "GET" }: Asked, connections: number) {
  const posts = method === "POST";
  const headers = {
    ...(token ? { cookie: `almanac_session=${token}` } : {}),
    ...(posts ? { origin: ORIGIN, "content-type": "application/json" } : {}),
  };
  const duration = connections === 1 ? 3 : 4;
  const body = posts ? { body: '{"everywhere":false}' } : {};
  return autocannon({ url: ORIGIN + path, connections, duration, headers, method, ...body });
}

/** Milliseconds of processor time that the application has used, all its threads (proc(5): fields 14 and 15, in ticks of 10 ms). */
function processorOf(pid: string): number {
  const fields = readFileSync(`/proc/${pid}/stat`, "utf8").split(") ")[1]!.split(" ");
  return (Number(fields[11]) + Number(fields[12])) * 10;
}

/** One page, first one request at a time and then eight. @param base ms of a bare page, for the ratio */
export async function row(
  what: string,
  asked: Asked,
  statements: readonly Statement[] | null,
  base: number | null,
): Promise<{ row: Row; alone: number }> {
  await load(asked, 2);
  const before = processorOf(process.env.APP_PID!);
  const one = await load(asked, 1);
  const used = processorOf(process.env.APP_PID!) - before;
  const alone = one.latency.average;
  const many = await load(asked, 8);
  const sqlMs = statements ? await timeOf(statements) : null;
  const bytes = one.throughput.average / Math.max(1, one.requests.average);
  const { p50, p97_5, p99 } = many.latency;
  return {
    row: {
      what,
      perSecond: many.requests.average.toFixed(0),
      p50: `${p50}`,
      p95: `${p97_5}`,
      p99: `${p99}`,
      statements: statements ? `${statements.length}` : "–",
      kB: (bytes / 1000).toFixed(0),
      processor: (used / one.requests.total).toFixed(0),
      sql: sqlMs === null ? "–" : sqlMs.toFixed(1),
      ratio: sqlMs !== null && base !== null ? (alone / (sqlMs + base)).toFixed(2) : "",
    },
    alone,
  };
}

export const tableOf = (rows: readonly Row[]) =>
  [
    "| what | requests/s (8 at once) | p50 ms | p97.5 ms | p99 ms | statements | kB sent | processor ms | its SQL alone, ms | one at a time ÷ (SQL + bare page) |",
    "|---|---|---|---|---|---|---|---|---|---|",
    ...rows.map(
      (r) =>
        `| ${[r.what, r.perSecond, r.p50, r.p95, r.p99, r.statements, r.kB, r.processor, r.sql, r.ratio].join(" | ")} |`,
    ),
  ].join("\n");

export const median = (values: readonly number[]) =>
  [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)]!;
