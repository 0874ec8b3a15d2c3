import { afterAll, beforeAll, describe, expect, test } from "@jest/globals";
import { mkdtemp, writeFile } from "node:fs/promises";
import os from "node:os";
import path from "node:path";
import { By, Key } from "selenium-webdriver";
import sharp from "sharp";
import { aPart, WRITING, type Part } from "../../src/core/handouts/parts";
import type { Question } from "../../src/core/questions/question";
import type { Person } from "../../src/server/call";
import { handOut } from "../../src/server/handouts/handOut";
import { addSet } from "../../src/server/questions/sets";
import { startApp, type App } from "../support/app";
import { openBrowser, type Browser } from "../support/browser";
import { asPerson, doc, testDatabase, type TestDatabase } from "../support/database";
import { officeFile, photo } from "../support/files";
import { planFor } from "../support/handOut";

/** A student's work of every kind in the real interface: without a connection, on two devices, after a killed tab. */
let database: TestDatabase;
let app: App;
let browser: Browser;
let teacher: Person;
let student: Person;
let sectionId: string;
let folder: string;
const id = (n: string) => `00000000-0000-4000-8000-0000000000${n}`;
const SET: Question[] = [
  {
    id: id("01"),
    kind: "number",
    text: "How heavy is a litre of water?",
    points: "2",
    value: "1",
    unit: "kg",
    tolerance: "0.01",
  },
  {
    id: id("02"),
    kind: "one choice",
    text: "Which cloud is highest?",
    points: "1",
    choices: [
      { id: id("0a"), text: "stratus" },
      { id: id("0b"), text: "cirrus" },
    ],
    right: id("0b"),
  },
  {
    id: id("03"),
    kind: "ordering",
    text: "From low to high",
    points: "1",
    items: [
      { id: id("0c"), text: "fog" },
      { id: id("0d"), text: "altocumulus" },
      { id: id("0e"), text: "cirrus" },
    ],
  },
  { id: id("04"), kind: "free text", text: "Why does it rain?", points: "3", lines: 3 },
];
const person = async (where: string) =>
  (
    await database.sql.unsafe<Person[]>(
      `select person.id, kind, person.name, called, school_id, time_zone as zone from person join school on school.id = school_id where ${where} limit 1`,
    )
  )[0]!;

beforeAll(async () => {
  database = await testDatabase("almanac_demo");
  app = await startApp(database.url);
  browser = await openBrowser(app.origin);
  folder = await mkdtemp(path.join(os.tmpdir(), "almanac-"));
  teacher = await person("person.name = 'Odalys Brandt'");
  student = await person(
    "person.id = (select student_id from enrolment join section on section.id = section_id where section.name = 'Curlew' order by student_id limit 1)",
  );
  sectionId = (
    await database.sql<{ id: string }[]>`select id from section where name = 'Curlew'`
  )[0]!.id;
  await browser.enterAs(student.id);
});
afterAll(async () => {
  await browser?.close();
  await app?.stop();
  await database?.drop();
});

async function give(title: string, parts: Part[]): Promise<string> {
  const due = new Date(Date.now() + 9 * 86_400_000).toISOString().slice(0, 16);
  const plan = planFor(sectionId, {
    title,
    instructions: doc("Do it."),
    expects: "work",
    points: "10",
    opens: null,
    due,
    closes: null,
    promised: null,
    graceMinutes: 0,
    mayTakeBack: true,
  });
  plan.work.parts = parts;
  const { handOuts } = await asPerson(database.sql, teacher).change(new Date(), (call) =>
    handOut(call, { plan, draftId: null, pastIsMeant: false }),
  );
  return (
    await database.sql<
      { id: string }[]
    >`select id from piece where hand_out_id = ${handOuts[0]!.id} and student_id = ${student.id}`
  )[0]!.id;
}
const file = async (name: string, bytes: Buffer) => {
  const where = path.join(folder, name);
  await writeFile(where, bytes);
  return where;
};
const choose = async (label: string, where: string) =>
  (await browser.find(`input[aria-label='${label}']`)).sendKeys(where);
