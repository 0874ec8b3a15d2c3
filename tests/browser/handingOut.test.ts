import { afterAll, beforeAll, describe, expect, test } from "@jest/globals";
import { By, Key } from "selenium-webdriver";
import { startApp, type App } from "../support/app";
import { openBrowser, type Browser } from "../support/browser";
import { typeWhen } from "../support/typeWhen";
import { testDatabase, type TestDatabase } from "../support/database";

/** Handing out and what belongs to it, in the real interface. */
let database: TestDatabase;
let app: App;
let browser: Browser;
const ids: Record<string, string> = {};

beforeAll(async () => {
  database = await testDatabase("almanac_demo");
  app = await startApp(database.url);
  browser = await openBrowser(app.origin);
  for (const name of ["Odalys Brandt", "Pell Okonjo"])
    ids[name] = (
      await database.sql<{ id: string }[]>`select id from person where name = ${name}`
    )[0]!.id;
});
afterAll(async () => {
  await browser?.close();
  await app?.stop();
  await database?.drop();
});

const handOutOf = async (title: string) =>
  (
    await database.sql<
      { id: string; dueAt: Date; students: number }[]
    >`select hand_out.id, due_at, (select count(*)::int from piece where hand_out_id = hand_out.id) as students from hand_out join assignment on assignment.id = assignment_id where title = ${title} order by hand_out.created_at desc`
  )[0];

describe("handing out", () => {
  test("from Today to handed out by keyboard: 12 actions at most", async () => {
    await browser.enterAs(ids["Odalys Brandt"]!);
    await browser.go("/today");
    await browser.find("h1");
    let actions = 0;
    const act = async (...keys: string[]) => {
      actions += 1;
      await browser.keys(...keys);
    };
    // Once only: on a slow machine a second press falls into the title of the page that the first one opened.
    await browser.awake("a[aria-keyshortcuts='a']");
    await browser.settled();
    await act("a");
    await browser.driver.wait(
      async () => (await browser.driver.getCurrentUrl()).includes("/hand-out"),
      30_000,
      "the key opens a new hand-out",
    );
    await browser.waitForText("Choose a section under the title");
    await browser.driver.wait(
      async () => (await browser.driver.switchTo().activeElement().getTagName()) === "input",
      30_000,
    );
    await act("Wind rose of the week");
    for (
      let n = 0;
      n < 9 && !(await browser.driver.switchTo().activeElement().getText()).includes("Gannet");
      n += 1
    )
      await act(Key.TAB);
    await act(Key.SPACE);
    await browser.waitForText("26 students");
    actions += 1;
    await browser.control(Key.ENTER);
    await browser.waitForText("Wind rose of the week", "h1");
    expect(actions).toBeLessThanOrEqual(12);
    expect((await handOutOf("Wind rose of the week"))!.students).toBe(26);
  });

  test("a page that is left is kept, with what is wrong said in its place", async () => {
    await browser.go("/hand-out");
    await browser.find(".ProseMirror");
    await browser.keys("Half a thought");
    await browser.press("+ Petrel");
    await browser.waitForText("Draft kept", "[data-draft]");
    const address = await browser.driver.getCurrentUrl();
    expect(address).toContain("draft=");
    await browser.go("/shelf");
    await browser.press("Half a thought");
    await browser.find(".ProseMirror");
    await typeWhen(browser, "Petrel due", "2020-01-01T10:00");
    await browser.waitForText("The due time is in the past.");
    await browser.press("end of the school day");
    await browser.driver.wait(async () => !(await browser.text()).includes("in the past"), 30_000);
    // The section's late policy is said with an example of this very hand-out.
    expect(await browser.text("[data-late-example]")).toMatch(
      /10 % for each started school day.*started school days?, \d+ of 10 points off/,
    );
    await browser.press("Hand out to Petrel");
    await browser.waitForText("Half a thought", "h1");
    expect(
      await database.sql`select id from hand_out_draft where title = 'Half a thought'`,
    ).toHaveLength(0);
  });

  test("withdrawn, brought back, copied to another section with its dates moved", async () => {
    await browser.press("Withdraw");
    await browser.waitForText("Students do not see it");
    await browser.press("Bring it back");
    await browser.driver.wait(
      async () => !(await browser.text()).includes("Students do not see it"),
      30_000,
    );
    await browser.press("Copy");
    await browser.press("✓ Petrel");
    await browser.press("+ Curlew");
    await browser.press("Make the copy");
    await browser.waitForText("Hand out: a draft", "h1");
    // Copied at the weekend it opens on the next school day, and the button says so.
    await browser.waitForText("Curlew", "form button[type=submit]");
    await (await browser.find("form button[type=submit]")).click();
    await browser.waitForText("Curlew, Field Writing 9");
    expect((await handOutOf("Half a thought"))!.students).toBe(22);
  });

  test("one student gets a due time of their own, and is told", async () => {
    const handOut = (await handOutOf("Wind rose of the week"))!;
    await browser.go(`/hand-outs/${handOut.id}`);
    await (await browser.find("button[aria-label^='What is other for']")).click();
    const later = new Date(handOut.dueAt.getTime() + 3 * 86_400_000).toISOString().slice(0, 16);
    await typeWhen(browser, null, later);
    await browser.press("Set");
    await browser.driver.wait(
      async () => (await browser.driver.findElements(By.css("[role=dialog]"))).length === 0,
      30_000,
    );
    const [own] = await database.sql<
      { n: number; told: number }[]
    >`select count(*)::int as n, (select count(*)::int from piece_notice join piece on piece.id = piece_id where hand_out_id = ${handOut.id}) as told from piece where hand_out_id = ${handOut.id} and own_due_from = 'teacher'`;
    expect(own).toEqual({ n: 1, told: 1 });
  });
});

