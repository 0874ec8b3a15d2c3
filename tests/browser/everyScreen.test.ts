import { execFile } from "node:child_process";
import { mkdtemp, rm, writeFile } from "node:fs/promises";
import os from "node:os";
import path from "node:path";
import { promisify } from "node:util";
import { afterAll, beforeAll, beforeEach, expect, test } from "@jest/globals";
import { Key } from "selenium-webdriver";
import { startApp, type App } from "../support/app";
import { seriousOn } from "../support/axe";
import { openBrowser, type Browser } from "../support/browser";
import { asPerson, testDatabase, type TestDatabase } from "../support/database";
import {
  behindBars,
  emulate,
  LAPTOP,
  setSize,
  sideways,
  sidewaysAt,
  tallBars,
} from "../support/geometry";
import { idsOf, SCREENS } from "../support/screens";
import { handIn } from "../../src/server/pieces/moves";
import type { Person } from "../../src/server/call";

/** Every screen in both themes by axe-core, small screens, and hostile text. */
let database: TestDatabase;
let app: App;
let browser: Browser;
const ids: Record<string, string> = {};

beforeAll(async () => {
  database = await testDatabase("almanac_demo");
  app = await startApp(database.url);
  browser = await openBrowser(app.origin);
  Object.assign(ids, await idsOf(database.sql));
});
beforeEach(() => setSize(browser, LAPTOP));
afterAll(async () => {
  await browser?.close();
  await app?.stop();
  await database?.drop();
});

/** The page as it would come out of a printer (W3C WebDriver, 17.1), as a PDF in base 64. */
const printPage = ({ driver }: Browser) =>
  (driver as unknown as { printPage: (how: object) => Promise<string> }).printPage({});

/** What is wrong with the page as it is shown, but for its inks: those are looked at by themselves. */
const seriousButInks = () =>
  seriousOn(browser, {
    runOnly: ["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa", "best-practice"],
    rules: { "color-contrast": { enabled: false } },
  });

/** Inks on their grounds that were looked at, by day or by night, on whatever screen. */
const inksSeen = new Set<string>();

/**
 * Points out one text for each ink on a ground that no screen before had: what is the same in colour, size, and all
 * grounds under it, has the same contrast, and looking is slow.
 *
 * @returns whether there is any
 */
async function pickNewInks(): Promise<boolean> {
  const fresh = await browser.driver.executeScript<string[]>(
    `const seen = new Set(arguments[0]), fresh = [];
    for (const e of document.querySelectorAll("body *")) {
      e.removeAttribute("data-new-ink");
      if (![...e.childNodes].some((n) => n.nodeType === 3 && n.data.trim()) && !e.matches("input, select, textarea")) continue;
      const own = getComputedStyle(e);
      const under = [];
      for (let at = e; at; at = at.parentElement) {
        const { backgroundColor, backgroundImage, opacity } = getComputedStyle(at);
        under.push(backgroundColor === "rgba(0, 0, 0, 0)" && backgroundImage === "none" && opacity === "1" ? "" : [backgroundColor, backgroundImage, opacity]);
      }
      const ink = [own.color, own.fontSize, own.fontWeight, under.filter(Boolean).join()].join(" ");
      if (seen.has(ink) || !e.checkVisibility()) continue;
      seen.add(ink);
      fresh.push(ink);
      e.setAttribute("data-new-ink", "");
    }
    return fresh;`,
    [...inksSeen],
  );
  for (const ink of fresh) inksSeen.add(ink);
  return fresh.length > 0;
}
let signedIn: string | null = null;

