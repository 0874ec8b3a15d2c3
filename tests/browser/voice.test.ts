import { afterAll, beforeAll, describe, expect, test } from "@jest/globals";
import { mkdtemp, rm, writeFile } from "node:fs/promises";
import os from "node:os";
import path from "node:path";
import { By, Key, Origin } from "selenium-webdriver";
import { WebVTTParser } from "webvtt-parser";
import type { HeardWord } from "../../src/core/speech/heard";
import type { Place } from "../../src/core/marks/place";
import { startApp, type App } from "../support/app";
import { openBrowser, type Browser } from "../support/browser";
import { testDatabase, type TestDatabase } from "../support/database";
import { everyKind } from "../support/everyKind";
import { spoken } from "../support/voices";

/** Voices in a real browser, whose microphone hears a file: said, kept, written down, corrected, handed back, heard. */
let database: TestDatabase;
let app: App;
let folder: string;
let teacher: Browser;
let own: Browser;
let made: Awaited<ReturnType<typeof everyKind>>;
const SAID = "Please read the second paragraph again. It repeats what the first one says.";

beforeAll(async () => {
  database = await testDatabase("almanac_demo");
  made = await everyKind(database.sql);
  folder = await mkdtemp(path.join(os.tmpdir(), "almanac-mic-"));
  const microphone = path.join(folder, "voice.wav");
  await writeFile(microphone, await spoken(SAID, "slt"));
  app = await startApp(database.url);
  [teacher, own] = await Promise.all([
    openBrowser(app.origin, undefined, { microphone }),
    openBrowser(app.origin, undefined, { microphone }),
  ]);
  await teacher.enterAs(made.odalys.id);
  await own.enterAs(made.student.id);
}, 180_000);
afterAll(async () => {
  await teacher?.close();
  await own?.close();
  await app?.stop();
  await database?.drop();
  await rm(folder, { recursive: true, force: true });
});

const openPiece = async (pieceId = made.pieceId) => {
  await teacher.go(`/desk?pile=all&handOut=${made.handOutId}&piece=${pieceId}`);
  await teacher.awake("[data-sheet]");
};
type Mark = { id: string; body: string; clipId: string | null; kind: string; place: Place | null };
const marks = () =>
  database.sql<
    Mark[]
  >`select id, body, clip_id, kind, place from mark where piece_id = ${made.pieceId} and deleted_at is null order by created_at`;
const until = (what: string, look: () => Promise<boolean>, seconds = 40) =>
  teacher.driver.wait(look, seconds * 1000, what);
/** The note's field is there and takes what is typed. */
const composing = () =>
  until("a note to write", () =>
    teacher.driver.executeScript<boolean>(
      "return document.activeElement?.closest('[data-composer]') != null",
    ),
  );
const running = (browser: Browser) => browser.waitForText("Stop", "[aria-label='Record sound']");
const choose = (words: string) =>
  teacher.driver.executeScript(
    "const w = document.createTreeWalker(document.querySelector('[data-sheet]'), NodeFilter.SHOW_TEXT); for (let n; (n = w.nextNode()); ) { const i = n.data.indexOf(arguments[0]); if (i !== -1) { const r = document.createRange(); r.setStart(n, i); r.setEnd(n, i + arguments[0].length); getSelection().removeAllRanges(); getSelection().addRange(r); return; } }",
    words,
  );

