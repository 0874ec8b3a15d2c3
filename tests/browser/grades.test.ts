import { afterAll, beforeAll, describe, expect, test } from "@jest/globals";
import { By, Key } from "selenium-webdriver";
import { startApp, type App } from "../support/app";
import { openBrowser, type Browser } from "../support/browser";
import { testDatabase, type TestDatabase } from "../support/database";

/** A grade: its rules are set, it is opened into its sum, and other scores are tried and leave no trace. */
let database: TestDatabase;
let app: App;
let browser: Browser;
let section: string;
let odalys: string;

const id = async (query: Promise<{ id: string }[]>) => (await query)[0]!.id;
beforeAll(async () => {
  database = await testDatabase("almanac_demo");
  const { sql } = database;
  section = await id(sql<{ id: string }[]>`select id from section where name = 'Curlew'`);
  odalys = await id(sql<{ id: string }[]>`select id from person where name = 'Odalys Brandt'`);
  app = await startApp(database.url);
  browser = await openBrowser(app.origin);
});
afterAll(async () => {
  await browser?.close();
  await app?.stop();
  await database?.drop();
});
const rules = async () =>
  (
    await database.sql<{ gradeRules: { scale: { from: string }[]; missing: string } }[]>`
      select grade_rules from section where id = ${section}`
  )[0]!.gradeRules;

describe("a grade", () => {
  test("its rules are the section's: what is wrong is said at its step, and nothing is kept until it is right", async () => {
    await browser.enterAs(odalys);
    await browser.go(`/sections/${section}/set-up`);
    await browser.awake("[aria-labelledby=grade-rules] button");
    await browser.press("is left out");
    const field = await browser.find("input[aria-label='Step 2 begins at']");
    await field.clear();
    await field.sendKeys("95");
    const keep = await browser.find("[aria-labelledby=grade-rules] > button");
    await browser.driver.executeScript("arguments[0].scrollIntoView({ block: 'center' })", keep);
    await keep.click();
    await browser.waitForText("Steps go down", "[aria-labelledby=grade-rules]");
    expect((await rules()).missing).toBe("zero");
    await field.clear();
    await field.sendKeys("80,5");
    await keep.click();
    await browser.waitForText("Kept", "[aria-labelledby=grade-rules] > button");
    expect(await rules()).toMatchObject({ missing: "left out" });
    expect((await rules()).scale[1]!.from).toBe("80.5");
  });

  test("from the Ledger by keyboard to its sum; a score that is tried changes what is shown and nothing else", async () => {
    await browser.go(`/ledger/${section}`);
    const way = await browser.find("a[aria-label*='the grade and its sum']");
    await browser.driver.executeScript("arguments[0].focus()", way);
    await browser.keys(Key.ENTER);
    await browser.waitForText("how it is worked out", "details");
    await browser.awake("main input");
    const scores = async () => (await database.sql`select from score`).length;
    const before = await scores();
    const input = await browser.find("main input[aria-label^='Try a score']");
    await browser.driver.executeScript("arguments[0].focus()", input);
    await browser.keys("lots");
    await browser.waitForText("a number such as 7.5");
    await browser.keys(Key.BACK_SPACE, Key.BACK_SPACE, Key.BACK_SPACE, Key.BACK_SPACE, "1");
    await browser.waitForText("tried:", "main");
    await browser.press("Forget what was tried");
    await browser.driver.wait(
      async () => !(await browser.text("main")).includes("tried:"),
      30_000,
      "what was tried is forgotten",
    );
    expect(await scores()).toBe(before);
  });

  test("its student sees it where it is shown, with the sum that was told", async () => {
    const student = await id(database.sql<{ id: string }[]>`
      select student_id as id from enrolment
      where section_id = ${section} and left_on is null
        and exists (select from score join piece on piece.id = piece_id where piece.student_id = enrolment.student_id)
      order by student_id limit 1`);
    await browser.enterAs(student);
    await browser.go("/work");
    await browser.press("Grades");
    await browser.waitForText("Curlew", "h2");
    expect(await browser.driver.findElements(By.css("main table"))).not.toHaveLength(0);
    await database.sql`update section set grade_rules = grade_rules || '{"shown": false}'`;
    await browser.go("/grades");
    await browser.waitForText("No grade is shown yet");
  });
});