test.each([["", "/sign-in"], ...SCREENS] as [string, string][])(
  "axe-core finds nothing serious, by day and by night (%s %s)",
  async (as, where) => {
    if (as !== signedIn) {
      await browser.go("/sign-in");
      if (as) await browser.enterAs(ids[as]!);
      else await browser.driver.manage().deleteAllCookies();
      signedIn = as;
    }
    await browser.go(where.replace(/\{(\w+)\}/g, (_, name: string) => ids[name]!));
    await browser.find("h1, h2");
    // A picture that is still coming has no height yet, and all that stands on it lies in one heap.
    await browser.driver.wait(
      () =>
        browser.driver.executeScript<boolean>(
          "return [...document.images].every((image) => image.complete || image.loading === 'lazy')",
        ),
      60_000,
      "the pictures are there",
    );
    await browser.settled();
    expect(await seriousButInks()).toEqual([]);
    // Only the inks differ between the themes.
    for (const theme of ["day", "night"]) {
      await browser.driver.executeScript(
        "document.documentElement.dataset.theme = arguments[0]",
        theme,
      );
      if (!(await pickNewInks())) continue;
      const rule = { runOnly: { type: "rule" as const, values: ["color-contrast"] } };
      expect(await seriousOn(browser, rule, { include: [["[data-new-ink]"]] })).toEqual([]);
    }
    const behind = await behindBars(browser);
    const wide = await sidewaysAt(browser, [1280, 1024, 768, 320, 195]);
    // On a phone other things are shown, and what is pressed lies closer.
    await setSize(browser, { width: 390, height: 844 });
    expect(await seriousButInks()).toEqual([]);
    wide.push(...(await sideways(browser)));
    // A laptop of 1280 by 800 at 400 %.
    await setSize(browser, { width: 320, height: 200 });
    const tall = await tallBars(browser);
    behind.push(...(await behindBars(browser)));
    expect({ wide, tall, behind }).toEqual({ wide: [], tall: [], behind: [] });
  },
);

test("the theme that was chosen is there from the first byte", async () => {
  await browser.enterAs(ids.teacher!);
  signedIn = "teacher";
  await browser.driver.manage().addCookie({ name: "almanac_theme", value: "night" });
  await browser.go("/today");
  expect(await browser.driver.executeScript("return document.documentElement.dataset.theme")).toBe(
    "night",
  );
  await browser.driver.manage().deleteCookie("almanac_theme");
});

test("the night theme follows the device until one is chosen; forced colours keep the dots of the ribbon and what is on", async () => {
  const paper = () =>
    browser.driver.executeScript<string>(
      "return getComputedStyle(document.body.parentElement).backgroundColor",
    );
  await browser.enterAs(ids.teacher!);
  signedIn = "teacher";
  await browser.go("/today");
  await browser.find("h1");
  const byDay = await paper();
  await emulate(browser, { "prefers-color-scheme": "dark" });
  const byNight = await paper();
  expect(byNight).not.toBe(byDay);
  await browser.driver.manage().addCookie({ name: "almanac_theme", value: "day" });
  await browser.go("/today");
  expect(await paper()).toBe(byDay);
  await browser.driver.manage().deleteCookie("almanac_theme");
  await emulate(browser, { "forced-colors": "active", "prefers-color-scheme": "light" });
  await browser.go("/today");
  await browser.find("[data-dot]");
  const [dot, ground] = await browser.driver.executeScript<string[]>(
    "const of = (e) => getComputedStyle(e).backgroundColor; return [of(document.querySelector('[data-dot].bg-ink')), of(document.documentElement)];",
  );
  expect(dot).not.toBe(ground);
  await emulate(browser, {});
});

test.each([
  ["teacher", "/hand-outs/{letter}"],
  ["teacher", "/ledger/{section}"],
  ["teacher", "/calendar"],
  ["teacher", "/desk?pile=all&handOut={letter}&piece={done}"],
  ["doneStudent", "/work/{done}"],
] as const)("printing gives what is on the screen, without bars (%s %s)", async (as, where) => {
  await browser.enterAs(ids[as]!);
  await browser.go(where.replace(/\{(\w+)\}/g, (_, name: string) => ids[name]!));
  await browser.find("main h1, main h2, [data-sheet]");
  await browser.settled();
  const [title, screen] = await browser.driver.executeScript<[string, string]>(
    "return [document.querySelector('main h1')?.textContent ?? '', [...document.querySelectorAll('main :is(h1, h2, h3, p, th, td, li, article, dd, dt, ins, del)')].filter((e) => !e.closest('button, nav, details:not([open]), .sr-only, [role=toolbar]')).map((e) => [...e.childNodes].filter((n) => n.nodeType === 3).map((n) => n.data).join(' ')).join(' ')]",
  );
  const folder = await mkdtemp(path.join(os.tmpdir(), "almanac-print-"));
  const file = path.join(folder, "page.pdf");
  await writeFile(file, Buffer.from(await printPage(browser), "base64"));
  const { stdout } = await promisify(execFile)("pdftotext", ["-layout", file, "-"]);
  await rm(folder, { recursive: true });
  const bare = (text: string) => text.replace(/\s+/g, "").toLowerCase();
  const printed = bare(stdout);
  expect(printed).toContain(bare(title).slice(0, 30));
  // Most of what can be read on the screen can be read on paper; the masthead cannot.
  const long = [...new Set(screen.match(/\p{L}{5,}/gu) ?? [])];
  const missing = long.filter((word) => !printed.includes(bare(word)));
  expect(missing.length / long.length < 0.25 ? [] : missing.slice(0, 20)).toEqual([]);
  expect(printed).not.toContain("signout");
});