const until = (work: () => Promise<boolean>, words: string, seconds = 15) =>
  browser.driver.wait(work, seconds * 1000, words);
const write = async (words: string) => {
  // Not by a press in its middle: what stands there may be a file, which is chosen by it.
  await browser.find(".ProseMirror");
  await browser.driver.executeScript("document.querySelector('.ProseMirror').focus()");
  await browser.control(Key.END);
  await browser.keys(words);
};
const record = async (seconds: number) => {
  await browser.press("● Record");
  await browser.find("meter");
  await browser.recorded(seconds);
};

describe("without a connection", () => {
  test("writes, records, presses Hand in, reloads the tab; back online it is handed in, and the receipt has both times", async () => {
    const pieceId = await give("Forecast with a voice", [
      WRITING,
      aPart(id("f1"), "sound", { label: "the forecast, spoken", minutes: 1 }),
    ]);
    // What a device claims from before it opened is no claim.
    await database.sql`
      update hand_out set opens_at = opens_at - interval '1 hour'
      where id = (select hand_out_id from piece where id = ${pieceId})`;
    await browser.go("/work");
    await browser.driver.executeAsyncScript(
      "const done = arguments[0]; navigator.serviceWorker.ready.then(() => done())",
    );
    await browser.go(`/work/${pieceId}`);
    await write("Rain before noon.");
    await browser.waitForText("Saved", "[data-saving]");
    // What the page needs has been kept by now: a second opening is by the service worker.
    await browser.driver.navigate().refresh();
    await browser.find(".ProseMirror");
    await browser.find(
      "button[aria-label='Look of the page'], select[aria-label='Look of the page']",
    );
    await until(
      () =>
        browser.driver.executeAsyncScript<boolean>(
          "const done = arguments[0]; caches.match(location.href).then((found) => done(Boolean(found)))",
        ),
      "the page is kept on the device",
    );

    await browser.offline(true);
    await write(" Wind from the west, without a network.");
    await browser.waitForText("Not saved: no connection. Kept on this device.", "[data-saving]");
    await record(3);
    await browser.press("■ Stop");
    await browser.press("Keep it");
    await browser.waitForText("It is kept on this device, and goes on when there is one.");
    // On this device it is earlier than on the server by more than it takes to send, as after a while without a network.
    await browser.clock(-20_000);
    await browser.press("Hand in");
    await browser.waitForText("still on the way", "[role=dialog]");
    await browser.press("Hand in now");
    await browser.waitForText("Not handed in yet.");
    await browser.waitForText("with 1 file still to be sent");

    await browser.driver.navigate().refresh();
    await browser.waitForText("Not handed in yet.");
    expect(await database.sql`select id from version where piece_id = ${pieceId}`).toHaveLength(0);

    await browser.offline(false);
    await browser.waitForText("Handed in. Your teacher has it", "body", 40);
    const receipt = await browser.text("section[aria-label^=Receipt]");
    expect(receipt).toMatch(
      /pressed\s[\s\S]*by the device’s clock, before it could be sent[\s\S]*stored\s/,
    );
    expect(receipt).toMatch(/spoken.*\.webm/s);
    const [version] = await database.sql<
      { id: string; text: string; pressedAt: Date; handedInAt: Date; files: { name: string }[] }[]
    >`select id, text, pressed_at, handed_in_at, files from version where piece_id = ${pieceId}`;
    expect(version!.text).toContain("Wind from the west, without a network.");
    expect(version!.handedInAt.getTime() - version!.pressedAt.getTime()).toBeGreaterThan(15_000);
    expect(version!.handedInAt.getTime() - version!.pressedAt.getTime()).toBeLessThan(80_000);
    const [item] = await database.sql<
      { kind: string; seconds: number }[]
    >`select kind, (about ->> 'seconds')::float as seconds from item join version_item on item_id = item.id where version_id = ${version!.id}`;
    expect(item!.kind).toBe("sound");

    // The recording is made ready to be heard in the background.
    await until(
      async () =>
        (
          await database.sql`select from job where dead_at is null and kind not in ('mail', 'handBack')`
        ).length === 0,
      "nothing is left to be made",
      60,
    );
    // The teacher sees the claim beside the server's time, and hears the recording.
    const other = await openBrowser(app.origin);
    try {
      await other.enterAs(teacher.id);
      await other.go(`/desk?pile=all&piece=${pieceId}`);
      await other.waitForText("The device says “Hand in” was pressed");
      await other.press("Accept the device’s time");
      await other.waitForText("The device’s time counts.");
      const audio = await other.find("audio");
      await other.driver.wait(
        async () =>
          (await other.driver.executeScript<number>("return arguments[0].duration || 0", audio)) >
          1.5,
        20_000,
        "the recording has a length",
      );
      const [{ receipt: code } = { receipt: "" }] = await database.sql<
        { receipt: string }[]
      >`select receipt from version where id = ${version!.id}`;
      await other.go("/receipts");
      await (await other.find("input[name=code]")).sendKeys(code.toLowerCase(), Key.ENTER);
      await other.waitForText("This receipt is Almanac’s own");
    } finally {
      await other.close();
    }
  });
});

