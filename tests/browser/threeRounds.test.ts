import { afterAll, beforeAll, expect, test } from "@jest/globals";
import { By, Key } from "selenium-webdriver";
import type { Person } from "../../src/server/call";
import { addMark } from "../../src/server/marking/marks";
import { handIn } from "../../src/server/pieces/moves";
import { sweepReminders } from "../../src/server/reminders/sweep";
import { startApp, type App } from "../support/app";
import { openBrowser, type Browser } from "../support/browser";
import { answerOn, asPerson, doc, testDatabase, type TestDatabase } from "../support/database";
import { handOutSimply } from "../support/handOut";

/**
 * One piece of writing through three rounds, twice at once: one student with a phone and the finger, one by the keyboard;
 * one teacher by the keyboard, the other with the pointer.
 */
const TEXT = "The rain fell on the pier. My uncle stood there and looked at it.";
let database: TestDatabase;
let app: App;
const ways: Browser[] = [];
let [byKeys, byPointer, onPhone, atKeys] = [] as unknown as [Browser, Browser, Browser, Browser];
let [odalys, ruben, first, second] = [] as unknown as [Person, Person, Person, Person];
let handOutId: string;
let pieces: [string, string];

const person = async (name: string) =>
  (
    await database.sql<Person[]>`
      select person.id, kind, person.name, called, school_id, time_zone as zone
      from person join school on school.id = school_id where person.name = ${name}`
  )[0]!;

beforeAll(async () => {
  database = await testDatabase("almanac_demo");
  const { sql } = database;
  [odalys, ruben] = await Promise.all([person("Odalys Brandt"), person("Ruben Achterberg")]);
  const [section] = await sql<{ id: string }[]>`
    update section_teacher set may_hand_back = true
    where person_id = ${ruben.id}
      and section_id in (select section_id from section_teacher where person_id = ${odalys.id})
    returning section_id as id`;
  const names = await sql<{ name: string }[]>`
    select person.name from enrolment join person on person.id = student_id
    where section_id = ${section!.id} and left_on is null order by sort_name limit 2`;
  [first, second] = (await Promise.all(names.map(({ name }) => person(name)))) as [Person, Person];
  const now = new Date();
  const due = new Date(now.getTime() + 3 * 86_400_000).toISOString().slice(0, 16);
  const { handOuts } = await asPerson(sql, odalys).change(now, (call) =>
    handOutSimply(call, section!.id, { title: "The old pier", instructions: doc("Write."), due }),
  );
  handOutId = handOuts[0]!.id;
  pieces = [await begin(first, now, odalys), await begin(second, now, ruben)];
  // Nobody waits a minute in which it could be called back.
  for (const { id } of [odalys, ruben])
    await sql`
      insert into person_setting (person_id, name, value, changed_at) values (${id}, 'desk.hold', '0', ${now})
      on conflict (person_id, name) do update set value = excluded.value`;
  app = await startApp(database.url);
  for (let n = 0; n < 4; n += 1) ways.push(await openBrowser(app.origin));
  [byKeys, byPointer, onPhone, atKeys] = ways as typeof ways & [Browser, Browser, Browser, Browser];
  await Promise.all([
    byKeys.enterAs(odalys.id),
    byPointer.enterAs(ruben.id),
    onPhone.enterAs(first.id),
    atKeys.enterAs(second.id),
  ]);
  await (
    onPhone.driver as unknown as {
      sendDevToolsCommand: (name: string, given: object) => Promise<void>;
    }
  ).sendDevToolsCommand("Emulation.setDeviceMetricsOverride", {
    ...{ width: 390, height: 844, deviceScaleFactor: 1, mobile: true },
  });
});
afterAll(async () => {
  await Promise.allSettled(ways.map((browser) => browser.close()));
  await app?.stop();
  await database?.drop();
});

/** A piece that is in, with two requests on it in the draft of one of its teachers. */
async function begin(student: Person, now: Date, teacher: Person): Promise<string> {
  const { sql } = database;
  const [piece] = await sql<{ id: string }[]>`
    select id from piece where hand_out_id = ${handOutId} and student_id = ${student.id}`;
  const id = piece!.id;
  await asPerson(sql, student).change(now, (call) => handIn(call, id, { doc: doc(TEXT) }, 0));
  const [version] = await sql<{ id: string }[]>`select id from version where piece_id = ${id}`;
  for (const quote of ["rain", "uncle"])
    await asPerson(sql, teacher).change(now, (call) =>
      addMark(call, id, {
        ...{ id: crypto.randomUUID(), kind: "note", nature: "request", quote, replacement: "" },
        ...{ start: TEXT.indexOf(quote), end: TEXT.indexOf(quote) + quote.length },
        ...{ body: `Say more of the ${quote}.`, versionId: version!.id, commentId: null },
      }),
    );
  return id;
}

