import { Key } from "selenium-webdriver";
import { aPart } from "../../src/core/handouts/parts";
import { layOutMargin } from "../../src/core/marks/marginLayout";
import { lookUp } from "../../src/core/comments/lookup";
import type { Person } from "../../src/server/call";
import type { Sql } from "../../src/server/db/connection";
import { addMark } from "../../src/server/marking/marks";
import { handOut } from "../../src/server/handouts/handOut";
import { handIn } from "../../src/server/pieces/moves";
import { openBrowser, type Browser } from "../../tests/support/browser";
import { asPerson } from "../../tests/support/database";
import { putFile } from "../../tests/support/files";
import { planFor } from "../../tests/support/handOut";
import { writePdf } from "../../tests/support/pdf";
import { BANK } from "../../demo/bank";

const FILES = "00000000-0000-4000-8000-0000000000be";
export const median = (values: readonly number[]) =>
  [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)]!;
const ms = (n: number) => `${n < 10 ? n.toFixed(1) : n.toFixed(0)} ms`;
const times = (n: number, work: () => void): number => {
  const taken = Array.from({ length: n }, () => {
    const start = performance.now();
    work();
    return performance.now() - start;
  });
  return median(taken);
};

type Heavy = { handOutId: string; plain: string; pages: string; words: string };

/** The Desk with heavy pieces: 300 marks on a PDF of 200 pages and on 10,000 words, beside a plain piece; and going through many. */
export async function deskLines(sql: Sql, origin: string): Promise<string[]> {
  const [odalys] = await sql<
    Person[]
  >`select person.id, kind, person.name, called, school_id, time_zone as zone from person join school on school.id = school_id where person.name = 'Odalys Brandt'`;
  const heavy = await makeHeavy(sql, odalys!);
  const browser = await openBrowser(origin);
  try {
    await browser.enterAs(odalys!.id);
    return [
      ...coreLines(),
      await nextLine(browser, sql, PAGES),
      await nextLine(browser, sql, WRITING),
      ...(await taskLines(browser, heavy)),
      await memoryLine(browser, sql),
    ];
  } finally {
    await browser.close();
  }
}

function coreLines(): string[] {
  const notes = Array.from({ length: 200 }, (_, n) => ({
    id: String(n),
    wanted: (n * 37) % 4000,
    height: 30 + (n % 7) * 12,
  })).sort((a, b) => a.wanted - b.wanted);
  const many = Array.from({ length: 2000 }, (_, n) => ({
    id: String(n),
    text: `${BANK[n % BANK.length]!.text} ${n}`,
    shorthand: `s${n}`,
    nature: "remark" as const,
    favourite: null,
    usedCount: n % 50,
  }));
  lookUp(many, "warm up");
  return [
    `- The margin of 200 notes is laid out in ${ms(times(60, () => layOutMargin(notes, 8)))} (target 5 ms); 2,000 comments are looked through in ${ms(times(60, () => lookUp(many, "which unit")))} where the words are spelt right, in ${ms(times(60, () => lookUp(many, "wich untis")))} where they are not.`,
  ];
}