/** The words of this page on paper, sheet by sheet. */
async function onPaper(): Promise<string[]> {
  const folder = await mkdtemp(path.join(os.tmpdir(), "almanac-paper-"));
  const file = path.join(folder, "page.pdf");
  await writeFile(file, Buffer.from(await printPage(browser), "base64"));
  const { stdout } = await promisify(execFile)("pdftotext", [file, "-"]);
  await rm(folder, { recursive: true });
  // Every sheet ends with a form feed.
  return stdout
    .split("\f")
    .slice(0, -1)
    .map((sheet) => sheet.replace(/\s+/g, " "));
}

/** As it is compared: a hyphen at the end of a line is taken for one that the printer made. */
const bare = (words: string) => words.replace(/[\s-]/g, "");

test("the Ledger on paper has every student beside every part of its columns, and every column", async () => {
  await browser.enterAs(ids.teacher!);
  await browser.go(`/ledger/${ids.section}`);
  await browser.awake("[role=grid]");
  const sheets = await onPaper();
  const students = await database.sql<{ name: string }[]>`
    select shown_name(person) as name from enrolment join person on person.id = student_id
    where section_id = ${ids.section!} and left_on is null`;
  const columns = await database.sql<{ title: string }[]>`
    select assignment.title from hand_out join assignment on assignment.id = assignment_id
    where section_id = ${ids.section!} and withdrawn_at is null and opens_at <= now()
      and due_at >= (select max(starts_on) from term where starts_on <= now())`;
  const whole = bare(sheets.join(" "));
  expect(columns.filter(({ title }) => !whole.includes(bare(title)))).toEqual([]);
  // A long class goes on on a second sheet; each is beside as many parts as the first is.
  const parts = Math.ceil(columns.length / 9);
  const times = (name: string) => whole.split(bare(name)).length - 1;
  expect(students.filter(({ name }) => times(name) !== parts)).toEqual([]);
  expect(whole).not.toMatch(/Findastudent|takeaway|onlyblanks/);
});

type Noted = {
  id: string;
  studentId: string;
  name: string;
  notes: { body: string; nature: string; quote: string }[];
};

/** The piece of the letter in one of these states with the most notes on words in what came back last. */
async function mostNoted(states: readonly string[]): Promise<Noted> {
  const [most] = await database.sql<Noted[]>`
    select piece.id, student_id, person.name, jsonb_agg(mark) as notes
    from piece
    join person on person.id = student_id
    cross join lateral (
      select content from hand_back where piece_id = piece.id order by number desc limit 1
    ) last
    cross join lateral jsonb_array_elements(last.content -> 'marks') mark
    where hand_out_id = ${ids.letter!} and piece.state = any(${states as string[]})
      and mark ->> 'kind' = 'note' and mark ->> 'quote' <> ''
    group by piece.id, student_id, person.name
    order by count(*) desc, piece.id limit 1`;
  return most!;
}

/** Opens a piece as its student has it. */
async function openNoted({ id, studentId }: Noted): Promise<void> {
  await browser.enterAs(studentId);
  await browser.go(`/work/${id}`);
  await browser.find("[data-note]");
  await browser.settled();
}

test("feedback on paper says whose it is and what each note is about", async () => {
  const piece = await mostNoted(["handed_back"]);
  await openNoted(piece);
  const sheets = await onPaper();
  expect(sheets[0]).toContain(piece.name);
  const whole = sheets.join(" ");
  // What is longer is said by its beginning and its end.
  const short = piece.notes.map(({ quote }) => quote).filter((quote) => quote.length <= 90);
  expect(short.length).toBeGreaterThan(0);
  expect(short.filter((quote) => !bare(whole).includes(bare(`“${quote}”`)))).toEqual([]);
  expect(whole).not.toMatch(/Add a file|Let me hear|Ask something|← My work/);
});

