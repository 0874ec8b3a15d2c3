import { afterAll, beforeAll, describe, expect, test } from "@jest/globals";
import { Key } from "selenium-webdriver";
import { startApp, type App } from "../support/app";
import { openBrowser, type Browser } from "../support/browser";
import { asPerson, doc, testDatabase, type TestDatabase } from "../support/database";
import { handIn } from "../../src/server/pieces/moves";
import type { Person } from "../../src/server/call";

/** From any screen: finding by a few letters, and what moves while a page is open. */
let database: TestDatabase;
let app: App;
let browser: Browser;
let odalys: string;
/** Work that is not in, with its student. */
let piece: {
  id: string;
  student: Person;
  handOutId: string;
  title: string;
  revision: number;
};

beforeAll(async () => {
  database = await testDatabase("almanac_demo");
  const { sql } = database;
  odalys = (await sql<{ id: string }[]>`select id from person where name = 'Odalys Brandt'`)[0]!.id;
  const [row] = await sql<
    { id: string; handOutId: string; title: string; studentId: string; revision: number }[]
  >`
    select piece.id, piece.hand_out_id, assignment.title, piece.student_id, 0 as revision
    from piece
    join hand_out on hand_out.id = piece.hand_out_id
    join assignment on assignment.id = hand_out.assignment_id
    where piece.state = 'not_opened' and piece.removed_at is null and assignment.title like 'Moon phases%'
    order by piece.id
    limit 1`;
  const [student] = await sql<Person[]>`
    select id, kind, name, called, school_id, 'America/Halifax' as zone from person where id = ${row!.studentId}`;
  piece = { ...row!, student: student! };
  app = await startApp(database.url);
  browser = await openBrowser(app.origin);
});
afterAll(async () => {
  await browser?.close();
  await app?.stop();
  await database?.drop();
});
const address = async () => decodeURIComponent(await browser.driver.getCurrentUrl());
const arrived = (part: string) =>
  browser.driver.wait(async () => (await address()).includes(part), 60_000, `at ${part}`);

describe("finding", () => {
  test("a slash, a name, Enter: a student's page; both names, with a slip: their piece at the Desk", async () => {
    await browser.enterAs(odalys);
    await browser.go("/today");
    await browser.awake("[aria-keyshortcuts='Control+K /']");
    // It listens from the frame after.
    await browser.settled();
    await browser.keys("/");
    await browser.find("[role=dialog] input");
    const last = piece.student.name.split(" ").at(-1)!;
    await browser.keys(piece.student.name);
    await browser.waitForText(piece.student.name, "[role=option]");
    await browser.keys(Key.ENTER);
    await arrived(`/students/${piece.student.id}`);
    await browser.settled();
    await browser.control("k");
    await browser.find("[role=dialog] input");
    // Two neighbours exchanged.
    await browser.keys(`${last} phasse`);
    await browser.waitForText("Moon phases", "[role=option]");
    await browser.keys(Key.ENTER);
    await arrived(`piece=${piece.id}`);
  });

  test("a slash that is written is a slash; Escape gives the page back; nothing found is said", async () => {
    await browser.go("/shelf/comments");
    const field = await browser.find("main input");
    await browser.awake("main input");
    await field.sendKeys("and/or");
    expect(await field.getAttribute("value")).toBe("and/or");
    expect(await browser.driver.findElements({ css: "[role=dialog]" })).toHaveLength(0);
    await browser.control("k");
    await browser.find("[role=dialog] input");
    await browser.keys("qqqqqq");
    await browser.waitForText("Nothing fits these letters", "[role=dialog]");
    await browser.keys(Key.ESCAPE);
    await browser.driver.wait(
      async () => (await browser.driver.findElements({ css: "[role=dialog]" })).length === 0,
      60_000,
    );
    expect(await field.getAttribute("value")).toBe("and/or");
  });
});

describe("what moves while a page is open", () => {
  /** The new-in count of the hand-out's line on Today; 0 where it has none. */
  const count = () =>
    browser.driver.executeScript<number>(
      "return Number(document.querySelector(`main a[href='/desk?pile=${arguments[0]}&handOut=${arguments[1]}']`)?.firstChild?.data ?? 0)",
      "new",
      piece.handOutId,
    );
  const comesIn = async (text: string) => {
    const { student, id } = piece;
    await asPerson(database.sql, student).change(new Date(), (call) =>
      handIn(call, id, { doc: doc(text), answers: {} }, piece.revision),
    );
  };

  test("a hand-in is counted without the page being loaded anew; under a hand that is about to press, it waits", async () => {
    await browser.go("/today");
    await browser.driver.executeScript("window.samePage = true");
    // The pointer rests on a link of the page.
    const link = await browser.find("main a");
    await browser.awake("main a");
    await browser.driver.actions().move({ origin: link }).perform();
    // Once the stream stands: what moved before is no news.
    await browser.driver.wait(
      () =>
        browser.driver.executeScript<boolean>(
          "return performance.getEntriesByType('resource').length > 0 && document.querySelector('[data-live]') !== null",
        ),
      60_000,
    );
    const before = await count();
    await comesIn("The moon turns.");
    await browser.waitForText("Something moved since", "[data-live]");
    expect(await count()).toBe(before);
    await browser.press("Show it");
    await browser.driver.wait(async () => (await count()) !== before, 60_000, "it is counted");
    expect(await browser.driver.executeScript("return window.samePage")).toBe(true);
  });
});
