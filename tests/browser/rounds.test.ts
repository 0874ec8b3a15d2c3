import { afterAll, beforeAll, describe, expect, test } from "@jest/globals";
import { strToU8, zipSync } from "fflate";
import { mkdir, rm, writeFile } from "node:fs/promises";
import os from "node:os";
import path from "node:path";
import { Key } from "selenium-webdriver";
import { codeOf } from "../../src/core/fetching/folders";
import type { Person } from "../../src/server/call";
import { setOutcome } from "../../src/server/handingBack/draftOutcome";
import { saveFeedback } from "../../src/server/marking/draft";
import { addMark } from "../../src/server/marking/marks";
import { handIn } from "../../src/server/pieces/moves";
import { startApp, type App } from "../support/app";
import { openBrowser, type Browser } from "../support/browser";
import { asPerson, doc, testDatabase, type TestDatabase } from "../support/database";
import { handOutSimply } from "../support/handOut";

/** Handing back a class in one act, a round worked off as a checklist, and settled: by keys, and on a phone by press. */
const TEXT =
  "The rain fell on the pier. It was teh wettest day. My uncle stood there and looked at it.";
let database: TestDatabase;
let app: App;
let teacher: Browser;
let student: Browser;
let odalys: Person;
let pupils: Person[];
let pieces: string[];
let handOutId: string;

const people = (name: string) => database.sql<Person[]>`
  select person.id, kind, person.name, called, school_id, time_zone as zone
  from person join school on school.id = school_id where person.name = ${name}`;

beforeAll(async () => {
  database = await testDatabase("almanac_demo");
  const { sql } = database;
  odalys = (await people("Odalys Brandt"))[0]!;
  const [section] = await sql<{ id: string }[]>`select id from section where name = 'Petrel'`;
  const rows = await sql<{ name: string }[]>`
    select person.name from enrolment join person on person.id = student_id
    where section_id = ${section!.id} and left_on is null order by sort_name limit 3`;
  pupils = (await Promise.all(rows.map(({ name }) => people(name)))).map(([person]) => person!);
  const owner = asPerson(sql, odalys);
  const now = new Date();
  const wall = (days: number) =>
    new Date(now.getTime() + days * 86_400_000).toISOString().slice(0, 16);
  const { handOuts } = await owner.change(now, (call) =>
    handOutSimply(call, section!.id, {
      ...{ title: "A wet day", instructions: doc("Write."), points: "10", due: wall(3) },
    }),
  );
  handOutId = handOuts[0]!.id;
  pieces = await Promise.all(
    pupils.map(async ({ id }) => {
      const [row] = await sql<{ id: string }[]>`
        select id from piece where hand_out_id = ${handOutId} and student_id = ${id}`;
      return row!.id;
    }),
  );
  for (const [n, id] of pieces.entries())
    await asPerson(sql, pupils[n]!).change(now, (call) => handIn(call, id, { doc: doc(TEXT) }, 0));
  await draft(now);
  app = await startApp(database.url);
  [teacher, student] = await Promise.all([openBrowser(app.origin), openBrowser(app.origin)]);
});
afterAll(async () => {
  await Promise.allSettled([teacher?.close(), student?.close()]);
  await app?.stop();
  await database?.drop();
});

/** Five requests and two edits on the first piece, a word and a score on the second, nothing on the third. */
async function draft(now: Date): Promise<void> {
  const owner = asPerson(database.sql, odalys);
  const [version] = await database.sql<{ id: string }[]>`
    select id from version where piece_id = ${pieces[0]!}`;
  const put = (quote: string, facts: object) =>
    owner.change(now, (call) =>
      addMark(call, pieces[0]!, {
        ...{ id: crypto.randomUUID(), kind: "note", nature: "request", quote, replacement: "" },
        ...{ start: TEXT.indexOf(quote), end: TEXT.indexOf(quote) + quote.length },
        ...{ body: `Say more about ${quote}.`, versionId: version!.id, commentId: null },
        ...(facts as { kind: "note" }),
      }),
    );
  for (const quote of ["rain", "pier", "day", "uncle", "looked"]) await put(quote, {});
  await put("teh", { kind: "replace", nature: "remark", replacement: "the", body: "" });
  await put("fell", { kind: "replace", nature: "remark", replacement: "beat", body: "" });
  for (const [n, overall] of ["Nearly.", "Well seen."].entries())
    await owner.change(now, (call) =>
      saveFeedback(call, pieces[n]!, { overall, score: String(5 + 4 * n), picks: {} }, 0),
    );
  const due = new Date(now.getTime() + 9 * 86_400_000).toISOString().slice(0, 16);
  await owner.change(now, (call) => setOutcome(call, pieces[0]!, { outcome: "revise", due }));
}

