import { afterAll, beforeAll, describe, expect, test } from "@jest/globals";
import { mkdtemp, writeFile } from "node:fs/promises";
import os from "node:os";
import path from "node:path";
import { Key } from "selenium-webdriver";
import sharp from "sharp";
import { uuidv7 } from "uuidv7";
import { wallToInstant } from "../../src/core/time/zone";
import type { Person } from "../../src/server/call";
import { handOut } from "../../src/server/handouts/handOut";
import { addUpload, lookAtUpload } from "../../src/server/uploads/uploads";
import { startApp, type App } from "../support/app";
import { openBrowser, type Browser } from "../support/browser";
import { asPerson, testDatabase, type TestDatabase } from "../support/database";
import { typeWhen } from "../support/typeWhen";
import { planFor } from "../support/handOut";

/** What was handed out, on the student's side and afterwards on the teacher's, in the real interface. */
let database: TestDatabase;
let app: App;
let browser: Browser;
let teacher: Person;
let student: Person;
let handOutId: string;
let pieceId: string;
let folder: string;
const text = (words: string) => ({
  type: "doc",
  content: [{ type: "paragraph", content: [{ type: "text", text: words }] }],
});
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
  const [section] = await database.sql<
    { id: string }[]
  >`select id from section where name = 'Curlew'`;
  const now = new Date();
  const owner = asPerson(database.sql, teacher);
  const upload = await owner.change(now, (call) =>
    lookAtUpload(call, { name: "form.odt", bytes: Buffer.from("the form") }).then((kept) =>
      addUpload(call, kept),
    ),
  );
  const due = new Date(now.getTime() + 9 * 86_400_000).toISOString().slice(0, 16);
  const plan = planFor(section!.id, {
    title: "Report with a form",
    instructions: text("Fill in the form."),
    expects: "work",
    points: "10",
    opens: null,
    due,
    closes: null,
    promised: null,
    graceMinutes: 0,
    mayTakeBack: true,
  });
  plan.work.wordsLeast = "5";
  plan.work.selfAssessment = {
    question: "How did it go?",
    answers: "words",
    choices: ["well", "badly"],
  };
  plan.work.materials = [
    { id: uuidv7(), kind: "text", use: "copy", title: "Frame", doc: text("Question:") as never },
    { id: uuidv7(), kind: "file", use: "copy", title: "The form", uploadId: upload.id },
    {
      id: uuidv7(),
      kind: "link",
      use: "look",
      title: "Tide table",
      href: "https://tides.example/table",
    },
  ];
  handOutId = (
    await owner.change(now, (call) => handOut(call, { plan, draftId: null, pastIsMeant: false }))
  ).handOuts[0]!.id;
  pieceId = (
    await database.sql<
      { id: string }[]
    >`select id from piece where hand_out_id = ${handOutId} and student_id = ${student.id}`
  )[0]!.id;
});
afterAll(async () => {
  await browser?.close();
  await app?.stop();
  await database?.drop();
});

describe("the student", () => {
  test("has the materials, a copy of the form that can be changed, and work that begins with the frame", async () => {
    await browser.enterAs(student.id);
    await browser.go(`/work/${pieceId}`);
    await browser.waitForText("Question:", ".ProseMirror");
    expect(await browser.text("ul[aria-label=Materials]")).toMatch(
      /The form\s*your own copy.*\n?.*Tide table/s,
    );
    await browser.waitForText("can read along before you hand in");
    const file = path.join(folder, "filled.odt");
    await writeFile(file, "the form, filled in");
    await (await browser.find("ul[aria-label=Materials] input[type=file]")).sendKeys(file);
    await browser.waitForText("your own copy, changed today");
    expect(
      await database.sql`select number from piece_copy where piece_id = ${pieceId}`,
    ).toHaveLength(1);
  });
  test("sees how far the goal is, is asked how it went, and the teacher reads both", async () => {
    await browser.waitForText("4 to the goal of 5");
    await (await browser.find(".ProseMirror")).click();
    await browser.control(Key.END);
    await browser.keys(" why is the sea salt at all");
    await browser.waitForText("as long as asked for");
    await browser.press("Hand in");
    await browser.waitForText("How did it go?", "[role=dialog]");
    await browser.press("well");
    await (await browser.find("[role=dialog] textarea")).sendKeys("I asked my aunt.");
    await browser.press("Hand in now");
    await browser.waitForText("Handed in. Your teacher has it");
    await browser.enterAs(teacher.id);
    await browser.go(`/desk?pile=all&handOut=${handOutId}&piece=${pieceId}`);
    await browser.waitForText("How it went: well: I asked my aunt.");
    await browser.waitForText("The form");
  });
});