describe("a voice note", () => {
  test("on words by keys alone: Shift+V speaks, Enter stops, Enter keeps; it is levelled and written down, and corrected", async () => {
    await openPiece();
    await choose("waved");
    await until("the selection is known", () =>
      teacher.driver.executeScript<boolean>(
        "return document.querySelector('[aria-label=Tray] [aria-disabled=false] kbd') !== null",
      ),
    );
    await teacher.shift("v");
    await running(teacher);
    await teacher.recorded(6);
    await teacher.keys(Key.ENTER);
    await until("the focus is on keeping it", () =>
      teacher.driver.executeScript<boolean>(
        "return document.activeElement.textContent.includes('Keep the voice')",
      ),
    );
    await teacher.keys(Key.ENTER);
    await until("the note with its voice", async () =>
      (await marks()).some((m) => m.clipId !== null),
    );
    await until(
      "levelled and written down",
      async () =>
        (
          await database.sql`select 1 from sound where state = 'made' and heard_state = 'made' and changed_at > now() - interval '3 minutes' and sha256 = (select sha256 from clip where id = (select clip_id from mark where piece_id = ${made.pieceId} and clip_id is not null))`
        ).length === 1,
      60,
    );
    const [sound] = await database.sql<
      { loudness: number; seconds: number; heard: HeardWord[] }[]
    >`select loudness, seconds, heard from sound where sha256 = (select sha256 from clip where id = (select clip_id from mark where piece_id = ${made.pieceId} and clip_id is not null))`;
    expect(Math.abs(sound!.loudness + 16)).toBeLessThan(1);
    expect(sound!.seconds).toBeGreaterThan(3);
    // Which words are heard depends on what a busy machine lost of the sound; that they are those said does not.
    const said = new Set(SAID.toLowerCase().match(/[a-z]+/g));
    const heard = new Set(sound!.heard.map((w) => w.word.toLowerCase()));
    expect([...heard].filter((word) => said.has(word)).length).toBeGreaterThanOrEqual(4);
    await teacher.waitForText("Words made by the program", "[aria-label=Margin]", 40);
    await teacher.press("Correct the words");
    const field = await teacher.find("[aria-label='What stands beside the voice'] textarea");
    await field.clear();
    await field.sendKeys(SAID);
    await teacher.driver
      .findElement(By.css("[aria-label='What stands beside the voice'] button[type=submit]"))
      .click();
    await teacher.waitForText(SAID, ".voice-words");
    expect(await teacher.text("[aria-label=Margin]")).not.toContain("Words made by the program");
  }, 120_000);

  test("a recording cut by a killed tab is offered again where it stood", async () => {
    await openPiece();
    await teacher.shift("v");
    await running(teacher);
    await teacher.recorded(3);
    const before = (await marks()).length;
    // The tab goes without a word: no script of it runs any more.
    const [first] = await teacher.driver.getAllWindowHandles();
    await teacher.driver.switchTo().newWindow("tab");
    const here = await teacher.driver.getWindowHandle();
    await teacher.driver.switchTo().window(first!);
    await teacher.driver.close();
    await teacher.driver.switchTo().window(here);
    await openPiece();
    await teacher.waitForText("was left on this device", "[aria-label='Record sound']", 40);
    expect(await teacher.text("[data-composer]")).toContain("on the whole");
    // Without a connection it stays where it is.
    await teacher.offline(true);
    await teacher.press("Keep the voice");
    await teacher.waitForText("The recording is still here", "[aria-label='Record sound']");
    await teacher.offline(false);
    await teacher.press("Keep the voice");
    await teacher.waitForText("Take the voice out", "[data-composer]");
    await teacher.driver
      .findElement(By.xpath("//*[@data-composer]//button[normalize-space(.)='Keep']"))
      .click();
    await until(
      "the note on the whole",
      async () => (await marks()).length === before + 1 && (await marks()).at(-1)!.clipId !== null,
    );
  }, 60_000);

  test("nothing said, unplugged, a second tab, no room on the device: each says what is so, and keeps what there is", async () => {
    await openPiece();
    await teacher.driver.executeScript(
      "const ask = navigator.mediaDevices.getUserMedia.bind(navigator.mediaDevices); navigator.mediaDevices.getUserMedia = async (c) => (window.heard = await ask(c));",
    );
    await teacher.keys("w");
    await composing();
    // No time passes between start and stop.
    await teacher.driver.executeScript(
      "window.clock = performance.now.bind(performance); performance.now = () => 1000;",
    );
    await teacher.press("● Speak");
    await running(teacher);
    await teacher.alt("r");
    await teacher.waitForText("Nothing was recorded", "[aria-label='Record sound']");
    await teacher.driver.executeScript("performance.now = window.clock");
    await teacher.waitForText("● Record", "[aria-label='Record sound']");
    await teacher.alt("r");
    await running(teacher);
    // While this tab records, another may not.
    await teacher.driver.executeScript(
      "const other = window.open(location.href); window.other = other;",
    );
    const [first, second] = await teacher.driver.getAllWindowHandles();
    await teacher.driver.switchTo().window(second!);
    await teacher.awake("[data-sheet]");
    await teacher.shift("v");
    await teacher.waitForText(
      "Another tab of this browser is recording",
      "[aria-label='Record sound']",
    );
    await teacher.driver.close();
    await teacher.driver.switchTo().window(first!);
    await teacher.recorded(1);
    await teacher.driver.executeScript(
      "window.heard.getTracks().forEach((t) => t.dispatchEvent(new Event('ended')))",
    );
    await teacher.waitForText("The microphone was taken away", "[aria-label='Record sound']");
    await teacher.press("Drop it");
    await teacher.waitForText("● Record", "[aria-label='Record sound']");
    await teacher.driver.executeScript(
      "window.put = IDBObjectStore.prototype.put; IDBObjectStore.prototype.put = () => { throw new DOMException('full', 'QuotaExceededError'); }",
    );
    await teacher.alt("r");
    await teacher.waitForText("no room to keep the recording", "[aria-label='Record sound']", 40);
    await teacher.driver.executeScript("IDBObjectStore.prototype.put = window.put");
    await teacher.alt("r");
    await teacher.press("Drop it");
  }, 90_000);

  test("the microphone refused: what to do is said, and writing goes on", async () => {
    const refusing = await openBrowser(app.origin, undefined, { refuse: true });
    try {
      await refusing.enterAs(made.ruben.id);
      await refusing.go(`/desk?pile=all&handOut=${made.handOutId}&piece=${made.second}`);
      await refusing.awake("[data-sheet]");
      await refusing.shift("v");
      await refusing.waitForText(
        "The browser does not let this page use the microphone",
        "[aria-label='Record sound']",
      );
      await refusing.find("[data-composer] textarea");
    } finally {
      await refusing.close();
    }
  });
});

