import { afterAll, beforeAll, expect, test } from "@jest/globals";
import type { Person } from "../../src/server/call";
import { handIn } from "../../src/server/pieces/moves";
import { setLookRule } from "../../src/server/looks/rules";
import { startApp, type App } from "../support/app";
import { openBrowser, type Browser } from "../support/browser";
import { asPerson, doc, testDatabase, type TestDatabase } from "../support/database";
import { handOutSimply } from "../support/handOut";

/** A look asked of a classmate, answered at its words and taken up; a display opened, spoken on, read and closed. */
let database: TestDatabase;
let app: App;
let writer: Browser;
let reader: Browser;
let odalys: Person;
let pupils: Person[];
let handOutId: string;
let pieces: string[];

const person = async (name: string) =>
  (
    await database.sql<Person[]>`
      select person.id, kind, person.name, called, school_id, time_zone as zone
      from person join school on school.id = school_id where person.name = ${name}`
  )[0]!;
const wall = (days: number) => new Date(Date.now() + days * 86_400_000).toISOString().slice(0, 16);

beforeAll(async () => {
  database = await testDatabase("almanac_demo");
  const { sql } = database;
  odalys = await person("Odalys Brandt");
  const [section] = await sql<{ id: string }[]>`select id from section where name = 'Petrel'`;
  const names = await sql<{ name: string }[]>`
    select person.name from enrolment join person on person.id = student_id
    where section_id = ${section!.id} and left_on is null order by sort_name limit 2`;
  pupils = await Promise.all(names.map(({ name }) => person(name)));
  const owner = asPerson(sql, odalys);
  const { handOuts } = await owner.change(new Date(), (call) =>
    handOutSimply(call, section!.id, {
      ...{ title: "A grey day", instructions: doc("Write."), points: "10", due: wall(3) },
    }),
  );
  handOutId = handOuts[0]!.id;
  await owner.change(new Date(), (call) =>
    setLookRule(call, handOutId, {
      ...{ readers: "all", named: true, readFirst: false, ends: wall(2) },
    }),
  );
  pieces = await Promise.all(
    pupils.map(async ({ id }) => {
      const [row] = await sql<{ id: string }[]>`
        select id from piece where hand_out_id = ${handOutId} and student_id = ${id}`;
      return row!.id;
    }),
  );
  app = await startApp(database.url);
  [writer, reader] = await Promise.all([openBrowser(app.origin), openBrowser(app.origin)]);
});
afterAll(async () => {
  await Promise.allSettled([writer?.close(), reader?.close()]);
  await app?.stop();
  await database?.drop();
});

/** Selects words of shown work as a pointer does: the browser tells the page of its selection. */
async function select(browser: Browser, words: string): Promise<void> {
  await browser.awake("[aria-label='Say something of it'] textarea");
  await browser.driver.executeScript(
    `const walk = document.createTreeWalker(document.querySelector(".writing"), NodeFilter.SHOW_TEXT);
     for (let node = walk.nextNode(); node; node = walk.nextNode()) {
       const at = node.data.indexOf(arguments[0]);
       if (at < 0) continue;
       const range = document.createRange();
       range.setStart(node, at);
       range.setEnd(node, at + arguments[0].length);
       getSelection().removeAllRanges();
       getSelection().addRange(range);
       return;
     }
     throw new Error("these words are not there");`,
    words,
  );
}

const text = (browser: Browser) =>
  browser.driver.executeScript<string>(
    "return document.querySelector('[contenteditable=true]').textContent",
  );

test("a student asks a classmate, who offers other words; the writer accepts them and the text changes", async () => {
  await writer.enterAs(pupils[0]!.id);
  await writer.go(`/work/${pieces[0]!}`);
  const page = await writer.find("[contenteditable=true]");
  await page.click();
  await writer.keys("The fog sat on teh pier.");
  await writer.waitForText("Saved");
  await writer.press("Ask for a look");
  await writer.waitForText("What would you like to know?", "[role=dialog]");
  await writer.keys("Is it long enough?");
  await writer.press("a classmate");
  await writer.driver.executeScript(
    `const choice = document.querySelector("[role=dialog] select");
     const set = Object.getOwnPropertyDescriptor(HTMLSelectElement.prototype, "value").set;
     set.call(choice, arguments[0]);
     choice.dispatchEvent(new Event("change", { bubbles: true }));`,
    pupils[1]!.id,
  );
  await (await writer.find("[role=dialog] button[type=submit]")).click();
  await writer.waitForText("Is it long enough?");

  await reader.enterAs(pupils[1]!.id);
  await reader.go("/work");
  await reader.press(`${pupils[0]!.name} asks you for a look`);
  await reader.waitForText("Is it long enough?");
  await select(reader, "teh");
  await reader.waitForText("“teh”", "[aria-label='Say something of it']");
  const instead = await reader.find("[aria-label='Say something of it'] input");
  await instead.clear();
  await instead.sendKeys("the");
  await reader.press("Offer this edit");
  await reader.waitForText("Instead of “teh”: “the”.");
  const said = await reader.find("[aria-label='Say something of it'] textarea");
  await said.sendKeys("Long enough for me.");
  await reader.press("Say it");
  await reader.waitForText("Long enough for me.", "[aria-label='What was said of it']");
  await reader.press("I am through");
  await reader.waitForText("Due");

  await writer.go(`/work/${pieces[0]!}`);
  await writer.waitForText(`${pupils[1]!.name}, in a look`);
  await writer.press("Accept");
  await writer.waitForText("accepted");
  expect(await text(writer)).toContain("sat on the pier");
});

test("a display: opened from the sheet, spoken on by a classmate, read first by the teacher, and closed for all", async () => {
  const now = new Date();
  for (const [n, words] of ["The fog sat on the pier.", "The fog left at noon."].entries())
    await asPerson(database.sql, pupils[n]!).change(now, async (call) => {
      const [copy] = await call.tx<
        { revision: number }[]
      >`select revision from working_copy where piece_id = ${pieces[n]!}`;
      return handIn(call, pieces[n]!, { doc: doc(words) }, Number(copy?.revision ?? 0));
    });
  await writer.enterAs(odalys.id);
  await writer.go(`/hand-outs/${handOutId}`);
  await writer.press("Open a display …");
  await writer.waitForText("It closes", "[role=dialog]");
  await writer.press("Open it");
  await writer.waitForText("open until");

  await reader.go("/work");
  await reader.press("Display: A grey day");
  await reader.waitForText("The fog sat on the pier.");
  await reader.press("The fog sat on the pier.");
  await select(reader, "fog");
  await reader.waitForText("“fog”", "[aria-label='Say something of it']");
  await (await reader.find("[aria-label='Say something of it'] textarea")).sendKeys("Which fog?");
  await reader.press("Say it");
  await reader.waitForText("waits until a teacher has read it");

  await writer.go(`/displays/${handOutId}`);
  await writer.waitForText("1 to read");
  await writer.press("The fog sat on the pier.");
  await writer.waitForText("Which fog?");
  await writer.press("Let it be seen");
  await writer.waitForText("Hide it");
  await writer.go(`/hand-outs/${handOutId}`);
  await writer.press("Close it");
  await writer.waitForText("Open a display …");

  await reader.go(`/displays/${handOutId}`);
  await reader.waitForText("nothing here");
  await reader.enterAs(pupils[0]!.id);
  await reader.go(`/work/${pieces[0]!}`);
  await reader.waitForText("Which fog?");
  await reader.waitForText(`${pupils[1]!.name}, on the display`);
});