describe("the teacher, afterwards", () => {
  test("is told whom a change touches before it is kept, and the students are told after", async () => {
    await browser.go(`/hand-outs/${handOutId}/change`);
    await browser.waitForText("Nothing is changed yet.");
    const [before] = await database.sql<
      { dueAt: Date }[]
    >`select due_at from hand_out where id = ${handOutId}`;
    const later = new Date(before!.dueAt.getTime() + 2 * 86_400_000).toISOString().slice(0, 16);
    await typeWhen(browser, "Curlew due", later);
    await browser.waitForText(
      "for 22 students; 1 has handed in, and lateness is counted anew",
      "[data-what-changes]",
    );
    await browser.waitForText("Students read: “Changed: due", "[data-what-changes]");
    await browser.press("Keep the changes");
    await browser.waitForText("22 students were told");
    const [after] = await database.sql<
      { dueAt: Date }[]
    >`select due_at from hand_out where id = ${handOutId}`;
    expect(after!.dueAt).toEqual(wallToInstant(later, teacher.zone).at);
  });
  test("puts a picture into instructions, with a word on what it shows", async () => {
    const picture = path.join(folder, "gauge.png");
    await writeFile(
      picture,
      await sharp({ create: { width: 60, height: 40, channels: 3, background: "#0a5f6b" } })
        .png()
        .toBuffer(),
    );
    await browser.go("/hand-out");
    await browser.find(".ProseMirror");
    await browser.keys("With a picture");
    await browser.press("+ Curlew");
    await (await browser.find("input[aria-label='Picture to put in']")).sendKeys(picture);
    await browser.find("[role=dialog] input");
    await browser.keys("A gauge", Key.ENTER);
    await browser.find("aside img[alt='A gauge']");
    await browser.press("Hand out to Curlew");
    await browser.waitForText("With a picture", "h1");
    await browser.press("The task");
    const image = await browser.find("main img[alt='A gauge']");
    await browser.driver.wait(
      async () =>
        (await browser.driver.executeScript<number>("return arguments[0].naturalWidth", image)) ===
        60,
      30_000,
    );
  });
  test("takes the work from a student and gives it back", async () => {
    await browser.go(`/hand-outs/${handOutId}`);
    await (await browser.find("button[aria-label^='What is other for']")).click();
    await browser.press("Take it from this student");
    await browser.waitForText("1 student of Curlew does not have this");
    await browser.press("1 student of Curlew");
    await browser.press("Give it back");
    await browser.driver.wait(
      async () => !(await browser.text()).includes("does not have this"),
      30_000,
    );
  });
});

describe("the office", () => {
  test("types a term and takes holidays over from a calendar file, evening meetings left out", async () => {
    const office = await person("kind = 'office'");
    await browser.enterAs(office.id);
    await browser.go("/office/calendar");
    const ics = path.join(folder, "holidays.ics");
    await writeFile(
      ics,
      [
        "BEGIN:VCALENDAR",
        "VERSION:2.0",
        "PRODID:-//t//t//EN",
        "BEGIN:VEVENT",
        "UID:h",
        `DTSTART;VALUE=DATE:${new Date(Date.now() + 40 * 86_400_000).toISOString().slice(0, 10).replaceAll("-", "")}`,
        "SUMMARY:Lighthouse Day",
        "END:VEVENT",
        "BEGIN:VEVENT",
        "UID:m",
        `DTSTART:${new Date(Date.now() + 41 * 86_400_000).toISOString().slice(0, 10).replaceAll("-", "")}T210000Z`,
        "SUMMARY:Evening meeting",
        "END:VEVENT",
        "END:VCALENDAR",
      ].join("\r\n"),
    );
    await (await browser.find("input[aria-label='Calendar file']")).sendKeys(ics);
    await browser.waitForText("Evening meeting");
    await browser.press("Take over 1 entries");
    await browser.waitForText("Taken over: 1 entries.");
    await browser.waitForText("from holidays.ics");
    expect(
      (
        await database.sql<
          { name: string }[]
        >`select name from closure where source = 'holidays.ics'`
      ).map((c) => c.name),
    ).toEqual(["Lighthouse Day"]);
    await (await browser.find("input[aria-label='Calendar file']")).sendKeys(ics);
    await browser.waitForText("All of it is here already");
    await writeFile(ics, "this is a letter");
    await (await browser.find("input[aria-label='Calendar file']")).sendKeys(ics);
    await browser.waitForText("not a calendar file");
  });
});

test("a phone of 360 px shows the student's piece with all that was given without scrolling sideways", async () => {
  await browser.enterAs(student.id);
  await browser.go(`/work/${pieceId}`);
  await browser.find("article");
  const metrics = (width: number, height: number) =>
    (
      browser.driver as unknown as {
        sendDevToolsCommand: (name: string, args: object) => Promise<void>;
      }
    ).sendDevToolsCommand("Emulation.setDeviceMetricsOverride", {
      width,
      height,
      deviceScaleFactor: 1,
      mobile: width < 600,
    });
  await metrics(360, 740);
  expect(
    await browser.driver.executeScript<number>(
      "return document.documentElement.scrollWidth - window.innerWidth",
    ),
  ).toBeLessThanOrEqual(0);
  await metrics(1280, 800);
});
