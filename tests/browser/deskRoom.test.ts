import { afterAll, beforeAll, describe, expect, test } from "@jest/globals";
import { Key } from "selenium-webdriver";
import { startApp, type App } from "../support/app";
import { openBrowser, type Browser } from "../support/browser";
import { testDatabase, type TestDatabase } from "../support/database";
import { atSize, behindBars } from "../support/geometry";
import { idsOf } from "../support/screens";

/** The room the Desk has for the work, and where the focus is after each act. */
let database: TestDatabase;
let app: App;
let browser: Browser;
let ids: Record<string, string>;

beforeAll(async () => {
  database = await testDatabase("almanac_demo");
  app = await startApp(database.url);
  browser = await openBrowser(app.origin);
  ids = await idsOf(database.sql);
  ids.film = (
    await database.sql<{ id: string }[]>`
      select version.piece_id as id from item join version_item on item_id = item.id join version on version.id = version_id
      where item.kind = 'film' order by version.id limit 1`
  )[0]!.id;
  await browser.enterAs(ids.teacher!);
}, 180_000);
afterAll(async () => {
  await browser?.close();
  await app?.stop();
  await database?.drop();
});

async function open(piece: string): Promise<void> {
  await browser.go(`/desk?pile=all&piece=${piece}`);
  await browser.awake("#work .desk-sheet button, #work .desk-sheet [data-sheet]");
  await browser.settled();
}

type Room = {
  /** From where the work begins to the tray. */ first: number;
  /** What scrolls. */ reading: number;
  /** The tray. */ tray: number;
  /** From the edge of the work to its notes. */ toNotes: number;
  /** How far the work with its margin is from the middle. */ aside: number;
  sideways: number;
};

const measure = () =>
  browser.driver.executeScript<Room>(`
    const box = (e) => e.getBoundingClientRect();
    const work = box(document.querySelector("#work")), sheet = box(document.querySelector(".desk-sheet"));
    const tray = box(document.querySelector("[aria-label=Tray]")), margin = document.querySelector("[aria-label=Margin]");
    const parts = [...document.querySelectorAll(".desk-sheet [data-sheet], .desk-sheet [data-surface], .desk-sheet video, .desk-sheet audio, .desk-sheet section > ol")].filter((e) => e.checkVisibility());
    const edge = Math.max(...parts.map((e) => Math.min(box(e).right, box(margin.parentElement.firstElementChild).right)));
    const both = [box(margin.parentElement.firstElementChild).left, box(margin).right];
    return {
      first: tray.top - Math.max(sheet.top, work.top),
      reading: work.height,
      tray: tray.height,
      toNotes: box(margin).left - edge,
      aside: Math.abs((both[0] + both[1]) / 2 - (work.left + work.right) / 2),
      sideways: document.documentElement.scrollWidth - innerWidth,
    };`);

describe.each([
  ["writing, in its second round", "again"],
  ["pages of a document", "report"],
  ["photos", "clouds"],
  ["a film", "film"],
  ["answers", "tide"],
])("%s", (_, piece) => {
  test("has 620 px of 800 at first and 660 while reading; its notes begin within 32 px; the tray is one line", async () => {
    await open(ids[piece]!);
    const room = await measure();
    expect(room.first).toBeGreaterThanOrEqual(620);
    expect(room.reading).toBeGreaterThanOrEqual(660);
    expect(room.toNotes).toBeLessThanOrEqual(32);
    expect(room.tray).toBeLessThanOrEqual(56);
    expect(room.sideways).toBeLessThanOrEqual(0);
  });

  test("on a school laptop, a tablet held upright and a wide window too", async () => {
    await open(ids[piece]!);
    const laptop = await atSize(browser, { width: 1024, height: 768 }, measure);
    expect(laptop.sideways).toBeLessThanOrEqual(0);
    expect(laptop.toNotes).toBeLessThanOrEqual(32);
    expect(laptop.reading).toBeGreaterThanOrEqual(600);
    const tablet = await atSize(browser, { width: 768, height: 1024 }, measure);
    expect(tablet.sideways).toBeLessThanOrEqual(0);
    expect(tablet.toNotes).toBeLessThanOrEqual(32);
    const wide = await atSize(browser, { width: 1920, height: 1080 }, measure);
    expect(wide.toNotes).toBeLessThanOrEqual(32);
    expect(wide.aside).toBeLessThanOrEqual(16);
  });

  test("nothing that has the focus lies behind something that stays in view", async () => {
    await open(ids[piece]!);
    const here = () => behindBars(browser);
    expect(await here()).toEqual([]);
    expect(await atSize(browser, { width: 768, height: 1024 }, here)).toEqual([]);
  });
});