describe("a killed tab", () => {
  test("leaves the recording on the device, and it is offered again", async () => {
    const pieceId = await give("A voice that was cut", [aPart(id("f1"), "sound")]);
    await browser.go(`/work/${pieceId}`);
    await record(3.5);
    // As abruptly as it can be done: the page has no chance to end anything.
    await browser.driver.executeScript(
      "window.addEventListener('beforeunload', (e) => e.stopImmediatePropagation())",
    );
    await browser.driver.get("about:blank");
    await browser.go(`/work/${pieceId}`);
    await browser.waitForText("This recording was left on this device");
    await browser.press("Keep it");
    await browser.find("audio[aria-label*='Recording']", 40);
    expect(
      (
        await database.sql<
          { n: number }[]
        >`select count(*)::int as n from item where piece_id = ${pieceId}`
      )[0]!.n,
    ).toBe(1);
  });
});

describe("two devices", () => {
  test("the later one is told and shown both; nothing is dropped", async () => {
    const pieceId = await give("Written twice", [WRITING]);
    const other = await openBrowser(app.origin);
    try {
      await other.enterAs(student.id);
      await browser.go(`/work/${pieceId}`);
      await other.go(`/work/${pieceId}`);
      await other.find(".ProseMirror");
      await write("On the laptop.");
      await browser.waitForText("Saved", "[data-saving]");
      await (await other.find(".ProseMirror")).click();
      await other.keys("On the phone.");
      await other.waitForText("This piece was also changed in another window");
      const shown = await other.text("body");
      expect(shown).toContain("laptop");
      expect(shown).toContain("phone");
      await other.press("Go on with this one");
      await other.waitForText("Saved", "[data-saving]");
      expect(
        (
          await database.sql<
            { doc: unknown }[]
          >`select doc from working_copy where piece_id = ${pieceId}`
        ).map((r) => JSON.stringify(r.doc))[0],
      ).toContain("On the phone.");
      // And the first device learns of it as it goes on.
      await write(" More.");
      await browser.waitForText("This piece was also changed in another window");
      await browser.press("Take the other");
      await until(
        async () => (await browser.text(".ProseMirror")).includes("On the phone."),
        "the other copy is in the editor",
      );
    } finally {
      await other.close();
    }
  });
});

