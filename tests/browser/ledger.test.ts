import { afterAll, beforeAll, beforeEach, describe, expect, test } from "@jest/globals";
import { By, Key, type WebElement } from "selenium-webdriver";
import { EMPTY_CELL } from "../../src/core/ledger/cell";
import type { Person } from "../../src/server/call";
import { addColumn } from "../../src/server/ledger/addColumn";
import { saveCells } from "../../src/server/ledger/save";
import { startApp, type App } from "../support/app";
import { openBrowser, type Browser } from "../support/browser";
import { asPerson, testDatabase, type TestDatabase } from "../support/database";

/** The Ledger in the hands: typed by keyboard, pasted into, by two at once, and without a connection. */
let database: TestDatabase;
let app: App;
let browser: Browser;
let section: string;
let teacher: Person;
let handOut: string;
// Of two digits each, so that the newest stands last.
let titles = 10;

beforeAll(async () => {
  database = await testDatabase("almanac_demo");
  const { sql } = database;
  section = (await sql<{ id: string }[]>`select id from section where name = 'Curlew'`)[0]!.id;
  teacher = (
    await sql<Person[]>`
      select person.id, kind, person.name, called, school_id, time_zone as zone
      from person join school on school.id = school_id where person.name = 'Odalys Brandt'`
  )[0]!;
  app = await startApp(database.url);
  browser = await openBrowser(app.origin);
  await browser.enterAs(teacher.id);
});
afterAll(async () => {
  await browser?.close();
  await app?.stop();
  await database?.drop();
});
beforeEach(async () => {
  titles += 1;
  const day = new Date().toISOString().slice(0, 10);
  const column = { title: `Paper ${titles}`, points: "10", on: day, category: "" };
  const made = await asPerson(database.sql, teacher).change(new Date(), (call) =>
    addColumn(call, section, column),
  );
  handOut = made.handOutId;
  await browser.go(`/ledger/${section}`);
  await browser.awake("[role=grid]");
});

/** Goes to the first student's cell of the column that was made for this test. */
async function toFirst(): Promise<void> {
  // The newest column stands at the right end, which is drawn once it is in sight.
  const column = await browser.driver.wait(
    () =>
      browser.driver.executeScript<number | null>(
        `document.querySelector('[role=grid]').scrollLeft = 1e6;
         const head = [...document.querySelectorAll('[role=columnheader]')].find((e) => e.textContent.includes(arguments[0]));
         return head ? Number(head.getAttribute('aria-colindex')) - 2 : null`,
        `Paper ${titles}`,
      ),
    60_000,
    "the column is drawn",
  );
  await (await browser.find(`[data-spot='0:${column}']`)).click();
}
const saved = () => browser.waitForText("Saved", "[data-saving]");
/** What the server has of this column, in the order of the rows. */
const typed = async () =>
  (
    await database.sql<{ score: string; flag: string | null; excused: boolean }[]>`
      select coalesce(feedback.score_typed, '') as score, piece.flag, piece.excused
      from piece
      join person on person.id = piece.student_id
      left join feedback on feedback.piece_id = piece.id and feedback.round_number = 1
      where piece.hand_out_id = ${handOut} and piece.removed_at is null
      order by person.sort_name, person.id`
  ).map(({ score, flag, excused }) => score || flag || (excused ? "ex" : ""));
const paste = (text: string) =>
  browser.driver.executeScript(
    `const data = new DataTransfer(); data.setData("text/plain", arguments[0]);
     document.activeElement.dispatchEvent(new ClipboardEvent("paste", { clipboardData: data, bubbles: true, cancelable: true }));`,
    text,
  );