const stateOf = async (n: number) => {
  const [row] = await database.sql<
    { state: string }[]
  >`select state from piece where id = ${pieces[n]!}`;
  return row!.state;
};
const becomes = (n: number, state: string) =>
  teacher.driver.wait(async () => (await stateOf(n)) === state, 30_000, `piece ${n} is ${state}`);
/** The note that has the focus, once it is another than before. */
async function focused(before: string | null): Promise<{ id: string; text: string }> {
  let found: { id: string; text: string } | null = null;
  await student.driver.wait(
    async () => {
      found = await student.driver.executeScript<{ id: string; text: string } | null>(
        `const note = document.activeElement?.closest("[data-note]");
         return note ? { id: note.dataset.note, text: note.textContent } : null`,
      );
      return found !== null && found.id !== before;
    },
    30_000,
    "another note has the focus",
  );
  return found!;
}
const phone = { width: 390, height: 844 };

describe("a class goes back", () => {
  test("called back within its minute, nothing has happened and nobody was told", async () => {
    await database.sql`
      update person_setting set value = '300' where person_id = ${odalys.id} and name = 'desk.hold'`;
    await teacher.enterAs(odalys.id);
    await teacher.go(`/desk?pile=all&handOut=${handOutId}&piece=${pieces[1]!}`);
    await teacher.awake("[data-sheet]");
    await teacher.keys("h");
    await teacher.waitForText(`${pupils[1]!.name} gets it back in`);
    await teacher.press("Call it back");
    await teacher.waitForText("draft: only teachers of this section see it", "[aria-label=Tray]");
    expect(await stateOf(1)).toBe("handed_in");
    expect(await database.sql`select from hand_back where piece_id = ${pieces[1]!}`).toHaveLength(
      0,
    );
    await database.sql`
      update person_setting set value = '0' where person_id = ${odalys.id} and name = 'desk.hold'`;
  });

  test("from Today in two presses, each piece as its draft says; an empty one is not among them", async () => {
    await teacher.go("/today");
    const way = await teacher.find(`a[href="/hand-back?handOut=${handOutId}"]`);
    await teacher.driver.executeScript(
      "arguments[0].closest('details')?.setAttribute('open', '')",
      way,
    );
    await way.click();
    await teacher.waitForText("One more piece came in");
    await teacher.waitForText("to revise, due", "table");
    await teacher.press("Hand back 2 pieces");
    await teacher.waitForText("2 pieces handed back.");
    expect([await stateOf(0), await stateOf(1), await stateOf(2)]).toEqual([
      "to_revise",
      "handed_back",
      "handed_in",
    ]);
  });

  test("rows chosen on the sheet with Shift are those on the page", async () => {
    const owner = asPerson(database.sql, odalys);
    await owner.change(new Date(), (call) =>
      saveFeedback(call, pieces[2]!, { overall: "A start.", score: "", picks: {} }, 0),
    );
    await teacher.go(`/hand-outs/${handOutId}`);
    await teacher.waitForText("not read yet", "table");
    const box = (n: number) => teacher.find(`input[aria-label="Choose ${pupils[n]!.name}"]`);
    await teacher.awake("table input[type=checkbox]");
    await (await box(0)).click();
    await teacher.driver
      .actions()
      .keyDown(Key.SHIFT)
      .click(await box(2))
      .keyUp(Key.SHIFT)
      .perform();
    await teacher.waitForText("3 students chosen");
    await teacher.press("Hand back …");
    // Of the three only one has a draft that was not handed back; it has no score, and was chosen by hand.
    await teacher.waitForText("no score", "table");
    await teacher.find("button[type=submit]:not([disabled])");
    await teacher.press("Show");
    await teacher.waitForText("A start.", "[role=dialog]");
    await teacher.keys(Key.ESCAPE);
    await teacher.press("Hand back 1 piece");
    await teacher.waitForText(`Handed back to ${pupils[2]!.name}.`);
    await teacher.press("Take it back");
    await teacher.waitForText("Nobody had read it.");
    await becomes(2, "handed_in");
  });
});

