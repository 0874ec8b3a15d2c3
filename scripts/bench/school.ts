import { readFile, writeFile } from "node:fs/promises";
import os from "node:os";
import { beginSession } from "../../src/server/auth/sessions";
import type { ReadCall } from "../../src/server/call";
import { connect } from "../../src/server/db/connection";
import { ledgerWithGrades } from "../../src/server/ledger/out";
import { deskQueue } from "../../src/server/overview/queue";
import { handOutSheet } from "../../src/server/overview/sheet";
import { todayView } from "../../src/server/overview/today";
import { workView } from "../../src/server/overview/work";
import { showWhatStands } from "../../src/server/ledger/shows";
import { sweepReminders } from "../../src/server/reminders/sweep";
import { find } from "../../src/server/search/find";
import { endPages, scansOf, statementsOf } from "./pages";

/**
 * The same pages and acts of the same people, first in the demo's school and then with a school of 3,000 around it: what
 * takes longer then grows with the school. PHASE says which; the second writes docs/bench-school.md with both.
 */
const ORIGIN = process.env.ORIGIN!;
const KEPT = process.env.KEPT!;
const ROUNDS = 60;
const sql = connect(process.env.DATABASE_URL!, 2);
type Took = { p50: number; p95: number };
type Asked = { what: string; run: () => Promise<Response> };

async function one(query: Promise<{ id: string }[]>): Promise<string> {
  return (await query)[0]!.id;
}

/** Whose pages they are; the same people of the demo before and after. */
async function people() {
  const [teacher, office, guardian] = [
    await one(sql`select id from person where name = 'Odalys Brandt'`),
    await one(sql`select id from person where kind = 'office'`),
    await one(sql`select guardian_id as id from guardianship order by guardian_id limit 1`),
  ];
  const section = await one(sql`select id from section where name = 'Gannet'`);
  const handOut = await one(sql`
    select hand_out.id from hand_out join piece on hand_out_id = hand_out.id
    where section_id = ${section} and state = 'handed_in' group by hand_out.id order by count(*) desc, hand_out.id limit 1`);
  const [piece] = await sql<{ id: string; studentId: string }[]>`
    select id, student_id from piece where hand_out_id = ${handOut} and state = 'handed_in' order by id limit 1`;
  return {
    teacher,
    office,
    guardian,
    section,
    handOut,
    piece: piece!.id,
    student: piece!.studentId,
  };
}
type People = Awaited<ReturnType<typeof people>>;
const session = (id: string) => beginSession(sql, id, new Date());

async function pagesOf(who: People): Promise<Asked[]> {
  const tokens = {
    teacher: await session(who.teacher),
    student: await session(who.student),
    guardian: await session(who.guardian),
    office: await session(who.office),
  };
  const page =
    (as: keyof typeof tokens) =>
    ([what, path]: readonly [string, string]): Asked => ({
      what,
      run: () => fetch(ORIGIN + path, { headers: { cookie: `almanac_session=${tokens[as]}` } }),
    });
  const { section, handOut, piece, student } = who;
  const teachers = [
    ["Today", "/today"],
    ["the reading plan", "/today/plan"],
    ["the list to tick off", "/today/list"],
    ["the Desk with a piece", `/desk?pile=all&handOut=${handOut}&piece=${piece}`],
    ["a hand-out's sheet", `/hand-outs/${handOut}`],
    ["a hand-out in figures", `/api/hand-outs/${handOut}/figures`],
    ["the Ledger", `/ledger/${section}`],
    ["the calendar", "/calendar"],
    ["the Shelf", "/shelf"],
    ["a section", `/sections/${section}`],
    ["a section over time", `/api/sections/${section}/over-time`],
    ["a student's page", `/students/${student}`],
    ["Hand out", "/hand-out"],
    ["Hand back", `/hand-back?handOut=${handOut}`],
    ["questions", "/questions"],
    ["letters", "/letters"],
    ["search: two names with slips", "/api/find?text=elsei%20lettre"],
    ["search: one word", "/api/find?text=rain"],
  ] as const;
  const offices = [
    ["the office", "/office"],
    ["search by the office, of all people", "/api/find?text=brant"],
  ] as const;
  return [
    ...teachers.map(page("teacher")),
    ...(
      [
        ["My work", "/work"],
        ["a student's piece", `/work/${piece}`],
        ["a student's grades", "/grades"],
      ] as const
    ).map(page("student")),
    page("guardian")(["the week sheet", "/week"]),
    ...offices.map(page("office")),
    saveOf(who, tokens.teacher),
  ];
}

/** A cell of the Ledger, typed and saved with the grade that comes of it. */
function saveOf({ section, piece }: People, token: string): Asked {
  let was = "";
  let n = 0;
  return {
    what: "a cell saved, with its grade",
    async run() {
      n = (n % 9) + 1;
      const cell = (score: string) => ({ score, flag: null, excused: false });
      const cells = [{ pieceId: piece, was: cell(was), now: cell(String(n)) }];
      const answer = await fetch(`${ORIGIN}/api/sections/${section}/ledger/cells`, {
        method: "POST",
        headers: {
          ...{ cookie: `almanac_session=${token}`, origin: ORIGIN },
          "content-type": "application/json",
        },
        body: JSON.stringify({ cells, term: null }),
      });
      const { cells: saved } = (await answer.clone().json()) as {
        cells: { cell: { work: { score: string } } }[];
      };
      was = saved[0]!.cell.work.score;
      return answer;
    },
  };
}