test("on a tablet held upright the tools are at the right hand, each large enough for a thumb", async () => {
  await open(ids.clouds!);
  const small = await atSize(browser, { width: 768, height: 1024 }, () =>
    browser.driver.executeScript<string[]>(
      "return [...document.querySelectorAll('[aria-label=Tools] button[aria-pressed]')].filter((b) => { const r = b.getBoundingClientRect(); return r.height < 43.5 || r.right < innerWidth - 100; }).map((b) => b.textContent);",
    ),
  );
  expect(small).toEqual([]);
});

test("the strip is one stop after the work, and tells who is who", async () => {
  await open(ids.again!);
  const found = await browser.driver.executeScript<{
    stops: number;
    after: boolean;
    names: string[];
  }>(`
    const strip = document.querySelector("nav[aria-label=Queue]");
    return {
      stops: strip.querySelectorAll("button[tabindex='0']").length,
      after: Boolean(document.querySelector("#work").compareDocumentPosition(strip) & Node.DOCUMENT_POSITION_FOLLOWING),
      names: [...strip.querySelectorAll("button")].map((b) => b.getAttribute("aria-label").split(",")[0] + "|" + b.querySelector("span").textContent),
    };`);
  expect(found).toMatchObject({ stops: 1, after: true });
  const people = new Map(found.names.map((line) => line.split("|") as [string, string]));
  expect(new Set(people.values()).size).toBe(people.size);
});

/** The focus, in a word: its label, or what it is; "body" is what it must never be. */
const focus = () =>
  browser.driver.executeScript<string>(`
    const at = document.activeElement;
    if (at === document.body || !at) return "body";
    if (at.id === "work") return "work";
    if (at.matches("[data-sheet]")) return "writing";
    if (at.closest("[role=dialog]")) return "dialog " + at.tagName;
    if (at.closest("[data-composer]")) return "composer " + at.tagName;
    if (at.closest("[data-rubric]")) return "rubric";
    if (at.closest("[aria-label=Tray]")) return "tray " + at.tagName;
    if (at.closest("[aria-label=Margin]")) return "margin " + at.tagName;
    return at.tagName + " " + (at.getAttribute("aria-label") || at.textContent).slice(0, 30);`);
const press =
  (...keys: string[]) =>
  async () => {
    await browser.keys(...keys);
  };
const is = async (name: string, wanted: RegExp) => {
  let last = "";
  await browser.driver
    .wait(async () => wanted.test((last = await focus())), 20_000)
    .catch(() => undefined);
  expect({ name, focus: last }).toEqual({ name, focus: expect.stringMatching(wanted) });
};

test("after each of forty acts the focus is where work goes on", async () => {
  const [first] = await database.sql<{ id: string }[]>`
    select piece.id from piece_standing piece where piece.title like '%Lab report%' and state = 'handed_in' and round = 1 order by piece.id limit 1`;
  await browser.go(`/desk?pile=new&piece=${first!.id}`);
  await browser.awake("[data-sheet]");
  await browser.settled();
  const escape = press(Key.ESCAPE);
  const acts: [string, () => Promise<void>, RegExp][] = [
    ["the page opens", async () => {}, /^work$/],
    ["next", press("n"), /^work$/],
    ["previous", press("p"), /^work$/],
    ["next that waits", press("u"), /^work$/],
    ["back", press("p"), /^work$/],
    ["a word", press(Key.ARROW_RIGHT), /^writing$/],
    ["a note is begun", press(Key.ENTER), /^composer TEXTAREA$/],
    ["dropped", escape, /^writing$/],
    ["one that asks", press("q"), /^composer TEXTAREA$/],
    ["kept", press("W", "h", "y", "?", Key.ENTER), /^writing$/],
    ["praise", press("y"), /^composer TEXTAREA$/],
    ["kept", press("G", "o", "o", "d", Key.ENTER), /^writing$/],
    ["next word", press(Key.ARROW_RIGHT), /^writing$/],
    ["other words", press("e"), /^composer INPUT$/],
    ["kept", press("x", Key.ENTER), /^writing$/],
    ["words put in", press("i"), /^composer INPUT$/],
    ["dropped", escape, /^writing$/],
    ["next word", press(Key.ARROW_RIGHT), /^writing$/],
    ["taken out", press("d"), /^writing$/],
    ["next word", press(Key.ARROW_RIGHT), /^writing$/],
    ["a tick", press("t"), /^writing$/],
    ["undone", press("z"), /^(writing|work)$/],
    ["done again", () => browser.shift("z"), /^(writing|work)$/],
    ["next mark", press("]"), /^(writing|work)$/],
    ["it goes", press(Key.DELETE), /^(writing|work)$/],
    ["a note on the whole", press("w"), /^composer TEXTAREA$/],
    ["dropped", escape, /^(writing|work)$/],
    ["overall note", press("o"), /^tray TEXTAREA$/],
    ["left", escape, /^work$/],
    ["score", press("s"), /^tray INPUT$/],
    ["typed and left", press("7", Key.ENTER), /^work$/],
    ["bank", press("/"), /^tray INPUT$/],
    ["left", escape, /^work$/],
    ["flag", press("f"), /^dialog BUTTON$/],
    ["left", escape, /^work$/],
    ["revise", press("r"), /^dialog (INPUT|SPAN)$/],
    ["left", escape, /^work$/],
    ["keys", press("?"), /^dialog INPUT$/],
    ["left", escape, /^work$/],
    ["find", () => browser.control("k"), /^dialog INPUT$/],
    ["left", escape, /^work$/],
    ["beside", press("\\"), /^(work|writing)$/],
    ["it goes", press("\\"), /^(work|writing)$/],
    ["strip folds", () => browser.shift("n"), /^work$/],
    ["strip unfolds", () => browser.shift("n"), /^work$/],
    ["left as a draft", press("l"), /^work$/],
  ];
  for (const [name, act, wanted] of acts) {
    await act();
    await is(name, wanted);
  }
  expect(acts.length).toBeGreaterThanOrEqual(40);
});