async function makeHeavy(sql: Sql, odalys: Person): Promise<Heavy> {
  const now = new Date();
  const owner = asPerson(sql, odalys);
  const [section] = await sql<{ id: string }[]>`select id from section where name = 'Curlew'`;
  const plan = planFor(section!.id, {
    title: "Heavy",
    instructions: text(["Write."]),
    expects: "work",
    points: "10",
    opens: null,
    due: "2030-01-01T16:00",
    closes: null,
    promised: null,
    graceMinutes: 0,
    mayTakeBack: true,
  });
  plan.work.parts = [...plan.work.parts, aPart(FILES, "files")];
  const { handOuts } = await owner.change(now, (call) =>
    handOut(call, { plan, draftId: null, pastIsMeant: false }),
  );
  const pieces = await sql<
    (Person & { pieceId: string })[]
  >`select piece.id as piece_id, person.id, person.kind, person.name, called, person.school_id, 'America/Halifax' as zone from piece join person on person.id = student_id where hand_out_id = ${handOuts[0]!.id} order by sort_name limit 3`;
  const [plain, pages, words] = [pieces[0]!, pieces[1]!, pieces[2]!];
  const item = await putFile(
    sql,
    pages,
    pages.pieceId,
    FILES,
    "long.pdf",
    writePdf(
      Array.from({ length: 200 }, (_, p) => ({
        lines: Array.from({ length: 36 }, (__, l) => ({
          x: 72,
          y: 720 - l * 18,
          text: `Page ${p + 1}, line ${l + 1}: the tide came in later than the table had it, and we waited.`,
        })),
      })),
    ),
    now,
  );
  const long = Array.from(
    { length: 200 },
    (_, n) =>
      `${"The tide came in later than the table had it that day. ".repeat(5)}Paragraph ${n}.`,
  );
  for (const [who, doc] of [
    [plain, text(long.slice(0, 3))],
    [pages, text(["See the file."])],
    [words, text(long)],
  ] as const)
    await asPerson(sql, who).change(now, (call) =>
      handIn(call, who.pieceId, { doc: doc as never }, 0),
    );
  await owner.change(now, async (call) => {
    for (const who of [pages, words]) {
      const [version] = await sql<
        { id: string; text: string }[]
      >`select id, text from version where piece_id = ${who.pieceId}`;
      for (let n = 0; n < 300; n += 1) {
        const start = Math.floor((version!.text.length / 301) * n);
        const base = {
          id: call.newId(),
          kind: "note" as const,
          nature: n % 3 === 0 ? ("request" as const) : ("remark" as const),
          body: `Note ${n}: which unit is this in, and how do you know?`,
          replacement: "",
          versionId: version!.id,
          commentId: null,
        };
        await addMark(
          call,
          who.pieceId,
          who === words
            ? { ...base, start, end: start + 12 }
            : {
                ...base,
                start: 0,
                end: 0,
                place: {
                  on: "page",
                  itemId: item.id,
                  page: 1 + Math.floor((n * 2) / 3),
                  area: {
                    x: 10 + (n % 6) * 12,
                    y: 8 + ((n * 7) % 80),
                    w: n % 4 === 0 ? 10 : 0,
                    h: n % 4 === 0 ? 4 : 0,
                  },
                  words: null,
                },
              },
        );
      }
    }
  });
  return {
    handOutId: handOuts[0]!.id,
    plain: plain.pieceId,
    pages: pages.pieceId,
    words: words.pieceId,
  };
}

const text = (lines: readonly string[]) => ({
  type: "doc",
  content: lines.map((line) => ({ type: "paragraph", content: [{ type: "text", text: line }] })),
});

/** How the next piece is known to be on the screen. */
type Next = { title: string; pile: string; what: string; shown: string };
const PAGES: Next = {
  title: "Evaporation at home",
  pile: "waiting",
  what: "its first page is on the screen",
  shown: "(document.querySelector(\"[data-page='1'] canvas\")?.width ?? 0) > 300",
};
const WRITING: Next = {
  title: "Letter from a place",
  pile: "all",
  what: "its words and marks are on the screen",
  shown: "document.querySelector('[data-sheet]')?.textContent.length > 200",
};

/** From the key to the next piece on the screen. */
async function nextLine(browser: Browser, sql: Sql, next: Next): Promise<string> {
  const [handOut] = await sql<
    { id: string }[]
  >`select hand_out.id from hand_out join assignment on assignment.id = assignment_id where title like ${`${next.title}%`}`;
  const [{ count }] =
    (await sql`select count(*)::int as count from piece where hand_out_id = ${handOut!.id} and state in ('handed_in', 'handed_back', 'to_revise', 'reworking')`) as unknown as [
      { count: number },
    ];
  await browser.go(`/desk?pile=${next.pile}&handOut=${handOut!.id}`);
  await browser.driver.wait(() => browser.driver.executeScript(`return ${next.shown}`), 15_000);
  const taken: number[] = [];
  for (let n = 0; n < Math.min(8, count - 1); n += 1) {
    // The teacher reads for a moment, and the next is loaded ahead meanwhile.
    await browser.driver.sleep(2500);
    await browser.driver.executeScript(`
      window.shown = null; const name = document.querySelector("h1").textContent;
      document.addEventListener("keydown", () => { const at = performance.now(); const look = () => { document.querySelector("h1")?.textContent !== name && (${next.shown}) ? (window.shown = performance.now() - at) : requestAnimationFrame(look); }; look(); }, { once: true, capture: true });`);
    await browser.keys("n");
    // A piece that is not in yet has no words: it is passed over.
    const shown = await browser.driver
      .wait(async () => (await browser.driver.executeScript("return window.shown")) !== null, 5000)
      .catch(() => false);
    if (shown) taken.push(await browser.driver.executeScript<number>("return window.shown"));
  }
  return `- Going to the next piece: ${next.what} after ${ms(median(taken))} (median of ${taken.length}, largest ${ms(Math.max(...taken))}; target 60 ms).`;
}

