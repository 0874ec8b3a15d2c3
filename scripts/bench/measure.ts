import { handingBackLines } from "./handingBack";
import { existsSync } from "node:fs";
import { readFile, writeFile } from "node:fs/promises";
import os from "node:os";
import { uuidv7 } from "uuidv7";
import { reattach } from "../../src/core/marks/reattach";
import { writeLongText } from "../../src/core/marks/trackedText.testing";
import { chance, seeded, upTo } from "../../demo/random";
import { beginSession } from "../../src/server/auth/sessions";
import { connect } from "../../src/server/db/connection";
import type { ReadCall } from "../../src/server/call";
import { readBank } from "../../src/server/comments/bank";
import { readSettings } from "../../src/server/marking/desk/setting";
import { readWays } from "../../src/server/marking/desk/ways";
import { deskPiece } from "../../src/server/marking/desk/deskPiece";
import { deskQueue } from "../../src/server/overview/queue";
import { ribbonView } from "../../src/server/overview/school";
import { ledgerView } from "../../src/server/ledger/view";
import { sectionView } from "../../src/server/overview/sections";
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
import { ledgerLines } from "./ledger";
import { nextRoundLines } from "./nextRound";
import { textLines } from "./texts";
import { voiceLines } from "./voice";
import { fillMonth, handOutLines, rosterLines } from "./handingOut";
import { mixedLines } from "./mixed";
import { pieceView } from "../../src/server/pieces/pieceView";
import { handOutSheet } from "../../src/server/overview/sheet";
import {
  endPages,
  healthStatements,
  median,
  row,
  scansOf,
  statementsOf,
  tableOf,
  type Row,
} from "./pages";

const ORIGIN = process.env.ORIGIN!;
const sql = connect(process.env.DATABASE_URL!, 4);

async function main(): Promise<void> {
  const rows: Row[] = [];
  const scans: string[] = [];
  const signOut = { path: "/api/sign-out", token: null, method: "POST" } as const;
  rows.push(
    (await row("bare route handler (sign-out, signed out: no SQL)", signOut, null, null)).row,
  );
  const level = await healthStatements((db) => migrationLevel(db));
  rows.push((await row("/api/health", { path: "/api/health", token: null }, level, null)).row);
  const nothing = { path: "/no-such-page", token: null };
  const bare = await row("bare page (not found, signed out: no SQL)", nothing, null, null);
  rows.push(bare.row);
  const measured = async ([what, path, token, work]: Page) => {
    const statements = await statementsOf(token, work);
    rows.push((await row(what, { path, token }, statements, bare.alone)).row);
    scans.push(...(await scansOf(statements)));
  };
  const { pages, late, pupil, odalys } = await pagesOf();
  for (const page of pages) await measured(page);
  rows.push(await handIns(odalys));
  const [odalysPerson, office] = [await person("Odalys Brandt"), await person("Pell Okonjo")];
  const outs = await handOutLines(sql, odalysPerson);
  await fillMonth(sql, odalysPerson);
  for (const page of late) await measured(page);
  // Each part says what it found as soon as it has: the whole takes a while.
  const said = (lines: string[]) => (console.log(lines.join("\n")), lines);
  console.log(tableOf(rows));
  const two = process.env.LINES ?? "";
  const lines = [
    `- Queries that read a growing table whole (EXPLAIN ANALYZE of every statement of the pages above): ${scans.length === 0 ? "none" : scans.join("; ")}.`,
    ...said(await mixedLines(sql, ORIGIN, { words: "one process" })),
    ...(existsSync(two) ? [await readFile(two, "utf8")] : []),
    ...(await rosterLines(sql, office)),
    ...outs,
    ...said(await voiceLines(sql, ORIGIN)),
    ...said(await deskLines(sql, ORIGIN)),
    ...said(await studentLines(sql, ORIGIN)),
    ...said(await handingBackLines(sql)),
    ...said(await nextRoundLines(sql, ORIGIN)),
    ...said(await ledgerLines(sql)),
    `- JavaScript sent to a student's first page, compressed: ${((await scriptSize(pupil)) / 1000).toFixed(0)} kB (target: under 200 kB).`,
    `- 200 marks followed from a text of 5,000 words into its revision: ${reattachTime().toFixed(0)} ms (target: under 150 ms).`,
    await textLines(),
  ];
  const report = await reportOf(rows, lines);
  await writeFile("docs/bench.md", report);
  console.log(`\n${report}`);
  await Promise.all([sql.end(), endPages()]);
}

