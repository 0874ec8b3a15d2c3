import autocannon from "autocannon";
import { writeFile } from "node:fs/promises";
import os from "node:os";
import postgres from "postgres";
import { uuidv7 } from "uuidv7";
import { reattach } from "../../src/core/marks/reattach";
import { writeLongText } from "../../src/core/marks/trackedText.testing";
import { chance, seeded, upTo } from "../../demo/random";
import { beginSession, whoIs } from "../../src/server/auth/sessions";
import { connect, type Db, type Sql } from "../../src/server/db/connection";
import type { ReadCall } from "../../src/server/call";
import { readBank } from "../../src/server/comments/bank";
import { deskPiece } from "../../src/server/marking/desk/deskPiece";
import { queueView } from "../../src/server/overview/queue";
import { mastheadView, ribbonView } from "../../src/server/overview/school";
import { ledgerView, sectionView } from "../../src/server/overview/sections";
import { todayView } from "../../src/server/overview/today";
import { workView } from "../../src/server/overview/work";
import { migrationLevel } from "../../src/server/db/migrationLevel";
import { handIn } from "../../src/server/pieces/moves";
import { emptyPlan, type Plan as HandOutPlan } from "../../src/core/handouts/plan";
import { handOut } from "../../src/server/handouts/handOut";
import { handOutFormView } from "../../src/server/handouts/formView";
import { monthView } from "../../src/server/calendar/calendarView";
import { studentLines } from "./studentSide";
import { deskLines } from "./desk";
import { textLines } from "./texts";
import { voiceLines } from "./voice";
import { fillMonth, handOutLines, rosterLines } from "./handingOut";

const ORIGIN = process.env.ORIGIN!;
type Statement = { query: string; parameters: unknown[] };
type Row = {
  what: string;
  perSecond: string;
  p50: string;
  p95: string;
  p99: string;
  sql: string;
  ratio: string;
};

/** A connection that notes every statement it sends. */
const noted: Statement[] = [];
const noting = postgres(process.env.DATABASE_URL!, {
  max: 1,
  onnotice: () => {},
  transform: { column: { from: postgres.toCamel } },
  debug: (_c, query, parameters) => noted.push({ query, parameters: parameters as unknown[] }),
}) as unknown as Sql;
const sql = connect(process.env.DATABASE_URL!, 4);

async function statementsOf(
  token: string,
  work: (call: ReadCall) => Promise<unknown>,
): Promise<Statement[]> {
  await noting`select 1`;
  noted.length = 0;
  const now = new Date();
  const who = (await whoIs(noting as Db, token, now))!;
  await mastheadView({ db: noting as Db, who, now });
  await work({ db: noting as Db, who, now });
  return [...noted];
}

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
  "piece",
  "version",
  "event",
  "enrolment",
  "person",
  "hand_out",
  "round",
  "feedback",
  "mark",
  "hand_back",
  "message",
  "score",
]);

async function scansOf(statements: readonly Statement[]): Promise<string[]> {
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
    walk(
      (row as unknown as Record<"QUERY PLAN" | "queryPlan", [{ Plan: Plan }]>)[
        row && "QUERY PLAN" in row ? "QUERY PLAN" : "queryPlan"
      ][0].Plan,
    );
  }
  return found;
}
type Plan = {
  "Node Type": string;
  "Relation Name"?: string;
  "Actual Rows"?: number;
  "Rows Removed by Filter"?: number;
  Plans?: Plan[];
};

async function load(
  path: string,
  token: string | null,
  connections: number,
  method: "GET" | "POST" = "GET",
) {
  const headers = {
    ...(token ? { cookie: `almanac_session=${token}` } : {}),
    ...(method === "POST" ? { origin: ORIGIN, "content-type": "application/json" } : {}),
  };
  return autocannon({
    url: ORIGIN + path,
    connections,
    duration: connections === 1 ? 3 : 4,
    headers,
    method,
    ...(method === "POST" ? { body: '{"everywhere":false}' } : {}),
  });
}

