import { afterAll, beforeAll, describe, expect, test } from "@jest/globals";
import { By, Key } from "selenium-webdriver";
import { startApp, type App } from "../support/app";
import { openBrowser, type Browser } from "../support/browser";
import { testDatabase, type TestDatabase } from "../support/database";

/** One piece all the way round in the real interface: the teacher by keyboard alone, the student by pressing. */
let database: TestDatabase;
let app: App;
let teacher: Browser;
let student: Browser;
let teacherId: string;
let studentId: string;
let pieceId: string;
let handOutId: string;

beforeAll(async () => {
  database = await testDatabase("almanac_demo");
  app = await startApp(database.url);
  [teacher, student] = await Promise.all([openBrowser(app.origin), openBrowser(app.origin)]);
  const [odalys] = await database.sql<
    { id: string }[]
  >`select id from person where name = 'Odalys Brandt'`;
  const [pupil] = await database.sql<{ id: string }[]>`
    select person.id from enrolment join person on person.id = student_id join section on section.id = section_id
    where section.name = 'Petrel' order by sort_name limit 1`;
  teacherId = odalys!.id;
  studentId = pupil!.id;
});
afterAll(async () => {
  await Promise.allSettled([teacher?.close(), student?.close()]);
  await app?.stop();
  await database?.drop();
});

const typed = (browser: Browser, css: string, text: string) =>
  browser.find(css).then((field) => field.sendKeys(text));