const told = async () =>
  (
    await database.sql<{ n: number }[]>`
      select count(*)::int as n from reminder
      where kind = 'handed back' and piece_id = any(${pieces})
      group by piece_id`
  ).map(({ n }) => n);
const becomes = (n: 0 | 1, state: string) =>
  byKeys.driver.wait(
    async () =>
      (await database.sql<{ state: string }[]>`select state from piece where id = ${pieces[n]}`)[0]!
        .state === state,
    60_000,
    `piece ${n} becomes ${state}`,
  );
async function openDesk(browser: Browser, n: 0 | 1): Promise<void> {
  await browser.go(`/desk?pile=all&handOut=${handOutId}&piece=${pieces[n]}`);
  await browser.awake("[data-sheet]");
}
async function reviseByKeys(): Promise<void> {
  await byKeys.keys("r");
  await byKeys.find("[role=dialog] button[type=submit]");
  await byKeys.keys(Key.ENTER);
  await becomes(0, "to_revise");
}
async function reviseByPointer(): Promise<void> {
  await byPointer.press("Hand back to revise");
  await (await byPointer.find("[role=dialog] button[type=submit]")).click();
  await becomes(1, "to_revise");
}

const ruled = (n: 0 | 1, count: number) =>
  byKeys.driver.wait(
    async () =>
      (await database.sql`select from ruling where piece_id = ${pieces[n]}`).length === count,
    30_000,
    `${count} rulings on piece ${n}`,
  );

/** Presses what is said of a request: the first one is settled, the last one asked again. */
async function ruleByPointer(words: "settle" | "ask again"): Promise<void> {
  const button = await byPointer.driver.wait(
    async () => {
      const buttons = await byPointer.driver.findElements(
        By.css("[data-note] button[aria-pressed=false]"),
      );
      for (const one of words === "settle" ? buttons : buttons.reverse())
        if ((await one.getText()).toLowerCase().startsWith(words)) return one;
      return null;
    },
    30_000,
    `a button says ${words}`,
  );
  await byPointer.driver.executeScript("arguments[0].scrollIntoView({ block: 'center' })", button);
  await button!.click();
}

/** From My work to the piece, by the line of what came back. */
async function openFromWork(browser: Browser, n: 0 | 1): Promise<void> {
  await browser.go("/work");
  const way = await browser.find(`a[href="/work/${pieces[n]}"]`);
  await browser.driver.executeScript("arguments[0].scrollIntoView({ block: 'center' })", way);
  await way.click();
}

/** With the finger: a sentence is typed, and at once the next press is made where the finger is; it is not lost. */
async function revisedOnPhone(words: string, requests: number): Promise<void> {
  await openFromWork(onPhone, 0);
  await onPhone.find(".ProseMirror [data-mark]");
  await onPhone.awake("#to-do button");
  for (let left = requests; left > 0; left -= 1) {
    await onPhone.waitForText(`${left} left`, "#to-do");
    await onPhone.press("Next");
    const box = await onPhone.driver.wait(
      async () =>
        (
          await onPhone.driver.findElements(By.css("[data-note]:focus-within input[type=checkbox]"))
        )[0] ?? null,
      30_000,
      "the note of what is next has the focus",
    );
    const paragraph = await onPhone.find(".ProseMirror p");
    await onPhone.driver.executeScript(
      "arguments[0].scrollIntoView({ block: 'center' })",
      paragraph,
    );
    await paragraph.click();
    await onPhone.keys(Key.END, ` ${words}`);
    await box!.click();
  }
  await onPhone.waitForText("✓ all done", "#to-do");
  expect(await onPhone.text(".ProseMirror")).toContain(words);
  await onPhone.press("Hand in again");
  await (await onPhone.find("[role=dialog] textarea")).sendKeys(`I wrote: ${words}`);
  await onPhone.press("Hand in now");
  await becomes(0, "handed_in");
}