describe("marked files come back", () => {
  test("from a zip: what matches is listed before anything happens, and then lies in the drafts", async () => {
    const folder = path.join(os.tmpdir(), `zip ${crypto.randomUUID()}`);
    await mkdir(folder, { recursive: true });
    const zip = path.join(folder, "marked.zip");
    await writeFile(
      zip,
      zipSync({
        [`A wet day/Someone (${codeOf(pieces[1]!)})/marked.txt`]: strToU8("Read this again."),
        "A wet day/Nobody (zzzzzz)/lost.txt": strToU8("?"),
        "A wet day/who is who.csv": strToU8("folder"),
      }),
    );
    await teacher.go(`/hand-outs/${handOutId}`);
    await teacher.awake("table input[type=checkbox]");
    await teacher.press("Bring marked files back");
    await (await teacher.find("[role=dialog] input[type=file]")).sendKeys(zip);
    await teacher.waitForText("1 go into the drafts", "[role=dialog]");
    await teacher.waitForText("1 belong to nobody here", "[role=dialog]");
    expect(await database.sql`select from feedback_file where piece_id = ${pieces[1]!}`).toEqual(
      [],
    );
    await teacher.press("Lay 1 file into the drafts");
    await teacher.waitForText("1 of 1 file in the drafts");
    await rm(folder, { recursive: true });
    const laid = await database.sql<{ name: string }[]>`
      select upload.name from feedback_file join upload on upload.id = upload_id
      where piece_id = ${pieces[1]!}`;
    expect(laid.map((row) => row.name)).toEqual(["marked.txt"]);
    await teacher.go(`/hand-back?handOut=${handOutId}`);
    await teacher.waitForText("changed since it went", "table");
  });
});

describe("a round is a checklist", () => {
  test("by keys: five requests and two edits in fourteen, beside the words that are written", async () => {
    await student.enterAs(pupils[0]!.id);
    await student.go("/work");
    await student.press("A wet day");
    await student.waitForText("5 requests · 2 edits");
    await student.waitForText("7 left");
    await student.find(".ProseMirror [data-mark]");
    let keys = 0;
    let before: string | null = null;
    for (let n = 0; n < 7; n += 1) {
      await student.keys(Key.F8);
      const note = await focused(before);
      before = note.id;
      const act = note.text.includes("Instead of") ? "a" : "d";
      await student.keys(act);
      keys += 2;
      if (n < 6) await student.waitForText(`${6 - n} left`);
    }
    expect(keys).toBe(14);
    await student.waitForText("✓ all done");
    const text = await student.text(".ProseMirror");
    expect(text).toContain("The rain beat on the pier. It was the wettest day.");
    // The caret goes back to the words of a note.
    await student.press("each of them");
    await student.keys(Key.ESCAPE);
    await student.press("Hand in again");
    const field = await student.find("[role=dialog] textarea");
    await field.sendKeys("I said whose pier it is.");
    await student.press("Hand in now");
    await student.waitForText("version 2, round 2");
  });

  test("at the Desk what they changed is said, and all that is done is settled by one key", async () => {
    await teacher.go(`/desk?pile=all&handOut=${handOutId}&piece=${pieces[0]!}`);
    await teacher.awake("[data-sheet]");
    await teacher.waitForText("I said whose pier it is.");
    await teacher.shift("d");
    await teacher.driver.wait(
      async () =>
        (await teacher.driver.findElements({ css: "button[aria-pressed=true]" })).filter(Boolean)
          .length >= 5,
      30_000,
      "five are settled",
    );
    await teacher.keys("\\");
    await teacher.press("Rounds");
    await teacher.waitForText("5 / 10", "[aria-label='Beside the work']");
    await teacher.press("Open round 1");
    await teacher.waitForText("Round 1, as it came back", "[role=dialog]");
    await teacher.waitForText("Nearly.", "[role=dialog]");
    await teacher.keys(Key.ESCAPE);
    await teacher.keys("s");
    await teacher.keys("9", Key.ESCAPE);
    await teacher.waitForText("9 / 10", "[aria-label=Tray]");
    await teacher.keys("h");
    await becomes(0, "handed_back");
  });

  test("on a phone: what came back to read is first, one press away, and its rounds can be opened again", async () => {
    await (
      student.driver as unknown as {
        sendDevToolsCommand: (name: string, given: object) => Promise<void>;
      }
    ).sendDevToolsCommand("Emulation.setDeviceMetricsOverride", {
      ...{ ...phone, deviceScaleFactor: 1, mobile: true },
    });
    await student.go("/work");
    await student.waitForText("Came back, to read");
    // The first that came back is within the first screen.
    const way = await student.find(`#to-read + ul a[href="/work/${pieces[0]!}"]`);
    expect((await way.getRect()).y).toBeLessThan(phone.height);
    await way.click();
    await student.waitForText("score 9 / 10");
    const track = await student.find("[aria-label=Rounds] button");
    await track.click();
    await student.waitForText("Nearly.", "[role=dialog]");
    expect(await student.text("[role=dialog]")).not.toContain("5 / 10");
    const wide = await student.driver.executeScript<number>(
      "return document.documentElement.scrollWidth",
    );
    expect(wide).toBeLessThanOrEqual(phone.width);
  });
});
