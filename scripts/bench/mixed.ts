import { existsSync, readFileSync } from "node:fs";
import { setTimeout as wait } from "node:timers/promises";
import { uuidv7 } from "uuidv7";
import { anyOf, between, seeded, upTo, type Random } from "../../demo/random";
import { beginSession } from "../../src/server/auth/sessions";
import type { Sql } from "../../src/server/db/connection";

const TEACHERS = 40;
const STUDENTS = 300;
const SECONDS = Number(process.env.ALMANAC_BENCH_SECONDS ?? 180);
/** What is asked before is not counted: the application has to warm up once, in the morning. */
const WARM_UP_SECONDS = 30;

/** What of a working day is timed together. */
type Kind = "pages" | "saving" | "polls";
type Took = { kind: Kind; what: string; at: number; ms: number };
type Actor = {
  cookie: string;
  random: Random;
  origin: string;
  took: Took[];
  faults: string[];
  until: number;
};

/**
 * A school at ordinary work: teachers read at the Desk and put marks on pieces, students look at what came back
 * and write. Each thinks between two acts; nobody waits for another. The load runs on the same machine.
 *
 * @returns lines for the report: p50, p95 and errors of each kind
 */
export async function mixedLines(
  sql: Sql,
  origin: string,
  { words, after = 0 }: { words: string; after?: number },
): Promise<string[]> {
  const begun = Date.now() + WARM_UP_SECONDS * 1000;
  const from = performance.now() + WARM_UP_SECONDS * 1000;
  const took: Took[] = [];
  const faults: string[] = [];
  const until = from + SECONDS * 1000;
  const teachers = await sql<{ id: string }[]>`
    select id from person where school_name like 'teacher.%' order by id limit ${TEACHERS}`;
  const students = await sql<{ id: string }[]>`
    select id from person where school_name like 'many.%' order by id offset ${after} limit ${STUDENTS}`;
  const actor = async ({ id }: { id: string }, n: number): Promise<Actor> => ({
    cookie: `almanac_session=${await beginSession(sql, id, new Date())}`,
    random: seeded(n + 1),
    ...{ origin, took, faults, until },
  });
  // A request that gets no answer is given up by a timer, which alone does not keep the process going.
  const going = setInterval(() => {}, 1000);
  try {
    await Promise.all([
      ...teachers.map(async (who, n) => teach(sql, who.id, await actor(who, n))),
      ...students.map(async (who, n) => learn(sql, who.id, await actor(who, n + TEACHERS))),
    ]);
  } finally {
    clearInterval(going);
  }
  const counted = took.filter((t) => t.at >= from);
  return report(counted, faults, words + sayDelay(begun));
}

/** How long the application's event loop was held up, where it was started to write that down. */
function sayDelay(since: number): string {
  const file = process.env.LOOP ?? "";
  if (!existsSync(file)) return "";
  const most = readFileSync(file, "utf8")
    .trim()
    .split("\n")
    .map((line) => line.split(" ").map(Number))
    .flatMap(([at, ms]) => (at! >= since ? [ms!] : []))
    .sort((a, b) => a - b);
  const at = (part: number) => most[Math.floor((most.length - 1) * part)]?.toFixed(0);
  return ` (its event loop held up in each second for ${at(0.5)} ms at most in the median, ${at(0.95)} ms in the worst twentieth, ${at(1)} ms once)`;
}

function report(took: readonly Took[], faults: readonly string[], words: string): string[] {
  const share = (kind: Kind, part: number) => {
    const times = took
      .filter((t) => t.kind === kind)
      .map((t) => t.ms)
      .sort((a, b) => a - b);
    return `${(times[Math.floor(times.length * part)] ?? 0).toFixed(0)} ms`;
  };
  const line = (kind: Kind) =>
    `${kind} (${took.filter((t) => t.kind === kind).length}) p50 ${share(kind, 0.5)}, p95 ${share(kind, 0.95)}`;
  const said =
    faults.length === 0
      ? "no error"
      : `${faults.length} errors (${[...new Set(faults)].slice(0, 4).join("; ")})`;
  return [
    `- ${TEACHERS} teachers and ${STUDENTS} students at ordinary work for ${SECONDS} s, ${words}: ${line("pages")}; ${line("saving")}; ${line("polls")}; ${said} (targets: p95 under 1 s for pages, under 300 ms for saving, no error).`,
  ];
}

/** So many seconds, give or take a half; less where the time is up. */
const think = ({ random, until }: Actor, seconds: number) =>
  wait(
    Math.max(
      0,
      Math.min(until - performance.now(), seconds * 1000 * (0.5 + upTo(random, 100) / 100)),
    ),
  );
const goesOn = ({ until }: Actor) => performance.now() < until;

type Sent = { method: string; body: unknown; revision?: number };