describe("photos, files and writing", () => {
  let pieceId: string;
  test("photos become pages: in order, turned, cut straight; a program is refused and the rest stays", async () => {
    pieceId = await give("Graph and report", [
      WRITING,
      aPart(id("f2"), "photos", { label: "a picture of the graph" }),
      aPart(id("f3"), "files", { types: ["document"] }),
    ]);
    await browser.go(`/work/${pieceId}`);
    await choose("Choose photos", await file("one.jpg", await photo(900, 1200, 1)));
    await browser.find("button[aria-label='Take page 1 out']");
    await choose(
      "Choose photos",
      await file(
        "two.png",
        await sharp({ create: { width: 300, height: 200, channels: 3, background: "#0a5f6b" } })
          .png()
          .toBuffer(),
      ),
    );
    await browser.find("button[aria-label='Take page 2 out']");
    const names = async () =>
      Promise.all(
        (await browser.driver.findElements(By.css("ol[aria-label='Pages, in order'] img"))).map(
          (image) => image.getAttribute("alt"),
        ),
      );
    expect(await names()).toEqual(["Page 1: one.jpg", "Page 2: two.jpg"]);
    await browser.press("Page 2 earlier");
    await until(
      async () => (await names()).join() === "Page 1: two.jpg,Page 2: one.jpg",
      "the order changed",
    );
    await browser.press("Turn page 1");
    await browser.find("button[aria-label='Page 1 as it was taken']", 40);
    await browser.press("Cut or lighten page 2");
    const corner = await browser.find("button[aria-label='Corner top left']");
    await corner.sendKeys(Key.ARROW_RIGHT, Key.ARROW_DOWN, Key.ARROW_DOWN);
    await browser.press("Lighten: white paper");
    await browser.press("Do it");
    await browser.find("button[aria-label='Page 2 as it was taken']", 40);
    const rows = await database.sql<
      { name: string; width: number; height: number }[]
    >`select name, (about ->> 'width')::int as width, (about ->> 'height')::int as height from item where piece_id = ${pieceId} and removed_at is null order by position`;
    expect(rows[0]).toMatchObject({ name: "two.jpg", width: 200, height: 300 });
    expect(rows).toHaveLength(2);

    await choose(
      "Choose files: files",
      await file("virus.docx", Buffer.concat([Buffer.from("MZ\u0090"), Buffer.alloc(500, 1)])),
    );
    await browser.waitForText("This is a program, whatever its name says.");
    expect(await names()).toHaveLength(2);
    await browser.press("Close");
    await choose(
      "Choose files: files",
      await file("report.docx", await officeFile("docx", "The puddle dried first")),
    );
    await browser.find("canvas[aria-label='page 1 of 1']", 30);
    await until(
      async () =>
        (
          await browser.driver.executeScript<string>(
            "return document.querySelector('.pdf-words')?.textContent ?? ''",
          )
        ).includes("puddle"),
      "the words of the page",
      20,
    );
  });
  test("a picture in the text, words found, and undo that goes on after a reload", async () => {
    await write("The rain of a week.");
    await choose(
      "Picture to put in",
      await file(
        "sky.png",
        await sharp({ create: { width: 3000, height: 1200, channels: 3, background: "#88aacc" } })
          .png()
          .toBuffer(),
      ),
    );
    await browser.find("[role=dialog] input");
    await browser.keys("The sky", Key.ENTER);
    const image = await browser.find(".ProseMirror img[alt='The sky']");
    await until(
      async () =>
        (await browser.driver.executeScript<number>("return arguments[0].naturalWidth", image)) ===
        2400,
      "scaled to 2,400 points",
    );
    await browser.press("Find");
    await browser.keys("RAIN");
    await browser.waitForText("1 of 1", "[role=search]");
    await browser.keys(Key.ESCAPE);
    // Whoever stops writing for a while and goes on has taken a step of its own.
    await browser.clock(5000);
    await browser.control(Key.END);
    await browser.keys("Dry on Sunday");
    await browser.waitForText("Saved", "[data-saving]");
    await browser.driver.navigate().refresh();
    await browser.waitForText("Dry on Sunday", ".ProseMirror");
    await browser.press("Undo");
    await until(
      async () => !(await browser.text(".ProseMirror")).includes("Dry on Sunday"),
      "undone across the reload",
    );
    expect(await browser.text(".ProseMirror")).toContain("The rain of a week.");
    await browser.press("Redo");
    await browser.waitForText("Dry on Sunday", ".ProseMirror");
  });
  test("a link as a card and a PDF stand in the text; taken out, undone, they are there again", async () => {
    await browser.press("Put in");
    await browser.press("A link, as a card");
    await browser.find("[role=dialog] input");
    await browser.control("a");
    await browser.keys("https://harbour.example/tides", Key.TAB, "The tide table", Key.ENTER);
    await browser.waitForText("The tide table", ".ProseMirror .link-card");
    await choose(
      "Sound, film or PDF to put in",
      await file("tides.pdf", await officeFile("pdf", "High water at noon")),
    );
    await browser.find(".ProseMirror [data-file-here] [data-page]");
    await browser.waitForText("Saved", "[data-saving]");
    await browser.press("Take it out of the text");
    await until(
      async () =>
        (await browser.driver.findElements(By.css(".ProseMirror [data-file-here]"))).length === 0,
      "out",
    );
    await browser.press("Undo");
    await browser.find(".ProseMirror [data-file-here] [data-page]");
    await browser.waitForText("Saved", "[data-saving]");
    await browser.driver.navigate().refresh();
    await browser.find(".ProseMirror [data-file-here] [data-page]");
  });
  test("a sound recorded into the text without a connection is there when there is one", async () => {
    await browser.offline(true);
    await browser.control(Key.END);
    await browser.press("Put in");
    await browser.press("A sound, recorded now");
    await record(2);
    await browser.press("■ Stop");
    await browser.press("Keep it");
    await browser.waitForText("It is kept on this device", ".ProseMirror");
    await browser.offline(false);
    await browser.find(".ProseMirror [data-file-here] audio");
    await browser.waitForText("Saved", "[data-saving]");
  });
  test("a checkpoint, then the teacher compares two and says a word; nothing closes", async () => {
    await browser.press("Send a checkpoint");
    await browser.waitForText("Checkpoint 1 is with Odalys Brandt");
    await write(" And then it stopped.");
    await browser.press("Send a checkpoint");
    await browser.waitForText("Checkpoint 2 is with Odalys Brandt");
    await browser.enterAs(teacher.id);
    await browser.go(`/desk?pile=all&piece=${pieceId}`);
    await browser.press("◌ 2");
    await browser.find("[role=dialog] ins");
    await (await browser.find("[role=dialog] textarea")).sendKeys("Say when it stopped.");
    await browser.press("Send");
    await browser.waitForText("Say when it stopped.", "[role=dialog] li");
    await browser.enterAs(student.id);
    await browser.go(`/work/${pieceId}`);
    await browser.waitForText("on checkpoint 2");
    await browser.find(".ProseMirror");
  });
  test("handing in shows what goes; the teacher has pages, photos and words to mark", async () => {
    await browser.press("Hand in");
    await browser.waitForText("report.docx (1 page", "[role=dialog]");
    await browser.waitForText("1 picture, 2 files", "[role=dialog]");
    await browser.press("Hand in now");
    await browser.waitForText("Handed in. Your teacher has it");
    await browser.enterAs(teacher.id);
    await browser.go(`/desk?pile=all&piece=${pieceId}`);
    await browser.waitForText("The puddle dried first", "[data-sheet]");
    await browser.find("section[aria-label='a picture of the graph'] img");
    await browser.waitForText("2 files", "#work");
    // The PDF stands in the words, and its words can be marked there.
    await browser.waitForText("High water at noon", "[data-sheet] [data-file-here] [data-words]");
    await browser.find("[data-sheet] .link-card a[href='https://harbour.example/tides']");
  });
});