describe("moments of a film", () => {
  const film = "video[data-player]";
  const at = async (seconds: number) => {
    await wind(seconds);
    await until(`the film at ${seconds} s`, () =>
      teacher.driver.executeScript<boolean>(
        `const p = document.querySelector("${film}"); return !p.seeking && Math.abs(p.currentTime - ${seconds}) < 0.2`,
      ),
    );
  };
  const wind = (seconds: number) =>
    teacher.driver.executeScript(
      `const p = document.querySelector("${film}"); document.querySelectorAll("[data-player]").forEach((o) => o !== p && (o.currentTime = 0)); p.scrollIntoView({ block: "center" }); p.currentTime = ${seconds};`,
    );
  test("by key: a moment, a stretch, a drawing on the still; the lane shows them and goes there", async () => {
    await openPiece();
    await teacher.find(film);
    const before = (await marks()).length;
    await at(2);
    await teacher.keys("m");
    await composing();
    await teacher.keys("Hold it still.", Key.ENTER);
    await until("a moment", async () => (await marks()).length === before + 1);
    expect((await marks()).at(-1)!.place).toMatchObject({ on: "time", from: 2, to: null });
    await at(3);
    await teacher.keys(",");
    await teacher.waitForText("End the stretch that begins at 0:03");
    await at(5);
    await teacher.keys(",");
    await composing();
    await teacher.keys("All of this.", Key.ENTER);
    await until("a stretch", async () => (await marks()).length === before + 2);
    expect((await marks()).at(-1)!.place).toMatchObject({ on: "time", from: 3, to: 5 });
    await at(6);
    await teacher.keys("g");
    await until("a surface to draw on", () =>
      teacher.driver.executeScript<boolean>(
        `return document.querySelector("${film}").closest("[data-item]").querySelector(".place-surface") !== null`,
      ),
    );
    await teacher.settled();
    const box = await teacher.driver.executeScript<{ x: number; y: number; w: number; h: number }>(
      `const b = document.querySelector("${film}").parentElement.getBoundingClientRect(); return { x: b.left, y: b.top, w: b.width, h: b.height };`,
    );
    const point = (x: number, y: number) => ({
      origin: Origin.VIEWPORT,
      x: Math.round(box.x + box.w * x),
      y: Math.round(box.y + box.h * y),
    });
    await teacher.driver
      .actions()
      .move(point(0.3, 0.3))
      .press()
      .move({ ...point(0.5, 0.4), duration: 80 })
      .move({ ...point(0.6, 0.3), duration: 80 })
      .release()
      .perform();
    await until("a drawing", async () => (await marks()).length === before + 3);
    expect((await marks()).at(-1)).toMatchObject({
      kind: "ink",
      place: { on: "time", from: 6, area: expect.objectContaining({ w: expect.any(Number) }) },
    });
    await teacher.keys("v");
    expect(
      await teacher.driver.executeScript(
        "return document.querySelector('video').closest('[data-item]').querySelectorAll('.lane-mark').length",
      ),
    ).toBe(3);
    // The lane by keyboard, and by a press on a note.
    await teacher.driver.executeScript(
      "document.querySelector('video').closest('[data-item]').querySelector('[data-lane]').focus()",
    );
    await teacher.keys(Key.HOME, Key.ARROW_RIGHT);
    await until(
      "five seconds on",
      async () =>
        Math.abs(
          (await teacher.driver.executeScript<number>(
            `return document.querySelector("${film}").currentTime`,
          )) - 5,
        ) < 0.3,
    );
    await teacher.driver.executeScript(
      "document.querySelector('video').closest('[data-item]').querySelector('.lane-mark').click()",
    );
    await until(
      "at the first note",
      async () =>
        Math.abs(
          (await teacher.driver.executeScript<number>(
            `return document.querySelector("${film}").currentTime`,
          )) - 2,
        ) < 0.3,
    );
    const vtt = await teacher.driver.executeAsyncScript<string>(
      "const done = arguments[0]; fetch([...document.querySelectorAll('video')].map((v) => v.closest('[data-item]').querySelector('a[download=\"notes.vtt\"]').href)[0]).then((r) => r.text()).then(done)",
    );
    const { cues, errors } = new WebVTTParser().parse(vtt, "metadata");
    expect(errors).toEqual([]);
    expect(cues.map((c) => [c.startTime, c.endTime, c.text])).toEqual([
      [2, 6, "Hold it still."],
      [3, 5, "All of this."],
      [6, 10, "(drawn on the picture)"],
    ]);
  }, 60_000);
});