async function ask(
  actor: Actor,
  kind: Kind,
  path: string,
  sent?: Sent,
): Promise<Record<string, unknown>> {
  const what = `${sent?.method ?? "GET"} ${path.replace(/[0-9a-f]{8}-[0-9a-f-]{27}/g, "…").replace(/\?.*/, "")}`;
  const begin = performance.now();
  try {
    const answer = await fetch(actor.origin + path, requestOf(actor, sent));
    const text = await answer.text();
    actor.took.push({ kind, what, at: begin, ms: performance.now() - begin });
    if (!answer.ok) throw new Error(`${answer.status}`);
    return kind === "pages" ? {} : (JSON.parse(text) as Record<string, unknown>);
  } catch (error) {
    actor.faults.push(`${what}: ${error instanceof Error ? error.message : "failed"}`);
    return {};
  }
}

function requestOf({ cookie, origin }: Actor, sent: Sent | undefined): RequestInit {
  const signal = AbortSignal.timeout(30_000);
  if (!sent) return { headers: { cookie }, signal };
  const headers = {
    ...{ cookie, origin, "content-type": "application/json" },
    ...(sent.revision === undefined ? {} : { "if-match": `"${sent.revision}"` }),
  };
  return { method: sent.method, headers, body: JSON.stringify(sent.body), signal };
}

/** Today, a pile, one piece after the other: read it, say something about it, go on. */
async function teach(sql: Sql, id: string, actor: Actor): Promise<void> {
  const pieces = await sql<PieceToRead[]>`
    select piece.id, piece.hand_out_id, version.id as version_id, version.text
    from piece
    join version on version.piece_id = piece.id
    join hand_out on hand_out.id = piece.hand_out_id
    join section_teacher on section_teacher.section_id = hand_out.section_id and person_id = ${id}
    where piece.state = 'handed_in' and version.text <> ''
    order by piece.hand_out_id, piece.id
    limit 200`;
  await think(actor, 30);
  while (goesOn(actor)) {
    await ask(actor, "pages", "/today");
    await think(actor, 12);
    const first = anyOf(actor.random, pieces);
    if (!goesOn(actor)) return;
    await ask(actor, "pages", `/desk?pile=waiting&handOut=${first.handOutId}&piece=${first.id}`);
    for (const piece of pieces.filter((p) => p.handOutId === first.handOutId).slice(0, 3)) {
      if (!goesOn(actor)) return;
      await readPiece(actor, piece);
    }
    await ask(actor, "pages", `/hand-outs/${first.handOutId}`);
    await think(actor, 12);
  }
}

type PieceToRead = { id: string; handOutId: string; versionId: string; text: string };

/** A minute or so with one piece: three marks, a sign of life every ten seconds, an overall note. */
async function readPiece(actor: Actor, piece: PieceToRead): Promise<void> {
  await ask(actor, "polls", `/api/pieces/${piece.id}/desk`);
  for (let n = 0; n < 6 && goesOn(actor); n += 1) {
    await think(actor, 10);
    const alive = { method: "POST", body: { active: true } };
    await ask(actor, "polls", `/api/pieces/${piece.id}/here`, alive);
    if (n % 2 === 1) continue;
    const start = upTo(actor.random, piece.text.length - 12);
    const { versionId } = piece;
    const body = {
      ...{ id: uuidv7(), kind: "note", nature: "remark", replacement: "", versionId },
      ...{ start, end: start + 10, body: "Say how you know.", commentId: null },
    };
    await ask(actor, "saving", `/api/pieces/${piece.id}/marks`, { method: "POST", body });
  }
  if (!goesOn(actor)) return;
  const shown = await ask(actor, "polls", `/api/pieces/${piece.id}/desk`);
  const body = { overall: "A clear account; the reasons come too late.", score: "8", picks: {} };
  const revision = Number(shown.revision ?? 0);
  await ask(actor, "saving", `/api/pieces/${piece.id}/feedback`, { method: "PUT", body, revision });
}

/** My work, what came back, then writing at what is still to be done. */
async function learn(sql: Sql, id: string, actor: Actor): Promise<void> {
  const pieces = await sql<{ id: string; state: string }[]>`
    select id, state from piece where student_id = ${id} order by id`;
  const back = pieces.filter((p) => p.state === "handed_back");
  const open = pieces.filter((p) => p.state === "not_opened");
  await think(actor, 40);
  while (goesOn(actor)) {
    await ask(actor, "pages", "/work");
    await think(actor, 12);
    if (!goesOn(actor)) return;
    await ask(actor, "pages", `/work/${anyOf(actor.random, back).id}`);
    await think(actor, 40);
    if (!goesOn(actor)) return;
    await write(actor, open.pop()?.id);
  }
}

/** A paragraph every ten seconds, each kept as it is written. */
async function write(actor: Actor, pieceId: string | undefined): Promise<void> {
  if (!pieceId) return;
  await ask(actor, "pages", `/work/${pieceId}`);
  let revision = 0;
  const times = between(actor.random, 8, 14);
  for (let n = 1; n <= times && goesOn(actor); n += 1) {
    await think(actor, 10);
    const doc = {
      type: "doc",
      content: Array.from({ length: n * 2 }, (_, k) => ({
        type: "paragraph",
        content: [{ type: "text", text: `${n}.${k} ${"The tide came in late. ".repeat(10)}` }],
      })),
    };
    const path = `/api/pieces/${pieceId}/work`;
    const kept = await ask(actor, "saving", path, { method: "PUT", body: { doc }, revision });
    revision = Number(kept.revision ?? revision);
  }
}