test("Escape closes the month of a date first, and the dialog it stands in after that", async () => {
  await browser.enterAs(ids.teacher!);
  await browser.go(`/hand-outs/${ids.letter}`);
  await browser.awake(".sheet-table button");
  await (await browser.find(".sheet-table td button")).click();
  await browser.find("[role=dialog]");
  await browser.press("Choose from the month");
  await browser.find("[popover] [role=grid]");
  await browser.keys(Key.ESCAPE);
  const open = () =>
    browser.driver.executeScript<string[]>(
      "return [...document.querySelectorAll('[popover], [role=dialog]')].map((e) => e.getAttribute('role') ?? 'month').concat(document.activeElement.getAttribute('role'))",
    );
  expect(await open()).toEqual(["dialog", "spinbutton"]);
  await browser.keys(Key.ESCAPE);
  await browser.driver.wait(async () => !(await open()).includes("dialog"), 5000, "closed");
});

type AxNode = {
  nodeId: string;
  role?: { value: string };
  name?: { value: string };
  childIds?: string[];
};

/** What a reader is told of each note in the margin: the words in the accessibility tree under it. */
async function notesAsRead(): Promise<string[]> {
  const driver = browser.driver as unknown as {
    sendAndGetDevToolsCommand: (name: string, args?: object) => Promise<{ nodes: AxNode[] }>;
  };
  const { nodes } = await driver.sendAndGetDevToolsCommand("Accessibility.getFullAXTree", {});
  const byId = new Map(nodes.map((node) => [node.nodeId, node]));
  const words = (node: AxNode | undefined): string => {
    if (!node) return "";
    if (node.role?.value === "StaticText") return node.name?.value ?? "";
    return (node.childIds ?? []).map((id) => words(byId.get(id))).join(" ");
  };
  return nodes
    .filter((node) => node.role?.value === "article")
    .map((node) => words(node).replace(/\s+/g, " "));
}