describe("the circle", () => {
  test("1 · the teacher hands out, by keyboard alone", async () => {
    await teacher.enterAs(teacherId);
    const [petrel] = await database.sql<
      { id: string }[]
    >`select id from section where name = 'Petrel'`;
    await teacher.go(`/hand-out?section=${petrel!.id}`);
    await teacher.find(".ProseMirror");
    await teacher.keys("Why is the sea salt?");
    await teacher.driver.executeScript("document.querySelector('.ProseMirror').focus()");
    await teacher.keys("Explain it to a friend.");
    await teacher.waitForText("Explain it to a friend.", "aside");
    const points = await teacher.driver.findElement(
      By.xpath("//label[.='Possible points']/following-sibling::input"),
    );
    await points.sendKeys(Key.chord(Key.CONTROL, "a"), "20", Key.chord(Key.CONTROL, Key.ENTER));
    await teacher.waitForText("Why is the sea salt?", "h1");
    await teacher.waitForText("not opened", "table");
    handOutId = new URL(await teacher.driver.getCurrentUrl()).pathname.split("/").at(-1)!;
    const [piece] = await database.sql<
      { id: string }[]
    >`select id from piece where hand_out_id = ${handOutId} and student_id = ${studentId}`;
    pieceId = piece!.id;
  });

  test("2 · the student writes; it is saved as typed, survives the tab, and is handed in with a receipt", async () => {
    await student.enterAs(studentId);
    await student.go("/work");
    await student.waitForText("Why is the sea salt?");
    await student.press("Why is the sea salt?");
    await student.find(".ProseMirror");
    await typed(
      student,
      ".ProseMirror",
      "Rivers recieve salt from stones. The sea keeps it becuase only water leaves.",
    );
    await student.waitForText("Saved", "[data-saving]");
    await student.go(`/work/${pieceId}`);
    await student.waitForText("Rivers recieve salt", ".ProseMirror");
    await student.press("Hand in");
    await student.press("Hand in now");
    await student.waitForText("Receipt of Almanac");
    await student.waitForText("on time");
    expect(await student.text("main")).toMatch(/[0-9A-Z]{4}-[0-9A-Z]{4}/);
    await student.press("Take it back to change it");
    await student.find(".ProseMirror");
    await student.press("Hand in again");
    await student.press("Hand in now");
    await student.waitForText("version 2, round 1");
  });

  test("3 · the teacher reads and marks without a mouse", async () => {
    await teacher.go(`/desk?handOut=${handOutId}&pile=waiting`);
    await teacher.waitForText("Rivers recieve salt", "[data-sheet]");
    // → to "Rivers", → to "recieve"; e: other words instead
    await teacher.keys(Key.ARROW_RIGHT, Key.ARROW_RIGHT, "e");
    await teacher.find("[data-composer] input");
    await teacher.keys("receive", Key.ENTER);
    await teacher.waitForText("Instead of “recieve”: “receive”.", "[role=complementary]");
    // a favourite on the next words
    await teacher.keys(Key.ARROW_RIGHT);
    await teacher.shift(Key.ARROW_RIGHT);
    await teacher.keys("2");
    await teacher.waitForText("Which unit is this in?", "[role=complementary]");
    expect(await teacher.driver.executeScript("return getSelection().toString()")).toBe(
      "salt from",
    );
    // ; and a shorthand; {name} fills in
    await teacher.keys(Key.ARROW_RIGHT, ";");
    await teacher.find("[data-composer] textarea");
    await teacher.keys("aloud", Key.ENTER);
    const [pupil] = await database.sql<
      { called: string }[]
    >`select called from person where id = ${studentId}`;
    await teacher.driver.wait(
      async () =>
        (await (await teacher.find("[data-composer] textarea")).getAttribute("value"))?.includes(
          `aloud, ${pupil!.called}`,
        ),
      30_000,
      "the placeholder was not filled",
    );
    await teacher.keys(Key.ENTER);
    await teacher.waitForText(
      `Read this sentence aloud, ${pupil!.called}.`,
      "[role=complementary]",
    );
    // a tick, then undone before the server has answered: it is the tick that goes, not the note before it
    await teacher.slow(700);
    await teacher.keys(Key.ARROW_RIGHT, "t", "z");
    const undone = async () =>
      (
        await database.sql`select id from mark where piece_id = ${pieceId} and kind = 'tick' and deleted_at is not null`
      ).length === 1;
    await teacher.driver.wait(undone, 30_000, "the tick was not undone");
    await teacher.slow(0);
    expect(await teacher.driver.findElements({ css: ".sign-tick" })).toHaveLength(0);
    await teacher.waitForText(
      `Read this sentence aloud, ${pupil!.called}.`,
      "[role=complementary]",
    );
    await teacher.keys("o");
    await teacher.keys("Nearly there.", Key.ESCAPE, "s");
    await teacher.keys("8/10", Key.ESCAPE);
    await teacher.waitForText("16 / 20", "[aria-label=Tray]");
    await teacher.waitForText("draft: only teachers of this section see it", "[aria-label=Tray]");
  });

  test("the student sees nothing of the draft", async () => {
    await student.go(`/work/${pieceId}`);
    const page = await student.driver.getPageSource();
    for (const words of ["Nearly there", "Which unit", "Read this sentence"])
      expect(page).not.toContain(words);
  });

  test("4 · handed back to revise: marks at their words, edits accepted, requests ticked, handed in again", async () => {
    await teacher.keys("r");
    await teacher.waitForText("Round 2 is due", "[role=dialog]");
    await (await teacher.find("[role=dialog] button[type=submit]")).sendKeys(Key.ENTER);
    await teacher.waitForText("Handed back to");
    await student.go("/work");
    await student.waitForText("2 requests open", "section");
    expect((await student.text("main")).indexOf("Why is the sea salt?")).toBeLessThan(
      (await student.text("main")).indexOf("\nDue\n"),
    );
    await student.press("Why is the sea salt?");
    await student.find(".ProseMirror [data-mark]");
    await student.waitForText("Nearly there.");
    await student.press("Accept");
    await student.waitForText("Rivers receive salt", ".ProseMirror");
    for (let n = 0; n < 2; n += 1) {
      const boxes = await student.driver.findElements({ css: "[data-note] input[type=checkbox]" });
      await student.driver.executeScript(
        "arguments[0].scrollIntoView({ block: 'center' }); arguments[0].click()",
        boxes[n],
      );
    }
    await student.waitForText("no open requests");
    await student.press("Reply");
    await typed(student, "[data-note] textarea", "Grams per litre!");
    await student.press("Send");
    await student.waitForText("Grams per litre!", "[data-note]");
    await student.driver.executeScript("document.querySelector('.ProseMirror').focus()");
    await (await student.find(".ProseMirror")).sendKeys(Key.chord(Key.CONTROL, Key.HOME), "So: ");
    await student.waitForText("Saved", "[data-saving]");
    await student.press("Hand in again");
    await student.press("Hand in now");
    await student.waitForText("version 3, round 2");
  });

  test("5 · round two: what changed, each request where its words now are, settled, handed back for good", async () => {
    await teacher.go(`/desk?handOut=${handOutId}&pile=again`);
    await teacher.waitForText("So: Rivers receive salt", "[data-sheet]");
    await teacher.waitForText("Since round 1");
    await teacher.waitForText("the student says: done", "[role=complementary]");
    await teacher.waitForText("Grams per litre!", "[role=complementary]");
    await teacher.keys("c");
    await teacher.waitForText("So", "[data-sheet] ins");
    await teacher.keys("c");
    for (const button of await teacher.driver.findElements({
      xpath: "//button[normalize-space(.)='Settled']",
    }))
      await button.sendKeys(Key.ENTER);
    await teacher.driver.wait(
      async () =>
        (await teacher.driver.findElements({ css: "button[aria-pressed=true]" })).length >= 2,
      30_000,
      "not settled",
    );
    await teacher.driver.executeScript("document.activeElement.blur()");
    await teacher.keys("s");
    await teacher.keys("90%", Key.ESCAPE);
    await teacher.waitForText("18 / 20", "[aria-label=Tray]");
    await teacher.keys("h");
    await teacher.waitForText("Handed back to");
    const [petrel] = await database.sql<
      { id: string }[]
    >`select id from section where name = 'Petrel'`;
    await teacher.go(`/ledger/${petrel!.id}`);
    const [pupil] = await database.sql<
      { name: string }[]
    >`select name from person where id = ${studentId}`;
    await teacher.awake("input[type=search]");
    await (await teacher.find("input[type=search]")).sendKeys(pupil!.name);
    await teacher.find(
      `[role=gridcell][aria-label="${pupil!.name}, Why is the sea salt?: 18, handed back, round 2"]`,
    );
    await student.go("/work");
    await student.waitForText("score 18 / 20");
  });
});