async function row(
  what: string,
  path: string,
  token: string | null,
  statements: readonly Statement[] | null,
  base: number | null,
  method: "GET" | "POST" = "GET",
): Promise<{ row: Row; alone: number }> {
  await load(path, token, 2, method);
  const alone = (await load(path, token, 1, method)).latency.average;
  const many = await load(path, token, 8, method);
  const sqlMs = statements ? await timeOf(statements) : null;
  const ratio = sqlMs !== null && base !== null ? `${(alone / (sqlMs + base)).toFixed(2)}` : "";
  const { p50, p97_5, p99 } = many.latency;
  return {
    row: {
      what,
      perSecond: many.requests.average.toFixed(0),
      p50: `${p50}`,
      p95: `${p97_5}`,
      p99: `${p99}`,
      sql: sqlMs === null ? "–" : sqlMs.toFixed(1),
      ratio,
    },
    alone,
  };
}

async function main(): Promise<void> {
  const one = async (query: PromiseLike<{ id: string }[]>) => (await query)[0]!.id;
  const odalys = await one(sql`select id from person where name = 'Odalys Brandt'`);
  const section = await one(sql`select id from section where name = 'Curlew'`);
  const letter = await one(
    sql`select hand_out.id from hand_out join assignment on assignment.id = assignment_id where title like 'Letter%'`,
  );
  const piece = await one(
    sql`select piece.id from piece where hand_out_id = ${letter} and state in ('handed_in', 'handed_back') and round > 1 order by id limit 1`,
  );
  const student = await one(sql`select student_id as id from piece where id = ${piece}`);
  const [teacher, pupil] = [
    await beginSession(sql, odalys, new Date()),
    await beginSession(sql, student, new Date()),
  ];

  const pages: [string, string, string, (call: ReadCall) => Promise<unknown>][] = [
    ["My work", "/work", pupil, workView],
    ["Today", "/today", teacher, (call) => Promise.all([todayView(call), ribbonView(call)])],
    ["section page", `/sections/${section}`, teacher, (call) => sectionView(call, section)],
    ["Ledger", `/ledger/${section}`, teacher, (call) => ledgerView(call, section)],
    [
      "Desk, a piece in round 2 or 3",
      `/desk?pile=all&handOut=${letter}&piece=${piece}`,
      teacher,
      async (call) => {
        await queueView(call, { handOutId: letter, pile: "all" });
        await deskPiece(call, piece);
        await readBank(call);
      },
    ],
  ];
  const rows: Row[] = [];
  rows.push(
    (
      await row(
        "bare route handler (sign-out, signed out: no SQL)",
        "/api/sign-out",
        null,
        null,
        null,
        "POST",
      )
    ).row,
  );
  rows.push(
    (await row("/api/health", "/api/health", null, await noteOne((db) => migrationLevel(db)), null))
      .row,
  );
  const bare = await row(
    "bare page (not found, signed out: no SQL)",
    "/no-such-page",
    null,
    null,
    null,
  );
  rows.push(bare.row);
  const scans: string[] = [];
  for (const [what, path, token, work] of pages) {
    const statements = await statementsOf(token, work);
    rows.push((await row(what, path, token, statements, bare.alone)).row);
    scans.push(...(await scansOf(statements)));
  }
  rows.push(await handIns(odalys));
  const [odalysPerson, office] = [await person("Odalys Brandt"), await person("Pell Okonjo")];
  const outs = await handOutLines(sql, odalysPerson);
  await fillMonth(sql, odalysPerson);
  const month = await statementsOf(teacher, (call) => monthView(call, null));
  rows.push(
    (
      await row(
        "calendar, a month with 60 hand-outs and more",
        "/calendar",
        teacher,
        month,
        bare.alone,
      )
    ).row,
  );
  scans.push(...(await scansOf(month)));
  const form = await statementsOf(teacher, async (call) => void (await handOutFormView(call)));
  rows.push((await row("Hand out, an empty page", "/hand-out", teacher, form, bare.alone)).row);
  scans.push(...(await scansOf(form)));
  const rosters = await rosterLines(sql, office);
  // Each part says what it found as soon as it has: the whole takes a while.
  const said = (lines: string[]) => (console.log(lines.join("\n")), lines);
  const ofVoice = said(await voiceLines(sql, ORIGIN));
  const ofDesk = said(await deskLines(sql, ORIGIN));
  const ofStudent = said(await studentLines(sql, ORIGIN));
  const ofTexts = await textLines();
  const script = await scriptSize(pupil);
  const marks = reattachTime();
  const table = [
    "| what | requests/s (8 at once) | p50 ms | p97.5 ms | p99 ms | its SQL alone, ms | one at a time ÷ (SQL + bare page) |",
    "|---|---|---|---|---|---|---|",
    ...rows.map(
      (r) =>
        `| ${r.what} | ${r.perSecond} | ${r.p50} | ${r.p95} | ${r.p99} | ${r.sql} | ${r.ratio} |`,
    ),
  ];
  const [{ n: pieces } = { n: 0 }] = await sql<
    { n: number }[]
  >`select count(*)::int as n from piece`;
  const report = `# Measured

Written by \`npm run bench\`: a production build, PostgreSQL and the load on one machine (${os.cpus().length} cores, Node ${process.version}), with ${pieces.toLocaleString("en")} pieces in the database, on ${new Date().toISOString().slice(0, 10)}. The machine is shared and noisy: compare rows of one run, not runs.

${table.join("\n")}

- Target: a page takes at most 3 × (its SQL + a bare page). The last column is that ratio, measured with one request at a time.
- Queries that read a growing table whole (EXPLAIN ANALYZE of every statement of the pages above): ${scans.length === 0 ? "none" : scans.join("; ")}.
- JavaScript sent to a student's first page, compressed: ${(script / 1000).toFixed(0)} kB (target: under 200 kB).
- 200 marks followed from a text of 5,000 words into its revision: ${marks.toFixed(0)} ms (target: under 150 ms).
${[...ofVoice, ...ofDesk, ...ofStudent, ...outs, ...rosters].join("\n")}
${ofTexts}
`;
  await writeFile("docs/bench.md", report);
  console.log(`\n${report}`);
  await Promise.all([sql.end(), noting.end()]);
}