const at = (sorted: readonly number[], share: number): number =>
  sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * share))]!;

async function timed(work: () => Promise<unknown>, rounds = ROUNDS): Promise<Took> {
  for (let n = 0; n < 5; n += 1) await work();
  const times: number[] = [];
  for (let n = 0; n < rounds; n += 1) {
    const began = performance.now();
    await work();
    times.push(performance.now() - began);
  }
  times.sort((a, b) => a - b);
  return { p50: at(times, 0.5), p95: at(times, 0.95) };
}

async function measure(): Promise<Record<string, Took>> {
  const took: Record<string, Took> = {};
  for (const { what, run } of await pagesOf(await people())) {
    took[what] = await timed(async () => {
      const answer = await run();
      if (!answer.ok) throw new Error(`${what}: ${answer.status}`);
      await answer.arrayBuffer();
    });
    console.log(`${what}: ${sayTook(took[what])}`);
  }
  took["looking for what is to be reminded of"] = await timed(
    () => sweepReminders(sql, new Date()),
    12,
  );
  took["looking for scores that show by themselves"] = await timed(
    () => showWhatStands(sql, new Date()),
    12,
  );
  return took;
}

const sayTook = ({ p50, p95 }: Took): string =>
  `p50 ${p50.toFixed(0)} ms, p95 ${p95.toFixed(0)} ms`;

/** The hot queries' plans, and what they read whole. */
async function plans(): Promise<string[]> {
  const who = await people();
  const [teacher, student] = [await session(who.teacher), await session(who.student)];
  const pages: [string, string, (call: ReadCall) => Promise<unknown>][] = [
    ["Today", teacher, todayView],
    ["the Desk's queue", teacher, (call) => deskQueue(call, { handOutId: null, pile: "waiting" })],
    ["a hand-out's sheet", teacher, (call) => handOutSheet(call, who.handOut)],
    ["the Ledger", teacher, (call) => ledgerWithGrades(call, who.section)],
    ["search", teacher, (call) => find(call, "elsei lettre")],
    ["My work", student, workView],
  ];
  const said: string[] = [];
  for (const [what, token, work] of pages) {
    const statements = await statementsOf(token, work);
    const scans = await scansOf(statements);
    said.push(`\n## ${what}\n`, scans.length === 0 ? "Nothing that grows is read whole.\n" : "");
    said.push(...scans.map((scan) => `- reads whole: ${scan}`));
    for (const { query, parameters } of statements) {
      const rows = await sql.unsafe(
        `explain (analyze, costs off, timing off, summary on) ${query}`,
        parameters as never[],
      );
      const lines = rows.map((row) => Object.values(row)[0] as string);
      const name = query.replace(/\s+/g, " ").trim().slice(0, 110);
      said.push("<details><summary>", name.replace(/</g, "&lt;"), "</summary>\n");
      said.push("```", ...lines, "```", "</details>\n");
    }
  }
  return said;
}

async function report(before: Record<string, Took>, after: Record<string, Took>): Promise<void> {
  const [size] = await sql<{ pieces: number; marks: number; students: number; gb: string }[]>`
    select (select count(*)::int from piece) as pieces, (select count(*)::int from mark) as marks,
      (select count(*)::int from person where kind = 'student') as students,
      round(pg_database_size(current_database()) / 1e9, 1)::text as gb`;
  const number = (n: number) => n.toLocaleString("en");
  const ms = (n: number) => n.toFixed(0);
  const rows = Object.entries(after).map(([what, took]) => {
    const small = before[what]!;
    return `| ${what} | ${ms(small.p50)} | ${ms(small.p95)} | ${ms(took.p50)} | ${ms(took.p95)} | ${(took.p50 / small.p50).toFixed(2)} | ${(took.p95 / small.p95).toFixed(2)} |`;
  });
  const lines = [
    "# A school of 3,000, measured",
    "",
    `Written by \`npm run bench -- --school\`: the same pages and acts of the same people, ${ROUNDS} times one after the other, first with the demo's school alone, then with ${number(size!.students)} students, ${number(size!.pieces)} pieces and ${number(size!.marks)} marks in the database (${size!.gb} GB), loaded in ${process.env.LOADED} s (${os.cpus().length} cores, Node ${process.version}), on ${new Date().toISOString().slice(0, 10)}. Target: p95 at most 1.5 × that of the demo. The machine is shared and noisy: where p50 stays and p95 moves, it was the machine.`,
    "",
    "| what | demo p50 ms | demo p95 ms | school p50 ms | school p95 ms | p50 ratio | p95 ratio |",
    "|---|---|---|---|---|---|---|",
    ...rows,
    "",
    "The plans of the hot queries at that size stand in [plans.md](plans.md).",
    "",
  ];
  await writeFile("docs/bench-school.md", lines.join("\n"));
}

async function main(): Promise<void> {
  const took = await measure();
  if (process.env.PHASE === "demo") await writeFile(KEPT, JSON.stringify(took));
  else {
    await report(JSON.parse(await readFile(KEPT, "utf8")) as Record<string, Took>, took);
    const head =
      "# Plans of the hot queries\n\nWritten by `npm run bench -- --school`, with a school of 3,000 in the database.\n";
    await writeFile("docs/plans.md", [head, ...(await plans())].join("\n"));
  }
  await sql.end();
  await endPages();
}

main().catch((error: Error) => {
  console.error(error);
  process.exit(1);
});