describe("questions", () => {
  test("are answered by keyboard, checked with tries, and stand beside the key on the Desk", async () => {
    await browser.enterAs(student.id);
    const set = await asPerson(database.sql, teacher).change(new Date(), (call) =>
      addSet(call, { name: "Water", questions: SET }),
    );
    const pieceId = await give("Water and sky", [
      aPart(id("f4"), "questions", { setId: set.id, show: "at once", tries: 2 }),
    ]);
    await browser.go(`/work/${pieceId}`);
    const number = await browser.find("fieldset input");
    await number.sendKeys("1 g");
    const checks = async () =>
      browser.driver.findElements(By.xpath("//button[normalize-space()='Check']"));
    await until(async () => (await checks()).length === 3, "three that can be checked");
    await (await checks())[0]!.sendKeys(Key.ENTER);
    await browser.waitForText("✗ not right · the number is right, the unit is not");
    await browser.waitForText("1 of 2 tries left");
    await number.sendKeys(Key.chord(Key.CONTROL, "a"), "1000 g");
    await (await checks())[0]!.sendKeys(Key.ENTER);
    await browser.waitForText("✓ right");
    await browser.press("cirrus");
    await browser.press("This order is my answer");
    await (
      await browser.find("fieldset textarea")
    ).sendKeys("Because the air lets go of its water.");
    await browser.waitForText("Saved", "[data-saving]");
    await browser.press("Hand in");
    await browser.waitForText("4 of 4 answered", "[role=dialog]");
    await browser.press("Hand in now");
    await browser.waitForText("Handed in. Your teacher has it");
    await browser.enterAs(teacher.id);
    await browser.go(`/desk?pile=all&piece=${pieceId}`);
    await browser.waitForText("✓ same as the key");
    await browser.waitForText("2 tries");
    await browser.waitForText("Because the air lets go of its water.", "[data-sheet]");
    // The order shown first is chance: with it all right the sum is 4, else between 3 and 4.
    const put = await browser.driver.findElement(
      By.xpath("//button[starts-with(normalize-space(.), 'Put ')]"),
    );
    const sum = /^Put ((3(\.\d+)?|4)\/7) into the score$/.exec(await put.getText())?.[1];
    expect(sum).toBeDefined();
    await browser.press(`Put ${sum}`);
    await until(
      async () =>
        (await (await browser.find("input[placeholder='8, 8/10, 85%']")).getAttribute("value")) ===
        sum,
      "the sum is in the score",
    );
  });
  test("a set is written on the Shelf, asked for on the page Hand out, and seen by the student", async () => {
    await browser.go("/shelf/questions");
    await browser.press("New set of questions");
    await browser.find("form input");
    await browser.keys("Tides");
    await browser.press("+ number");
    const [question, , value, unit] = await browser.driver.findElements(
      By.css(
        "li[aria-label='Question 1: number'] textarea, li[aria-label='Question 1: number'] input",
      ),
    );
    await question!.sendKeys("How high is the tide?");
    await value!.sendKeys("2.4");
    await unit!.sendKeys("m");
    await browser.press("Keep the set");
    await browser.waitForText("“Tides” is on the Shelf.");
    await browser.go("/hand-out");
    await browser.find(".ProseMirror");
    await browser.keys("Reading tides");
    await browser.press("+ Curlew");
    await browser.press("+ Questions");
    const select = await browser.find("li[aria-label='Questions'] select");
    await select.sendKeys("Tides");
    await browser.press("Leave out Writing");
    await browser.waitForText("To hand in: answers to questions.", "aside");
    await browser.press("Hand out to Curlew");
    await browser.waitForText("Reading tides", "h1");
    const [piece] = await database.sql<
      { id: string }[]
    >`select piece.id from piece join hand_out on hand_out.id = hand_out_id join assignment on assignment.id = assignment_id where title = 'Reading tides' and student_id = ${student.id}`;
    await browser.enterAs(student.id);
    await browser.go(`/work/${piece!.id}`);
    await browser.waitForText("How high is the tide?");
    expect(await browser.driver.getPageSource()).not.toContain("2.4");
  });
});