type Page = [what: string, path: string, token: string, (call: ReadCall) => Promise<unknown>];

/** The pages as a teacher and a student of the demo open them; `late` are measured once the month is full. */
async function pagesOf() {
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
  const teacher = await beginSession(sql, odalys, new Date());
  const pupil = await beginSession(sql, student, new Date());
  const today = (call: ReadCall) => Promise.all([todayView(call), ribbonView(call)]);
  const desk = (handOutId: string | null) => async (call: ReadCall) => {
    const pile = deskQueue(call, { handOutId, pile: "all" });
    await Promise.all([readSettings(call), pile]);
    const ways = handOutId && readWays(call, handOutId);
    await Promise.all([deskPiece(call, piece), readBank(call), ways]);
  };
  const who = await person("Odalys Brandt");
  const lies = await sql.begin(
    async (db) =>
      (await deskQueue({ db, who, now: new Date() }, { handOutId: null, pile: "all" })).items
        .length,
  );
  const pages: Page[] = [
    ["My work", "/work", pupil, workView],
    ["a student's piece, round 2 or 3", `/work/${piece}`, pupil, (call) => pieceView(call, piece)],
    ["Today", "/today", teacher, today],
    ["section page", `/sections/${section}`, teacher, (call) => sectionView(call, section)],
    ["a hand-out's sheet", `/hand-outs/${letter}`, teacher, (call) => handOutSheet(call, letter)],
    ["Ledger", `/ledger/${section}`, teacher, (call) => ledgerView(call, section)],
    [
      "Desk, a piece in round 2 or 3",
      `/desk?pile=all&handOut=${letter}&piece=${piece}`,
      teacher,
      desk(letter),
    ],
    [
      `Desk, the same with ${lies} pieces in the pile`,
      `/desk?pile=all&piece=${piece}`,
      teacher,
      desk(null),
    ],
  ];
  const late: Page[] = [
    [
      "calendar, a month with 60 hand-outs and more",
      "/calendar",
      teacher,
      (call) => monthView(call, null),
    ],
    ["Hand out, an empty page", "/hand-out", teacher, handOutFormView],
  ];
  return { pages, late, pupil, odalys };
}

async function reportOf(rows: readonly Row[], lines: readonly string[]): Promise<string> {
  const [about] = await sql<{ pieces: number; marks: number; size: string }[]>`
    select (select count(*) from piece)::int as pieces, (select count(*) from mark)::int as marks, pg_size_pretty(pg_database_size(current_database())) as size`;
  const { pieces, marks, size } = about!;
  return `# Measured

Written by \`npm run bench\`: a production build, PostgreSQL and the load on one machine (${os.cpus().length} cores, Node ${process.version}), with ${pieces.toLocaleString("en")} pieces and ${marks.toLocaleString("en")} marks in the database (${size}), on ${new Date().toISOString().slice(0, 10)}. The machine is shared and noisy: compare rows of one run, not runs.

${tableOf(rows)}

- Targets: a page takes at most 1.5 × (its SQL + a bare page), measured with one request at a time (the last column); at most 12 statements at the Desk, 8 elsewhere, with the one that finds out who asks. Kilobytes are as they leave, before compression; processor time is that of the application, all its threads.
${lines.join("\n")}
`;
}

async function person(name: string): Promise<ReadCall["who"]> {
  const [row] = await sql<
    ReadCall["who"][]
  >`select person.id, kind, person.name, called, school_id, time_zone as zone from person join school on school.id = school_id where person.name = ${name}`;
  return row!;
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
    statements: "–",
    kB: "–",
    processor: "–",
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

main().catch((error: Error) => {
  console.error(error);
  process.exitCode = 1;
});