async function person(name: string): Promise<ReadCall["who"]> {
  const [row] = await sql<
    ReadCall["who"][]
  >`select person.id, kind, person.name, called, school_id, time_zone as zone from person join school on school.id = school_id where person.name = ${name}`;
  return row!;
}

async function noteOne(work: (db: Db) => Promise<unknown>): Promise<Statement[]> {
  await noting`select 1`;
  noted.length = 0;
  await work(noting as Db);
  return [...noted];
}

/** Hand-ins of 200 pieces, eight at a time, by eight students of the demo over and over. */
async function handIns(ownerId: string): Promise<Row> {
  const [who] = await sql<
    ReadCall["who"][]
  >`select person.id, kind, person.name, called, school_id, time_zone as zone from person join school on school.id = school_id where person.id = ${ownerId}`;
  const section = (await sql<{ id: string }[]>`select id from section where name = 'Gannet'`)[0]!
    .id;
  const due = new Date(Date.now() + 86_400_000).toISOString().slice(0, 16);
  const work: { pieceId: string; token: string }[] = [];
  for (let n = 0; n < 8; n += 1) {
    const { work: empty, counting } = emptyPlan();
    const plan: HandOutPlan = {
      work: { ...empty, title: `Bench ${n}` },
      rows: [
        {
          sectionId: section,
          opens: null,
          due,
          closes: null,
          promised: null,
          audience: { kind: "section" },
          exceptions: [],
        },
      ],
      counting: { ...counting, kind: "words", points: "" },
    };
    const { handOuts } = await sql.begin((tx) =>
      handOut(
        { tx, db: tx, who: who!, now: new Date(), newId: uuidv7 },
        { plan, draftId: null, pastIsMeant: false },
      ),
    );
    for (const { id, studentId } of await sql<
      { id: string; studentId: string }[]
    >`select id, student_id from piece where hand_out_id = ${handOuts[0]!.id}`)
      work.push({ pieceId: id, token: await beginSession(sql, studentId, new Date()) });
  }
  const times: number[] = [];
  const text = "The rain fell on the pier and we wrote it down. ".repeat(60);
  const body = JSON.stringify({
    doc: { type: "doc", content: [{ type: "paragraph", content: [{ type: "text", text }] }] },
  });
  const started = performance.now();
  await Promise.all(
    Array.from({ length: 8 }, async (_, lane) => {
      for (const { pieceId, token } of work.filter((__, n) => n % 8 === lane)) {
        const begin = performance.now();
        const answer = await fetch(`${ORIGIN}/api/pieces/${pieceId}/hand-in`, {
          method: "POST",
          body,
          headers: {
            "content-type": "application/json",
            origin: ORIGIN,
            cookie: `almanac_session=${token}`,
            "idempotency-key": uuidv7(),
            "if-match": '"0"',
          },
        });
        if (!answer.ok) throw new Error(`A hand-in answered ${answer.status}`);
        times.push(performance.now() - begin);
      }
    }),
  );
  const seconds = (performance.now() - started) / 1000;
  const at = (share: number) =>
    [...times].sort((a, b) => a - b)[Math.floor(times.length * share)]!.toFixed(0);
  const alone = await handInAlone(work.length);
  return {
    what: `hand-in of 600 words (${work.length} pieces)`,
    perSecond: (work.length / seconds).toFixed(0),
    p50: at(0.5),
    p95: at(0.975),
    p99: at(0.99),
    sql: alone.toFixed(1),
    ratio: "",
  };
}