describe("the student", () => {
  test("hears all voices in a row, each with its words in view; the teacher sees that they were heard", async () => {
    await openPiece();
    await teacher.keys("h");
    await teacher.waitForText(`Handed back to ${made.student.name}.`);
    await own.go(`/work/${made.pieceId}`);
    await own.waitForText("Hear all 2 voice notes");
    await own.waitForText("2 not heard yet");
    await own.driver.executeScript(
      "document.querySelectorAll('audio[data-voice]').forEach((a) => (a.defaultPlaybackRate = a.playbackRate = 4))",
    );
    await own.press("Hear all 2 voice notes");
    await own.waitForText("all heard", "main", 40);
    expect(
      await database.sql`select clip_id from clip_heard where person_id = ${made.student.id}`,
    ).toHaveLength(2);
    // As the film plays, what was said about it comes up.
    await own.driver.executeScript(
      "const p = document.querySelector('video[data-player]'); p.muted = true; p.currentTime = 1.9; p.scrollIntoView({ block: 'center' }); void p.play();",
    );
    await own.waitForText("Hold it still.", "[data-now]");
    await openPiece();
    await teacher.waitForText("heard ", "[aria-label=Margin]");
  }, 90_000);

  test("answers by voice and with an emoji; the teacher hears it", async () => {
    await own.go(`/work/${made.pieceId}`);
    await own.awake("section[aria-label^='Thread'] textarea");
    const field = await own.find("section[aria-label^='Thread'] textarea");
    await field.sendKeys("Thank you :star");
    await own.waitForText("⭐", "[role=listbox][aria-label=Emoji]");
    await field.sendKeys(Key.ENTER);
    expect(await field.getAttribute("value")).toBe("Thank you ⭐ ");
    await own.driver.executeScript(
      "[...document.querySelectorAll(\"section[aria-label^='Thread'] button\")].find((b) => b.textContent.includes('Speak')).click()",
    );
    await running(own);
    await own.recorded(2);
    await own.alt("r");
    await own.press("Keep the voice");
    await own.waitForText("Take the voice out", "section[aria-label^='Thread']");
    await own.press("Send");
    await until(
      "the message",
      async () =>
        (
          await database.sql`select 1 from message where piece_id = ${made.pieceId} and clip_id is not null and body = 'Thank you ⭐'`
        ).length === 1,
    );
    await openPiece();
    await teacher.waitForText("Thank you ⭐");
    await teacher.find("section[aria-label^='Thread'] [data-clip]");
  }, 60_000);

  test("answers to the class by voice: a teacher hears it first, then the classmates do", async () => {
    await teacher.go(`/hand-outs/${made.handOutId}`);
    await teacher.awake("#to-the-class textarea");
    const field = await teacher.find("#to-the-class textarea");
    await field.sendKeys("Five of you filmed against the light.");
    await teacher.press("Say it to all");
    await teacher.waitForText("Five of you filmed against the light.", "#to-the-class li");
    await own.go("/work");
    await own.waitForText("Odalys Brandt to the class: Five of you");
    await own.go(`/work/${made.pieceId}`);
    await own.awake("section[aria-label='Said to the class'] button");
    await own.press("Answer to the class");
    await own.press("● Answer by voice");
    await running(own);
    await own.recorded(2);
    await own.alt("r");
    await own.press("Keep the voice");
    await own.waitForText("Take the voice out", "section[aria-label='Said to the class']");
    await (
      await own.find("section[aria-label='Said to the class'] form button[type=submit]")
    ).click();
    await own.waitForText(
      "waits until your teacher has read it",
      "section[aria-label='Said to the class']",
    );
    const classmate = await openBrowser(app.origin);
    try {
      const [other] = await database.sql<
        { id: string; piece: string }[]
      >`select student_id as id, id as piece from piece where id = ${made.second}`;
      await classmate.enterAs(other!.id);
      const there = async () => {
        await classmate.go(`/work/${other!.piece}`);
        await classmate.waitForText(
          "Five of you filmed against the light.",
          "section[aria-label='Said to the class']",
        );
        return (
          await classmate.driver.findElements(
            By.css("section[aria-label='Said to the class'] [data-clip]"),
          )
        ).length;
      };
      expect(await there()).toBe(0);
      await teacher.go("/today");
      await (await teacher.find(`a[href='/hand-outs/${made.handOutId}#to-the-class']`)).click();
      await teacher.find("#to-the-class [data-clip]");
      await teacher.awake("#to-the-class textarea");
      await teacher.press("Let the class see it");
      await teacher.waitForText("Hide it from the class", "#to-the-class");
      expect(await there()).toBe(1);
      await classmate.driver.executeScript(
        "const a = document.querySelector(\"section[aria-label='Said to the class'] audio\"); a.defaultPlaybackRate = a.playbackRate = 4;",
      );
      await (
        await classmate.find("section[aria-label='Said to the class'] [data-clip] button")
      ).click();
      await classmate.driver.wait(
        () =>
          classmate.driver.executeScript<boolean>(
            "return document.querySelector(\"section[aria-label='Said to the class'] audio\").currentTime > 0.5",
          ),
        30_000,
        "it plays",
      );
    } finally {
      await classmate.close();
    }
  }, 90_000);

  test("has what is written read aloud, once it is switched on; it stays on", async () => {
    await own.go(`/work/${made.pieceId}`);
    expect(await own.text("main")).not.toContain("Hear the task");
    await own.press("Let me hear what is written");
    await own.driver.executeScript(
      "document.querySelectorAll('details').forEach((d) => (d.open = true))",
    );
    await own.press("▷ Hear the task");
    await own.waitForText("■ Stop");
    await until("it is spoken", async () => (await database.sql`select 1 from aloud`).length > 0);
    await own.go(`/work/${made.pieceId}`);
    expect(
      await own.driver.executeScript(
        "return [...document.querySelectorAll('label')].find((l) => l.textContent.includes('Let me hear')).querySelector('input').checked",
      ),
    ).toBe(true);
  }, 60_000);
});