test("the window, the heading and a live word say whose piece it is after the next one", async () => {
  await browser.go(`/desk?pile=waiting&piece=${ids.again}`);
  await browser.awake("[data-sheet]");
  const before = await browser.text("h1");
  await browser.keys("n");
  await browser.driver.wait(async () => (await browser.text("h1")) !== before, 30_000);
  const name = await browser.text("h1");
  await browser.driver.wait(
    async () => (await browser.driver.getTitle()).startsWith(`${name}:`),
    30_000,
  );
  expect(
    await browser.driver.executeScript(
      "return document.querySelector('header [role=status]').textContent",
    ),
  ).toContain(name);
});

test("z takes back what was done last, on the piece where it was done, and a hand-back while it can be called back", async () => {
  await browser.go(`/desk?pile=waiting&piece=${ids.again}`);
  await browser.awake("[data-sheet]");
  const name = await browser.text("h1");
  const notes = () =>
    browser.driver.executeScript<number>(
      "return document.querySelectorAll('[aria-label=Margin] article.border-l-4').length",
    );
  const before = await notes();
  await browser.keys(Key.ARROW_RIGHT, Key.ENTER, "S", "o", ".", Key.ENTER);
  await browser.driver.wait(async () => (await notes()) === before + 1, 30_000);
  await browser.keys("n");
  await browser.driver.wait(async () => (await browser.text("h1")) !== name, 30_000);
  await browser.keys("z");
  await browser.waitForText(name, "h1");
  await browser.driver.wait(async () => (await notes()) === before, 30_000);
});

test("a typed score is not written over by the rubric: both are shown, and one press chooses", async () => {
  const [piece] = await database.sql<{ id: string }[]>`
    select piece.id from piece_standing piece join hand_out on hand_out.id = piece.hand_out_id
    join assignment on assignment.id = hand_out.assignment_id
    where piece.title like '%Lab report%' and piece.state = 'handed_in' order by piece.id limit 1`;
  await open(piece!.id);
  await browser.keys("s", "7", Key.ENTER);
  await browser.keys("b");
  await is("rubric", /^rubric$/);
  for (let n = 0; n < 6; n += 1) await browser.keys("2");
  await browser.waitForText("you wrote 7", "[aria-label=Tray]");
  await browser.press("Take the sum");
  await browser.driver.wait(
    () =>
      browser.driver.executeScript<boolean>(
        "return !document.querySelector('[aria-label=Tray]').textContent.includes('you wrote')",
      ),
    30_000,
  );
  expect(
    await browser.driver.executeScript(
      "return document.querySelector('[aria-label=Tray] input').value",
    ),
  ).not.toBe("7");
});

test("single letters can be made to wait for Ctrl+. or to do nothing", async () => {
  await browser.go(`/desk?pile=waiting&piece=${ids.again}`);
  await browser.awake("[data-sheet]");
  const name = await browser.text("h1");
  await browser.keys("?");
  await browser.waitForText("Keys of the Desk", "[role=dialog]");
  await browser.driver.executeScript(
    "document.querySelector('[role=dialog] input[value=chord]').click()",
  );
  await browser.keys(Key.ESCAPE);
  await is("the work", /^work$/);
  await browser.keys("n");
  expect(await browser.text("h1")).toBe(name);
  await browser.control(".");
  await browser.keys("n");
  await browser.driver.wait(async () => (await browser.text("h1")) !== name, 30_000);
  await database.sql`delete from person_setting where name = 'letters'`;
});