/** The same use-case without web server or commit: its statements and the core, rolled back each time. */
async function handInAlone(rounds: number): Promise<number> {
  const [open] = await sql<(ReadCall["who"] & { pieceId: string })[]>`
    select piece.id as piece_id, person.id, kind, person.name, called, school_id, time_zone as zone
    from piece join person on person.id = student_id join school on school.id = school_id join hand_out on hand_out.id = hand_out_id
    where state = 'not_opened' and opens_at < now() and closes_at is null and not exists (select from working_copy where piece_id = piece.id)
    limit 1`;
  const doc = {
    type: "doc",
    content: [
      {
        type: "paragraph",
        content: [
          { type: "text", text: "The rain fell on the pier and we wrote it down. ".repeat(60) },
        ],
      },
    ],
  };
  const times: number[] = [];
  for (let n = 0; n < Math.min(rounds, 60); n += 1) {
    const rollBack = new Error("roll back");
    await sql
      .begin(async (tx) => {
        const start = performance.now();
        await handIn(
          { tx, db: tx, who: open!, now: new Date(), newId: uuidv7 },
          open!.pieceId,
          { doc },
          0,
        );
        times.push(performance.now() - start);
        throw rollBack;
      })
      .catch((error: unknown) => {
        if (error !== rollBack) throw error;
      });
  }
  return median(times.slice(10));
}

async function scriptSize(token: string): Promise<number> {
  const page = await (
    await fetch(`${ORIGIN}/work`, { headers: { cookie: `almanac_session=${token}` } })
  ).text();
  const sources = new Set(
    [...page.matchAll(/(?:src|href)="(\/_next\/static\/[^"]+\.js)"/g)].map((m) => m[1]!),
  );
  let bytes = 0;
  for (const source of sources) {
    const { gzipSync } = await import("node:zlib");
    bytes += gzipSync(Buffer.from(await (await fetch(ORIGIN + source)).arrayBuffer())).length;
  }
  return bytes;
}

function reattachTime(): number {
  const random = seeded(3);
  const text = writeLongText(random, 5000).map((p) =>
    p.map((s) => s.map((w) => w.text).join(" ")).join(" "),
  );
  const before = text.join("\n");
  const after = text
    .filter(() => chance(random, 0.95))
    .map((p) =>
      p
        .split(" ")
        .filter(() => chance(random, 0.97))
        .join(" "),
    )
    .join("\n");
  const ranges = Array.from({ length: 200 }, () => upTo(random, before.length - 40)).map(
    (start) => ({ start, end: start + 30 }),
  );
  return median(
    Array.from({ length: 9 }, () => {
      const start = performance.now();
      reattach(before, ranges, after);
      return performance.now() - start;
    }),
  );
}

const median = (values: number[]) =>
  [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)]!;

main().catch((error: Error) => {
  console.error(error);
  process.exitCode = 1;
});