describe("by keyboard", () => {
  test("a class is typed in with two key presses a student, and each cell is kept", async () => {
    await toFirst();
    const students = (await typed()).length;
    const scores = Array.from({ length: students }, (_, n) => `${(n % 9) + 1}`);
    let presses = 0;
    for (const score of scores) {
      await browser.keys(score);
      await browser.keys(Key.ENTER);
      presses += 2;
    }
    expect(presses * 26).toBeLessThanOrEqual(60 * students);
    await saved();
    expect(await typed()).toEqual(scores);
    await browser.waitForText(`Hand back Paper ${titles}: ${students} drafts`);
  });

  test("what is not understood is said at once and does not go; Escape leaves the cell as it was", async () => {
    await toFirst();
    await browser.keys("8", "x", Key.ENTER);
    await browser.waitForText("is not a score", "[role=alert]");
    await browser.keys(Key.ESCAPE);
    await browser.keys("away", Key.ENTER, "ex", Key.ENTER, "9", Key.TAB);
    await saved();
    expect((await typed()).slice(0, 4)).toEqual(["away", "ex", "9", ""]);
  });

  test("a stretch is filled, undone and done again; the flags have keys and buttons", async () => {
    await toFirst();
    await browser.shift(Key.ARROW_DOWN);
    await browser.shift(Key.ARROW_DOWN);
    await browser.keys("6");
    await browser.control(Key.ENTER);
    await saved();
    expect((await typed()).slice(0, 4)).toEqual(["6", "6", "6", ""]);
    await browser.control("z");
    await browser.waitForText("Undone: 3 cells.", "[data-said]");
    await browser.control("y");
    await browser.waitForText("Done again: 3 cells.", "[data-said]");
    await browser.press("away");
    await saved();
    const flags =
      await database.sql`select from piece where hand_out_id = ${handOut} and flag = 'away'`;
    expect(flags).toHaveLength(3);
    await browser.driver.executeScript(
      "document.querySelector('[data-focus][tabindex=\"0\"]').focus()",
    );
    await browser.keys(Key.DELETE);
    await saved();
    expect((await typed()).slice(0, 3)).toEqual(["", "", ""]);
  });

  test("the row and the cell one is at are said; focus stays in the grid, and Tab leaves it", async () => {
    await toFirst();
    await browser.keys(Key.ARROW_DOWN);
    const label = () =>
      browser.driver.executeScript<string>(
        "return document.activeElement.getAttribute('aria-label') ?? ''",
      );
    expect(await label()).toContain(`, Paper ${titles}: no score`);
    await browser.control(Key.HOME);
    expect(await label()).toContain("the grade and its sum");
    await browser.control(Key.END);
    const last = await browser.driver.executeScript<string>(
      "return document.activeElement.closest('[role=row]').getAttribute('aria-rowindex')",
    );
    const rows = await (await browser.find("[role=grid]")).getAttribute("aria-rowcount");
    expect(last).toBe(rows);
    await browser.keys(Key.TAB);
    expect(
      await browser.driver.executeScript("return document.activeElement.closest('[role=grid]')"),
    ).toBeNull();
  });
});

test("a note beside a cell is written by key, to the student and private, and the cell says so", async () => {
  await toFirst();
  await browser.keys("8", Key.ENTER, Key.ARROW_UP);
  await browser.shift(Key.F2);
  const field = await browser.find("[role=dialog] textarea");
  await field.sendKeys("Count the hours too.");
  await browser.waitForText("the student sees it with the score", "[data-note-saving]");
  const [first, second] = await browser.driver.findElements(By.css("[role=dialog] textarea"));
  expect([await first!.getAttribute("value"), await second!.getAttribute("value")]).toEqual([
    "Count the hours too.",
    "",
  ]);
  await second!.sendKeys("Ask at home.");
  await browser.press("Keep the note");
  await browser.waitForText("Ask at home.", "[role=dialog] li");
  await browser.keys(Key.ESCAPE);
  await browser.driver.wait(
    async () => (await browser.driver.findElements(By.css("[role=dialog]"))).length === 0,
    60_000,
  );
  await browser.waitForText("a note to the student, 1 private note");
  const focused = await browser.driver.switchTo().activeElement();
  expect(await focused.getAttribute("role")).toBe("gridcell");
});

test("a column is made wider by keys and narrower by its edge, and is so the next time", async () => {
  await toFirst();
  const width = () =>
    browser.driver.executeScript<number>(
      "return document.activeElement.getBoundingClientRect().width",
    );
  const before = await width();
  await browser.driver
    .actions()
    .keyDown(Key.ALT)
    .keyDown(Key.SHIFT)
    .sendKeys(Key.ARROW_RIGHT)
    .keyUp(Key.SHIFT)
    .keyUp(Key.ALT)
    .perform();
  await browser.driver.wait(async () => (await width()) > before, 60_000, "it is wider");
  const edge = await browser.driver.executeScript<WebElement>(
    "return [...document.querySelectorAll('[role=columnheader]')].find((e) => e.textContent.includes(arguments[0])).querySelector('[data-edge]')",
    `Paper ${titles}`,
  );
  const byKeys = await width();
  const drag = browser.driver.actions().move({ origin: edge }).press();
  await drag.move({ origin: edge, x: -12 }).move({ origin: edge, x: -12 }).release().perform();
  await browser.driver.wait(async () => (await width()) < byKeys, 60_000, "it is narrower");
  const wide = await width();
  await browser.driver.wait(
    async () =>
      (
        await database.sql`
        select from ledger_layout
        where layout->'widths' @> ${database.sql.json([{ id: handOut, px: Math.round(wide) }])}`
      ).length > 0,
    60_000,
    "it is kept",
  );
  await browser.go(`/ledger/${section}`);
  await browser.awake("[role=grid]");
  await toFirst();
  expect(await width()).toBeCloseTo(wide, 0);
});

test("what is pasted from a spreadsheet is shown first, with what does not fit", async () => {
  await toFirst();
  await paste("7\r\n8,5\r\nmany\r\n9\r\n");
  await browser.waitForText("3 cells will change. 1 cell does not fit", "[role=dialog]");
  await browser.waitForText("many", "[role=dialog] table");
  await browser.press("Paste what fits");
  await saved();
  expect((await typed()).slice(0, 5)).toEqual(["7", "8,5", "", "9", ""]);
});

