import { randomBytes } from "node:crypto";
import path from "node:path";
import { aPart } from "../../src/core/handouts/parts";
import { beginSession } from "../../src/server/auth/sessions";
import { blobToFile } from "../../src/server/blobs/temporary";
import type { Person } from "../../src/server/call";
import type { Sql } from "../../src/server/db/connection";
import { inFolder } from "../../src/server/programs/jail";
import { makePages } from "../../src/server/programs/tools";
import { sweepReminders } from "../../src/server/reminders/sweep";
import { openBrowser } from "../../tests/support/browser";
import { begin, put, sendOn } from "../../tests/support/tus";

const seconds = async (work: () => Promise<unknown>): Promise<number> => {
  const start = performance.now();
  await work();
  return (performance.now() - start) / 1000;
};
const share = (values: readonly number[], p: number) =>
  [...values].sort((a, b) => a - b)[Math.min(values.length - 1, Math.floor(values.length * p))]!;
const ms = (s: number) => `${(s * 1000).toFixed(0)} ms`;

/** Saving as one types, uploading, turning documents into pages, and the first page on a slow phone. */
export async function studentLines(sql: Sql, origin: string): Promise<string[]> {
  const [found] = await sql<{ id: string; studentId: string }[]>`
    select standing.id, standing.student_id
    from piece_standing standing
    where standing.state in ('started', 'not_opened') and standing.awaited and standing.due > now() + interval '1 hour' and standing.opens_at < now() and standing.title like 'Moon phases%'
    limit 1`;
  const [student] = await sql<
    Person[]
  >`select person.id, kind, person.name, called, school_id, time_zone as zone from person join school on school.id = school_id where person.id = ${found!.studentId}`;
  const sender = { origin, token: await beginSession(sql, student!.id, new Date()) };
  return [
    await savingLine(sql, sender, found!.id),
    await uploadLine(sql, sender, found!.id),
    await pagesLine(sql),
    await phoneLine(sql, origin, student!.id, found!.id),
    await reminderLine(sql),
  ];
}

async function savingLine(
  sql: Sql,
  { origin, token }: { origin: string; token: string },
  pieceId: string,
): Promise<string> {
  const [{ revision: first } = { revision: 0 }] = await sql<
    { revision: number }[]
  >`select revision from working_copy where piece_id = ${pieceId}`;
  const times: number[] = [];
  let revision = first;
  for (let n = 0; n < 120; n += 1) {
    const doc = {
      type: "doc",
      content: Array.from({ length: 12 }, (_, k) => ({
        type: "paragraph",
        content: [
          {
            type: "text",
            text: `${"The tide came in later than the table had it. ".repeat(5)}${k === n % 12 ? n : ""}`,
          },
        ],
      })),
    };
    times.push(
      await seconds(async () => {
        const answer = await fetch(`${origin}/api/pieces/${pieceId}/work`, {
          method: "PUT",
          headers: {
            "content-type": "application/json",
            origin,
            cookie: `almanac_session=${token}`,
            "if-match": `"${revision}"`,
          },
          body: JSON.stringify({ doc }),
        });
        if (!answer.ok) throw new Error(`saving answered ${answer.status}`);
        ({ revision } = (await answer.json()) as { revision: number });
      }),
    );
  }
  const bare = await seconds(() => fetch(`${origin}/api/health`));
  return `- Saving a text of 600 words as it is typed: p50 ${ms(share(times, 0.5))}, p95 ${ms(share(times, 0.95))} (target: on the server within 2 s of typing, of which 0.9 s is the pause waited for; a request for the health took ${ms(bare)}).`;
}

async function uploadLine(
  sql: Sql,
  sender: { origin: string; token: string },
  pieceId: string,
): Promise<string> {
  const part = "00000000-0000-4000-8000-0000000000be";
  await sql`update assignment set parts = parts || ${sql.json([aPart(part, "files")] as never)} where id = (select assignment_id from hand_out join piece on piece.hand_out_id = hand_out.id where piece.id = ${pieceId})`;
  const size = 200_000_000;
  const block = randomBytes(262_144);
  const bytesAt = (offset: number) => block.subarray(offset % block.length);
  // The same bytes as bare inserts of the same chunks, over one connection: what PostgreSQL itself takes.
  const bare = await seconds(async () => {
    await sql`create table bare_bytes (n integer primary key, bytes bytea not null)`;
    await sql`alter table bare_bytes alter column bytes set storage external`;
    for (let n = 0; n * block.length < size; n += 1)
      await sql`insert into bare_bytes values (${n}, ${block})`;
    await sql`drop table bare_bytes`;
  });
  let id = "";
  const sent = await seconds(async () => {
    id = await begin(sender, pieceId, part, "large.dat", size);
    if (!(await sendOn(sender, id, size, bytesAt))) throw new Error("the upload was cut");
  });
  const made = await seconds(async () => {
    const answer = await put(sender, pieceId, part, id);
    if (answer.status !== 200) throw new Error(answer.body);
  });
  return `- A file of 200 MB: ${(200 / sent).toFixed(0)} MB/s through the upload (the same chunks as bare inserts: ${(200 / bare).toFixed(0)} MB/s, ratio ${(sent / bare).toFixed(1)}), then ${made.toFixed(1)} s until it is looked into, digested and part of the piece.`;
}