describe("the work is safe", () => {
  let draftPiece: string;
  beforeAll(async () => {
    const [piece] = await database.sql<{ id: string }[]>`
      select piece.id from piece join hand_out on hand_out.id = hand_out_id join assignment on assignment.id = assignment_id
      where student_id = ${studentId} and title = 'Tide gauge against table'`;
    draftPiece = piece!.id;
  });

  test("without a connection it is kept on the device, said so, and saved when it returns", async () => {
    await student.go(`/work/${draftPiece}`);
    await student.find(".ProseMirror");
    await student.offline(true);
    await typed(student, ".ProseMirror", "Written on the ferry.");
    await student.waitForText("Not saved: no connection. Kept on this device.", "[data-saving]");
    await student.offline(false);
    await student.waitForText("Saved", "[data-saving]", 40);
    const [copy] = await database.sql<
      { doc: object }[]
    >`select doc from working_copy where piece_id = ${draftPiece}`;
    expect(JSON.stringify(copy!.doc)).toContain("Written on the ferry.");
  });

  test("a tab that died before saving finds its words again", async () => {
    await student.go(`/work/${draftPiece}`);
    await student.waitForText("Written on the ferry.", ".ProseMirror");
    await student.offline(true);
    await typed(student, ".ProseMirror", " And this was never sent.");
    await student.waitForText("Kept on this device", "[data-saving]");
    await student.driver.get("about:blank");
    await student.offline(false);
    await student.go(`/work/${draftPiece}`);
    await student.waitForText("And this was never sent.", ".ProseMirror");
    await student.waitForText("Saved", "[data-saving]", 40);
  });

  test("two windows: the later one is told and shown both, and nothing is lost", async () => {
    const other = await openBrowser(app.origin);
    try {
      await other.enterAs(studentId);
      await other.go(`/work/${draftPiece}`);
      await student.go(`/work/${draftPiece}`);
      await Promise.all([other.find(".ProseMirror"), student.find(".ProseMirror")]);
      await typed(student, ".ProseMirror", " From the laptop.");
      await student.waitForText("Saved", "[data-saving]");
      await student.driver.wait(
        async () =>
          JSON.stringify(
            await database.sql`select doc from working_copy where piece_id = ${draftPiece}`,
          ).includes("From the laptop."),
        30_000,
      );
      await typed(other, ".ProseMirror", " From the phone.");
      await other.waitForText("also changed in another window");
      await other.waitForText("laptop", "del");
      await other.press("Take the other");
      await other.waitForText("From the laptop.", ".ProseMirror");
      await typed(other, ".ProseMirror", " Both.");
      await other.waitForText("Saved", "[data-saving]");
    } finally {
      await other.close();
    }
  });
});