test("the accessibility tree has each mark with what it is, its words, and what became of it", async () => {
  const piece = await mostNoted(["to_revise", "reworking"]);
  await openNoted(piece);
  const read = await notesAsRead();
  // What is written with signs for bold or a list is read without them.
  const plain = piece.notes.filter(({ body }) => /^[\p{L}\p{N} ,.?!:;’'–-]+$/u.test(body));
  const kinds: Record<string, RegExp> = {
    remark: /^note/i,
    request: /asks|asked|done|settled/i,
    praise: /praise/i,
  };
  expect(plain.length).toBeGreaterThan(0);
  for (const { body, nature } of plain) {
    const note = read.find((words) => bare(words).includes(bare(body)));
    expect(note ?? `nothing with “${body}”`).toMatch(kinds[nature]!);
  }
});

test("a phone of 360 px sees every student's screen without scrolling sideways, and a finger hits what it means", async () => {
  for (const [as, where] of [
    ["revising", "/work"],
    ["revising", `/work/${ids.revising}`],
    ["spoken", `/work/${ids.spoken}`],
    ["tide", `/work/${ids.tide}`],
    ["clouds", `/work/${ids.clouds}`],
    ["poster", `/work/${ids.poster}`],
    ["poster", "/reminders"],
    ["displayed", `/displays/${ids.display}?piece=${ids.displayed}`],
    ["look", `/looks/${ids.look}`],
    ["look", "/letters"],
    ["done", "/grades"],
  ] as const) {
    await browser.enterAs(ids[`${as}Student`]!);
    await browser.go(where);
    await browser.find("main h1, main h2");
    await browser.shot("/dev/null", { width: 360, height: 740 });
    await (
      browser.driver as unknown as {
        sendDevToolsCommand: (name: string, args: object) => Promise<void>;
      }
    ).sendDevToolsCommand("Emulation.setDeviceMetricsOverride", {
      width: 360,
      height: 740,
      deviceScaleFactor: 1,
      mobile: true,
    });
    const wide = await browser.driver.executeScript<number>(
      "return document.documentElement.scrollWidth - window.innerWidth",
    );
    expect({ where, wide: wide > 0 }).toEqual({ where, wide: false });
    // WCAG 2.2, 2.5.5 (target size, enhanced): 44 by 44 CSS pixels; links within a sentence are excepted.
    const small = await browser.driver.executeScript<string[]>(
      "return [...document.querySelectorAll('main button, main summary, main select, main input:not([type=file]):not([type=checkbox]):not([type=radio])')].filter((e) => e.offsetParent && !e.closest('.sr-only') && e.getBoundingClientRect().height < 43.5 && e.getBoundingClientRect().width > 0 && !e.classList.contains('sr-only')).map((e) => e.outerHTML.slice(0, 120))",
    );
    expect({ where, small }).toEqual({ where, small: [] });
    // What lies in a closed fold has a place, but is not seen.
    // Notes stand under the paragraph of their words: none covers a line of the writing, an act, or another note.
    // They are measured a frame after what they measure, so it is what they come to that counts.
    const coveredNow = `const boxes = (css) => [...document.querySelectorAll(css)].map((e) => ({ e, r: e.getBoundingClientRect() })).filter(({ e, r }) => r.width > 0 && r.height > 0 && e.checkVisibility());
      const over = (a, b) => a.left < b.right - 1 && b.left < a.right - 1 && a.top < b.bottom - 1 && b.top < a.bottom - 1;
      const notes = boxes("[data-note]");
      const lines = boxes(".ProseMirror :is(p, h2, h3), .writing :is(p, h2, h3)").filter(({ e }) => !e.closest("[data-note]"));
      const acts = boxes("main :is(button, input, select, textarea, summary)").filter(({ e }) => !e.closest("[data-note], .sr-only, #to-do, [data-layer]") && !e.classList.contains("sr-only"));
      return notes.flatMap(({ e, r }) => [...lines, ...acts, ...notes.filter((n) => n.e !== e)].filter((o) => over(r, o.r)).map((o) => e.textContent.slice(0, 40) + " | " + o.e.textContent.slice(0, 40)));`;
    let covered: string[] = [];
    await browser.driver
      .wait(async () => {
        covered = await browser.driver.executeScript<string[]>(coveredNow);
        return covered.length === 0;
      }, 30_000)
      .catch(() => {});
    expect({ where, covered }).toEqual({ where, covered: [] });
  }
});

test("the keys are listed on ?, and Escape gives the page back", async () => {
  await browser.enterAs(ids.teacher!);
  await browser.go(`/desk?pile=waiting`);
  await browser.find("[data-sheet]");
  await browser.keys("?");
  await browser.waitForText("Keys of the Desk", "[role=dialog]");
  await browser.keys(Key.ESCAPE);
  await browser.driver.wait(
    async () => (await browser.driver.findElements({ css: "[role=dialog]" })).length === 0,
    30_000,
  );
});

test("a script in a student's text is text", async () => {
  const evil = `<img src=x onerror="window.pwned=1"><script>window.pwned=1</script>"><svg onload=window.pwned=1>`;
  const { sql } = database;
  const [piece] = await sql<
    { id: string; studentId: string }[]
  >`select piece.id, student_id from piece_standing piece where piece.state = 'not_opened' and piece.title = 'Moon phases: plan of our poster' limit 1`;
  const [who] = await sql<
    Person[]
  >`select id, kind, name, called, school_id, 'America/Halifax' as zone from person where id = ${piece!.studentId}`;
  const text = (value: string) => ({
    type: "paragraph",
    content: [
      {
        type: "text",
        text: value,
        marks: [{ type: "link", attrs: { href: "javascript:window.pwned=1" } }],
      },
    ],
  });
  await asPerson(sql, who!).change(new Date(), (call) =>
    handIn(call, piece!.id, { doc: { type: "doc", content: [text(evil)] } }, 0),
  );
  await browser.enterAs(ids.teacher!);
  await browser.go(`/desk?pile=waiting&piece=${piece!.id}`);
  await browser.waitForText("onerror", "[data-sheet]");
  expect(
    await browser.driver.executeScript(
      "return [window.pwned, document.querySelectorAll('[data-sheet] img, [data-sheet] script, [data-sheet] svg, [data-sheet] a').length]",
    ),
  ).toEqual([null, 0]);
});