async function revisedByKeys(words: string, requests: number): Promise<void> {
  await openFromWork(atKeys, 1);
  await atKeys.find(".ProseMirror [data-mark]");
  await atKeys.awake("#to-do button");
  await atKeys.driver.executeScript("document.querySelector('.ProseMirror').focus()");
  await atKeys.control(Key.END);
  await atKeys.keys(` ${words}`);
  for (let left = requests; left > 0; left -= 1) {
    await atKeys.waitForText(`${left} left`, "#to-do");
    await atKeys.keys(Key.F8);
    await atKeys.driver.wait(
      () =>
        atKeys.driver.executeScript<boolean>(
          "return document.activeElement?.closest('[data-note]') !== null",
        ),
      30_000,
      "a note has the focus",
    );
    await atKeys.keys("d");
  }
  await atKeys.waitForText("✓ all done", "#to-do");
  await atKeys.driver.executeScript(
    "[...document.querySelectorAll('button')].find((b) => b.textContent.startsWith('Hand in again')).focus()",
  );
  await atKeys.keys(Key.ENTER);
  await atKeys.find("[role=dialog] textarea");
  await atKeys.driver.executeScript(
    "[...document.querySelectorAll('[role=dialog] button')].find((b) => b.textContent.startsWith('Hand in now')).focus()",
  );
  await atKeys.keys(Key.ENTER);
  await becomes(1, "handed_in");
}

test("round 1 goes back: by one teacher's keys, by the other's pointer", async () => {
  await openDesk(byKeys, 0);
  await reviseByKeys();
  await openDesk(byPointer, 1);
  await reviseByPointer();
});

test("both students revise, with the finger and by keys, and hand in again", async () => {
  await revisedOnPhone("It was the second of March.", 2);
  await revisedByKeys("He is my mother's brother.", 2);
});

test("round 2: one request is settled and one asked again, and both go back once more", async () => {
  await openDesk(byKeys, 0);
  await byKeys.waitForText("I wrote: It was the second of March.");
  await byKeys.shift("s");
  await byKeys.shift("a");
  await ruled(0, 2);
  await reviseByKeys();
  await openDesk(byPointer, 1);
  await ruleByPointer("settle");
  await ruled(1, 1);
  await ruleByPointer("ask again");
  await ruled(1, 2);
  await reviseByPointer();
});

test("round 3: only what was asked again is left, and both go back for good in one act", async () => {
  await revisedOnPhone("The sea was flat.", 1);
  await revisedByKeys("He said nothing.", 1);
  await openDesk(byKeys, 0);
  await byKeys.shift("d");
  await byKeys.driver.wait(
    async () =>
      (
        await database.sql`
          select from ruling where piece_id = ${pieces[0]} and round_number = 3 and ruling = 'settled'`
      ).length === 1,
    30_000,
    "what was asked again is settled",
  );
  for (const [browser, n] of [
    [byKeys, 0],
    [byPointer, 1],
  ] as const) {
    await openDesk(browser, n);
    const note = await browser.find(
      "[aria-label=Tray] [contenteditable=true], [aria-label=Tray] textarea",
    );
    await note.sendKeys("Well done.");
    await browser.waitForText("saved", "[aria-label=Tray]");
  }
  await openDesk(byKeys, 0);
  await byKeys.keys("h");
  await becomes(0, "handed_back");
  await openDesk(byPointer, 1);
  await ruleByPointer("settle");
  await ruled(1, 3);
  await byPointer.press("Hand back h");
  await becomes(1, "handed_back");
});

test("no version, no mark and no word of any round is lost, and each hand-back was told once", async () => {
  for (const id of pieces) {
    const versions = await database.sql`select from version where piece_id = ${id}`;
    const backs = await database.sql<{ marks: number }[]>`
      select jsonb_array_length(content->'marks') as marks from hand_back where piece_id = ${id} order by handed_back_at`;
    expect([versions.length, backs.length]).toEqual([3, 3]);
    expect(backs[0]!.marks).toBe(2);
  }
  answerOn(database);
  // A sweep tells so many at once, those of the demo school first, and none while the application's own is at it.
  await byKeys.driver.wait(
    async () => {
      await sweepReminders(database.sql, new Date());
      return (await told()).reduce((sum, n) => sum + n, 0) >= 6;
    },
    60_000,
    "all six are told",
  );
  await sweepReminders(database.sql, new Date());
  expect(await told()).toEqual([3, 3]);
  // Round 1 is one press away for the student on the phone, and at the Desk.
  await onPhone.go(`/work/${pieces[0]}`);
  await (await onPhone.find("[aria-label=Rounds] button")).click();
  await onPhone.waitForText("Say more of the rain.", "[role=dialog]");
  await openDesk(byPointer, 1);
  await byPointer.keys("\\");
  await byPointer.press("Rounds");
  await byPointer.press("Open round 1");
  await byPointer.waitForText("Say more of the uncle.", "[role=dialog]");
});