test("sections stand side by side: one is typed in beside the other, found by what is missing in a column, and sorted", async () => {
  await toFirst();
  await browser.press("Put Plover beside");
  await browser.driver.wait(
    async () =>
      (await browser.driver.getCurrentUrl()).includes("beside=") &&
      (await (await browser.find("[role=grid]")).getAttribute("aria-label")) ===
        "Scores of Curlew, Plover",
    60_000,
    "both are there",
  );
  await browser.awake("[role=grid]");
  await toFirst();
  await browser.keys("7", Key.ENTER);
  await saved();
  // Only Curlew has this column: those without a score in it are the others of Curlew.
  const count = async () =>
    Number(await (await browser.find("[role=grid]")).getAttribute("aria-rowcount")) - 1;
  const all = await count();
  const students = (await typed()).length;
  await (await browser.find("[aria-label='Students shown'] option[value=blank]")).click();
  await browser.driver.wait(async () => (await count()) === students - 1, 60_000, "they are shown");
  await (await browser.find("[aria-label='Students shown'] option[value=all]")).click();
  await browser.driver.wait(async () => (await count()) === all, 60_000, "all are shown");
  expect(all).toBeGreaterThan(students);
  // The last row is of Plover, which has not this work: nothing can be typed, and it says why.
  await toFirst();
  await browser.keys(...Array.from({ length: 12 }, () => Key.PAGE_DOWN));
  await browser.keys("7");
  await browser.waitForText("was not given to", "[data-said]");
  await browser.control(Key.HOME);
  const firstNames = () =>
    browser.driver.executeScript<string>(
      "return [2, 3, 4].map((n) => document.querySelector(`[aria-rowindex='${n}'] [role=rowheader]`)?.textContent).join()",
    );
  const byName = await firstNames();
  await browser.press("grade");
  await browser.driver.wait(async () => (await firstNames()) !== byName, 60_000, "it is sorted");
  const byGrade = await firstNames();
  await browser.driver.wait(
    async () =>
      (await database.sql`select from ledger_layout where layout->'sort'->>'by' = 'grade'`).length >
      0,
    60_000,
    "the order is kept",
  );
  await browser.driver.navigate().refresh();
  await browser.awake("[role=grid]");
  expect(await firstNames()).toBe(byGrade);
  await browser.press("Put Plover away");
  await browser.driver.wait(
    async () => !(await browser.driver.getCurrentUrl()).includes("beside="),
    60_000,
  );
  await browser.awake("[role=grid]");
  await browser.press("student");
  await browser.driver.wait(
    async () =>
      (await database.sql`select from ledger_layout where layout->'sort'->>'by' = 'name'`).length >
      0,
    60_000,
    "the order is kept",
  );
});

test("a column for work off the screen is made in one line, and one goes on typing there", async () => {
  await browser.press("+ Column for work off the screen");
  await browser.find("form[aria-label='New column'] input");
  await browser.keys("Talk in class", Key.ENTER);
  await browser.waitForText("· Talk in class");
  await browser.driver.wait(
    async () =>
      (await browser.driver.findElements(By.css("form[aria-label='New column']"))).length === 0,
    30_000,
  );
});

test("a co-teacher's score that came meanwhile stands beside, and nothing is overwritten until one is chosen", async () => {
  await toFirst();
  const [piece] = await database.sql<{ id: string }[]>`
    select piece.id from piece join person on person.id = student_id
    where hand_out_id = ${handOut} and removed_at is null order by sort_name, person.id limit 1`;
  await asPerson(database.sql, teacher).change(new Date(), (call) =>
    saveCells(call, section, [
      { pieceId: piece!.id, was: EMPTY_CELL, now: { ...EMPTY_CELL, score: "4" } },
    ]),
  );
  await browser.keys("8", Key.ENTER, Key.ARROW_UP);
  await browser.waitForText("You typed 8; Odalys Brandt made it 4 meanwhile.");
  expect((await typed())[0]).toBe("4");
  await browser.press("Keep mine");
  await saved();
  expect((await typed())[0]).toBe("8");
});

test("without a connection what is typed stays, is said to wait, survives the tab, and goes by itself", async () => {
  await toFirst();
  await browser.offline(true);
  await browser.keys("5", Key.ENTER, "6", Key.ENTER);
  await browser.waitForText(
    "No connection: what you typed is kept on this device",
    "[data-saving]",
  );
  expect((await typed()).slice(0, 2)).toEqual(["", ""]);
  await browser.offline(false);
  await browser.go("/sections");
  await browser.go(`/ledger/${section}`);
  await saved();
  await browser.driver.wait(async () => (await typed())[1] === "6", 30_000, "it is sent");
  expect((await typed()).slice(0, 2)).toEqual(["5", "6"]);
});