describe("the calendar", () => {
  test("a due date is moved to another day by keyboard, and back", async () => {
    const handOut = (await handOutOf("Wind rose of the week"))!;
    const day = new Date(handOut.dueAt.getTime() - 4 * 3_600_000).toISOString().slice(0, 10);
    await browser.go(`/calendar?month=${day.slice(0, 7)}`);
    const handle = await browser.find("button[aria-label^='Move Wind rose of the week']");
    await browser.driver.executeScript(
      "arguments[0].scrollIntoView({ block: 'center' }); arguments[0].focus()",
      handle,
    );
    /** What is said to a screen reader while it is moved: over which day it is. */
    const over = () =>
      browser.driver.executeScript<string>(
        "return [...document.querySelectorAll('[role=status][aria-live=assertive]')].map((s) => s.textContent).find((s) => s.startsWith('Over')) ?? ''",
      );
    const settledOn = (not: string) =>
      browser.driver.wait(
        async () => ![not, ""].includes(await over()),
        30_000,
        `over another day than “${not}”`,
      );
    await browser.keys(Key.SPACE);
    await settledOn("");
    const here = await over();
    // One day on, or one back where the day is the last of its row.
    await browser.keys(
      new Date(`${day}T12:00:00Z`).getUTCDay() === 0 ? Key.ARROW_LEFT : Key.ARROW_RIGHT,
    );
    await settledOn(here);
    await browser.keys(Key.SPACE);
    await browser.waitForText("students were told");
    expect((await handOutOf("Wind rose of the week"))!.dueAt).not.toEqual(handOut.dueAt);
    await browser.press("Undo");
    await browser.driver.wait(
      async () =>
        (await handOutOf("Wind rose of the week"))!.dueAt.getTime() === handOut.dueAt.getTime(),
      30_000,
    );
  });
});

describe("the Shelf and the office", () => {
  test("a rubric is pasted from a word processor's table and kept", async () => {
    await browser.go("/shelf/rubrics");
    await browser.press("New rubric: write or paste it");
    await browser.keys("Pasted rubric");
    const html =
      "<p>Ours</p><table><tr><td></td><td>Good (3)</td><td>Weak (1)</td></tr><tr><td>Place</td><td>there</td><td>far off</td></tr></table>";
    await browser.driver.executeScript(
      "const data = new DataTransfer(); data.setData('text/html', arguments[1]); arguments[0].dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }))",
      await browser.find("textarea"),
      html,
    );
    await browser.waitForText("Read from HTML: 1 criteria with up to 2 levels");
    await browser.waitForText("Ours");
    await browser.press("Keep the rubric");
    await browser.waitForText("“Pasted rubric” is on the Shelf.");
    expect(await database.sql`select id from rubric where name = 'Pasted rubric'`).toHaveLength(1);
  });
  test("a section gets a group with extra time", async () => {
    const [gannet] = await database.sql<
      { id: string }[]
    >`select id from section where name = 'Gannet'`;
    await browser.go(`/sections/${gannet!.id}/set-up`);
    await browser.press("New group");
    await browser.find("[role=dialog]");
    await browser.keys("Evening readers");
    await browser.press("Its students have extra time on everything");
    await browser.press("Aino Kallas-Ferreira");
    await browser.press("Keep");
    await browser.waitForText("+ 2 school days");
    await browser.waitForText("Evening readers");
  });
  test("the office sees what the records would change, applies it, and finds nothing more to do", async () => {
    await browser.enterAs(ids["Pell Okonjo"]!);
    await browser.go("/office/roster");
    await browser.press("Ask the school records");
    await browser.press("Apply all");
    await browser.waitForText("Applied:", "body", 40);
    await browser.press("Ask the school records");
    await browser.waitForText("there is nothing to apply");
    await browser.go("/office/people");
    await browser.press("None yet: give one");
    await browser.waitForText("It is shown this once");
  });
});