const WATCH =
  "window.tasks = []; window.watcher?.disconnect(); window.watcher = new PerformanceObserver((l) => window.tasks.push(...l.getEntries().map((e) => e.duration))); window.watcher.observe({ type: 'longtask' });";

/** Tasks over 50 ms (Chromium's own long-task entries) while typing in a note, scrolling and selecting. */
async function taskLines(browser: Browser, heavy: Heavy): Promise<string[]> {
  const lines: string[] = [];
  for (const [pieceId, what] of [
    [heavy.plain, "a plain piece without marks"],
    [heavy.words, "10,000 words with 300 marks"],
    [heavy.pages, "a PDF of 200 pages with 300 marks"],
  ] as const) {
    await browser.go(`/desk?pile=all&handOut=${heavy.handOutId}&piece=${pieceId}`);
    await browser.find("[data-sheet]");
    await browser.driver.sleep(4000);
    const tasks = async (work: () => Promise<void>) => {
      await browser.driver.executeScript(WATCH);
      await work();
      await browser.driver.sleep(300);
      return browser.driver.executeScript<number[]>("return window.tasks");
    };
    const selecting = await tasks(async () => {
      for (let n = 0; n < 12; n += 1) await browser.keys(Key.ARROW_RIGHT);
    });
    await browser.keys(Key.ENTER);
    await browser.find("[data-composer]");
    const typing = await tasks(() =>
      browser.keys("Which unit is this in, and how do you know that it is right?"),
    );
    await browser.keys(Key.ESCAPE);
    const scrolling = await tasks(async () => {
      for (let n = 0; n < 24; n += 1) {
        await browser.driver.executeScript(
          "document.querySelector('[data-scroll]').scrollBy(0, 600)",
        );
        await browser.driver.sleep(60);
      }
    });
    const say = (found: number[]) =>
      found.length === 0 ? "none" : `${found.length}, the longest ${ms(Math.max(...found))}`;
    lines.push(
      `- Tasks over 50 ms on ${what}: selecting ${say(selecting)}; typing in a note ${say(typing)}; scrolling ${say(scrolling)}.`,
    );
  }
  return lines;
}

/** What the page holds after many pieces, in use after a collection. */
async function memoryLine(browser: Browser, sql: Sql): Promise<string> {
  const driver = browser.driver as unknown as {
    sendDevToolsCommand: (name: string, args?: object) => Promise<void>;
    sendAndGetDevToolsCommand: (name: string, args?: object) => Promise<unknown>;
  };
  const held = async () => {
    await driver.sendDevToolsCommand("HeapProfiler.collectGarbage");
    return (
      ((await driver.sendAndGetDevToolsCommand("Runtime.getHeapUsage")) as { usedSize: number })
        .usedSize / 1_000_000
    );
  };
  const [{ count }] =
    (await sql`select count(*)::int as count from piece join hand_out on hand_out.id = hand_out_id join section on section.id = section_id where section.name in ('Gannet', 'Plover') and piece.state = 'handed_back'`) as unknown as [
      { count: number },
    ];
  await browser.go("/desk?pile=all");
  await browser.find("h1");
  const sizes: number[] = [];
  for (let n = 1; n <= 120; n += 1) {
    await browser.keys("n");
    await browser.driver.sleep(120);
    if (n % 20 === 0) sizes.push(await held());
  }
  return `- Memory over 120 pieces visited (${count} of them with feedback), after collection: ${sizes.map((s) => s.toFixed(0)).join(", ")} MB at 20, 40, … 120; last to first ${(sizes.at(-1)! / sizes[0]!).toFixed(2)}.`;
}