async function pagesLine(sql: Sql): Promise<string> {
  const documents = await sql<
    { sha256: Buffer }[]
  >`select sha256 from item where kind = 'document' limit 5`;
  const times: number[] = [];
  for (const { sha256 } of documents) {
    await inFolder(async (folder) => {
      await blobToFile(sql, sha256, path.join(folder, "a.docx"));
      times.push(await seconds(() => makePages(folder, "a.docx")));
    });
  }
  return `- Turning a report (DOCX, a page or two) into pages: ${share(times, 0.5).toFixed(1)} s in the middle of ${times.length}, in the background.`;
}

async function reminderLine(sql: Sql): Promise<string> {
  await seconds(() => sweepReminders(sql, new Date()));
  const [{ n } = { n: 0 }] = await sql<{ n: number }[]>`select count(*)::int as n from piece`;
  const again = await seconds(() => sweepReminders(sql, new Date()));
  return `- Looking for what is to be reminded of, once a minute, among ${n.toLocaleString("en")} pieces: ${ms(again)}.`;
}

/** Chromium with a processor four times slower, 1.6 Mbit/s and 150 ms, nothing in its cache. */
async function phoneLine(
  sql: Sql,
  origin: string,
  studentId: string,
  pieceId: string,
): Promise<string> {
  const browser = await openBrowser(origin, { width: 390, height: 844 });
  try {
    await browser.enterAs(studentId);
    const tell = (method: string, params: object) =>
      (
        browser.driver as unknown as {
          sendDevToolsCommand(method: string, params: object): Promise<void>;
        }
      ).sendDevToolsCommand(method, params);
    await tell("Network.enable", {});
    await tell("Network.setCacheDisabled", { cacheDisabled: true });
    await tell("Network.setBypassServiceWorker", { bypass: true });
    await tell("Network.emulateNetworkConditions", {
      offline: false,
      latency: 150,
      downloadThroughput: 200_000,
      uploadThroughput: 96_000,
    });
    await tell("Emulation.setCPUThrottlingRate", { rate: 4 });
    // Asked inside the page, so that asking does not wait for what the page does not need (fonts, the load event).
    const watch = (what: string) =>
      `window.__at = null; const t = setInterval(() => { const e = document.querySelector(${JSON.stringify(what)}); if (e && Object.keys(e).some((k) => k.startsWith("__reactProps") || e.isContentEditable)) { window.__at = performance.now(); clearInterval(t); } }, 20);`;
    const time = async (address: string, css: string) => {
      const script = (
        await (
          browser.driver as unknown as {
            sendAndGetDevToolsCommand(m: string, p: object): Promise<{ identifier: string }>;
          }
        ).sendAndGetDevToolsCommand("Page.addScriptToEvaluateOnNewDocument", { source: watch(css) })
      ).identifier;
      const times: { painted: number; usable: number }[] = [];
      for (let n = 0; n < 3; n += 1) {
        await browser.go(address);
        const usable = (await browser.driver.wait(
          () => browser.driver.executeScript<number | null>("return window.__at"),
          60_000,
        ))!;
        times.push({
          usable,
          painted: await browser.driver.executeScript<number>(
            "return performance.getEntriesByName('first-contentful-paint')[0].startTime",
          ),
        });
        await browser.driver.get("about:blank");
      }
      await tell("Page.removeScriptToEvaluateOnNewDocument", { identifier: script });
      const middle = (pick: (t: { painted: number; usable: number }) => number) =>
        (share(times.map(pick), 0.5) / 1000).toFixed(1);
      return { painted: middle((t) => t.painted), usable: middle((t) => t.usable) };
    };
    const work = await time("/work", "main section button, main section a");
    const piece = await time(`/work/${pieceId}`, ".ProseMirror");
    return `- On a slow phone (4 × slower processor, 1.6 Mbit/s, 150 ms, empty cache): My work is painted after ${work.painted} s and answers a finger after ${work.usable} s (target: under 3 s); a piece can be read after ${piece.painted} s and written in after ${piece.usable} s.`;
  } finally {
    await browser.close();
  }
}
