import { afterAll, beforeAll, describe, expect, test } from "@jest/globals";
import { By, Key, Origin } from "selenium-webdriver";
import sharp from "sharp";
import { toPdfPoint } from "../../src/core/marks/pageGeometry";
import type { Place } from "../../src/core/marks/place";
import { atDesk, type AtDesk } from "../support/atDesk";
import { openBrowser } from "../support/browser";
import { SPOTS } from "../support/everyKind";

/** The Desk on pages, pictures and recordings: by pointer, by key, turned, and as the student sees it. */
let desk: AtDesk;
let app: AtDesk["app"];
let browser: AtDesk["browser"];
let made: AtDesk["made"];
let marks: AtDesk["marks"];
let until: AtDesk["until"];
let markCount: AtDesk["markCount"];
let selected: AtDesk["selected"];
let openPiece: AtDesk["openPiece"];
let select: AtDesk["select"];
let still: AtDesk["still"];

beforeAll(async () => {
  desk = await atDesk();
  ({ app, browser, made, marks, until, markCount, selected, openPiece, select, still } = desk);
}, 180_000);
afterAll(() => desk?.close());

/** Relative luminance of a colour (WCAG 2.2, its definition; the constants from memory). */
function luminance(colour: readonly number[]): number {
  const [r, g, b] = colour.map((c) =>
    c / 255 <= 0.04045 ? c / 255 / 12.92 : ((c / 255 + 0.055) / 1.055) ** 2.4,
  ) as [number, number, number];
  return 0.2126 * r + 0.7152 * g + 0.0722 * b;
}

describe("on pages, pictures and recordings", () => {
  test("words parted at a line's end on a page are quoted whole, and the note stands beside them", async () => {
    await openPiece(made.pieceId);
    await browser.find("[data-page='5']");
    await browser.driver.executeScript(
      "document.querySelector('[data-page=\"5\"]').scrollIntoView()",
    );
    await browser.waitForText("evapora-", "[data-page='5']");
    await browser.driver.wait(
      async () =>
        browser.driver.executeScript<boolean>(
          "return document.querySelector('[data-page=\"5\"] [data-run]') !== null",
        ),
      30_000,
    );
    const before = (await marks()).length;
    await select("evapora-", "tion", "[data-page='5'] [data-words]");
    await selected();
    await browser.keys(Key.ENTER);
    await browser.find("[data-composer]");
    await browser.keys("One word.", Key.ENTER);
    await markCount(before + 1);
    const mark = (await marks()).at(-1)!;
    expect(mark).toMatchObject({ kind: "note", quote: "evaporation", body: "One word." });
    expect(mark.place).toMatchObject({ on: "page", page: 5 });
    expect((mark.place as Extract<Place, { on: "page" }>).words!.boxes).toHaveLength(2);
  });

  test("a pin on a turned and cropped page stands on its spot within a point, at three zooms", async () => {
    for (const zoom of [[], ["+", "+"], ["-", "-"]]) {
      await openPiece(made.pieceId);
      await browser.find("[data-page='1'] [data-run], [data-page='1'] canvas");
      if (zoom.length > 0) await browser.keys(...zoom);
      for (const [n, spot] of SPOTS.entries()) {
        const surface = `[data-page='${n + 1}'] [data-surface]`;
        await browser.driver.executeScript(
          "document.querySelector(arguments[0]).scrollIntoView({ block: 'start' })",
          surface,
        );
        await browser.find(`${surface} [data-run], ${surface} canvas, ${surface} img`);
        await browser.settled();
        // Where the spot is seen: worked out by hand from what /Rotate and /CropBox mean (ISO 32000-1, 7.7.3.3 and 14.11.2).
        const [left, bottom, right, top] = spot.crop;
        const [w, h] = [right - left, top - bottom];
        const [px, py] = [spot.x - left, spot.y - bottom];
        const seen = {
          0: [px / w, 1 - py / h],
          90: [py / h, px / w],
          180: [1 - px / w, py / h],
          270: [1 - py / h, 1 - px / w],
        }[spot.rotate] as [number, number];
        await browser.keys("a");
        const look = () =>
          browser.driver.executeScript<[number, number]>(
            "const s = document.querySelector(arguments[0]); const at = () => { const b = s.getBoundingClientRect(); return [b.left + b.width * arguments[1], b.top + b.height * arguments[2]]; }; const scroller = document.querySelector('[data-scroll]'); scroller.scrollTop += at()[1] - 400; s.closest('.overflow-x-auto')?.scrollBy(at()[0] - 500, 0); return at();",
            surface,
            ...seen,
          );
        // Pages that come near take the shape they really have: it is aimed at when nothing moves any more.
        const place = await still(look);
        const before = (await marks()).length;
        await browser.driver
          .actions()
          .move({ origin: Origin.VIEWPORT, x: Math.round(place[0]), y: Math.round(place[1]) })
          .click()
          .perform();
        await browser.find("[data-composer]");
        await browser.keys(`Spot ${spot.rotate}`, Key.ENTER);
        await markCount(before + 1);
        const mark = (await marks()).at(-1)!.place as Extract<Place, { on: "page" }>;
        expect(mark.page).toBe(n + 1);
        const found = toPdfPoint(
          { rotate: spot.rotate, box: { x: left, y: bottom, w, h } },
          mark.area,
        );
        // The pointer is on whole pixels, which at the smallest zoom are more than a point apart.
        const pixel =
          (w /
            (await browser.driver.executeScript<number>(
              "return document.querySelector(arguments[0]).getBoundingClientRect().width",
              surface,
            ))) *
          (spot.rotate % 180 === 0 ? 1 : h / w);
        expect(Math.hypot(found.x - spot.x, found.y - spot.y)).toBeLessThan(Math.max(1, pixel));
        // And it is drawn where it was put.
        const off = await browser.driver.executeScript<number>(
          "const s = document.querySelector(arguments[0]).getBoundingClientRect(); const p = [...document.querySelectorAll(arguments[0] + ' .pin')].at(-1).getBoundingClientRect(); return Math.hypot(p.left + p.width / 2 - s.left - s.width * arguments[1], p.top + p.height / 2 - s.top - s.height * arguments[2]);",
          surface,
          ...seen,
        );
        expect(off).toBeLessThan(2.5);
        await browser.keys("v", "z");
        await markCount(before);
      }
    }
  }, 120_000);

  test("an area is dragged and moved, ink drawn, a stroke rubbed out; each is undone and done again", async () => {
    await openPiece(made.pieceId);
    await browser.find("[data-surface] > img");
    const before = (await marks()).length;
    const at = async (x: number, y: number) =>
      browser.driver.executeScript<[number, number]>(
        "const b = document.querySelector('[data-surface] > img').parentElement.getBoundingClientRect(); return [b.left + b.width * arguments[0], b.top + b.height * arguments[1]].map(Math.round);",
        x,
        y,
      );
    const drag = async (...lines: [number, number][][]) => {
      // Writing a note scrolls to it: the middle of the picture is brought back, clear of the tray.
      await browser.driver.executeScript(
        "document.querySelector('[data-surface] > img').scrollIntoView({ block: 'center' })",
      );
      await still(() => at(0, 0));
      const placed = await Promise.all(
        lines.map((line) => Promise.all(line.map(([x, y]) => at(x, y)))),
      );
      for (const [first, ...rest] of placed) {
        let chain = browser.driver
          .actions()
          .move({ origin: Origin.VIEWPORT, x: first![0], y: first![1], duration: 0 })
          .press();
        for (const [x, y] of rest)
          chain = chain.move({ origin: Origin.VIEWPORT, x, y, duration: 60 });
        await chain.release().perform();
      }
    };
    await browser.keys("a");
    await drag([
      [0.3, 0.4],
      [0.5, 0.6],
    ]);
    await browser.find("[data-composer]");
    await browser.keys("This bar.", Key.ENTER);
    await markCount(before + 1);
    expect(((await marks()).at(-1)!.place as Extract<Place, { on: "picture" }>).area.w).toBeCloseTo(
      20,
      -0.5,
    );
    await browser.keys("v");
    await drag([
      [0.3, 0.4],
      [0.35, 0.45],
    ]);
    await until(
      "moved",
      async () =>
        Math.abs(((await marks()).at(-1)!.place as Extract<Place, { on: "picture" }>).area.x - 35) <
        1,
    );
    await browser.keys("g");
    const strokes = async () => (await marks()).reduce((sum, m) => sum + m.strokes.length, 0);
    const strokeCount = (n: number) => until(`${n} strokes`, async () => (await strokes()) === n);
    await drag([
      [0.6, 0.3],
      [0.7, 0.35],
      [0.8, 0.3],
    ]);
    await drag([
      [0.6, 0.5],
      [0.8, 0.5],
    ]);
    await strokeCount(2);
    expect(
      (await marks()).find((m) => m.kind === "ink")!.strokes[0]!.points.length,
    ).toBeGreaterThanOrEqual(3);
    await browser.shift("g");
    await drag([
      [0.7, 0.48],
      [0.7, 0.52],
    ]);
    await strokeCount(1);
    await browser.keys("v", "z");
    await strokeCount(2);
    await browser.keys("z");
    await until("a drawing taken back", async () => (await strokes()) < 2);
    await browser.shift("z");
    await strokeCount(2);
  });

  test("a comment is dragged from the tray onto a picture, and from the list onto a word; let go beside the work it is dropped", async () => {
    await openPiece(made.pieceId);
    await browser.find("[data-surface] > img");
    const middleOf = (what: string) =>
      still(() =>
        browser.driver.executeScript<[number, number]>(
          `const b = (${what}).getBoundingClientRect(); return [b.left + b.width / 2, b.top + b.height / 2].map(Math.round);`,
        ),
      );
    const drag = async (from: string, to: string) => {
      const [[x, y], [toX, toY]] = [await middleOf(from), await middleOf(to)];
      const move = (at: number, left: number, top: number) => ({
        origin: Origin.VIEWPORT,
        x: Math.round(left + (toX - left) * at),
        y: Math.round(top + (toY - top) * at),
        duration: 60,
      });
      const chain = browser.driver
        .actions()
        .move({ ...move(0, x, y), duration: 0 })
        .press();
      await chain
        .move(move(0.1, x, y))
        .move(move(1, x, y))
        .release()
        .perform();
    };
    // The tray shows more than its line where the pointer is on it.
    const overTheTray = async () => {
      const [x, y] = await middleOf("document.querySelector('[aria-label=Tray] [role=combobox]')");
      await browser.driver.actions().move({ origin: Origin.VIEWPORT, x, y }).perform();
      await browser.find("[aria-label='Favourite comments'] button");
    };
    const favourite = "document.querySelector('[aria-label=\"Favourite comments\"] button')";
    const picture = "document.querySelector('[data-surface] > img')";
    await browser.driver.executeScript(`${picture}.scrollIntoView({ block: 'center' })`);
    const before = (await marks()).length;
    await overTheTray();
    await drag(favourite, picture);
    await markCount(before + 1);
    const { on, area } = (await marks()).at(-1)!.place as Extract<Place, { on: "picture" }>;
    expect(on).toBe("picture");
    expect([area.w, area.h]).toEqual([0, 0]);
    expect(Math.hypot(area.x - 50, area.y - 50)).toBeLessThan(1);

    await browser.driver.executeScript(
      "document.querySelector('[data-at]').scrollIntoView({ block: 'center' })",
    );
    await browser.keys("/");
    const word =
      "(() => { const text = document.querySelector('[data-at]').firstChild; const r = document.createRange(); r.setStart(text, 0); r.setEnd(text, text.data.search(/\\\\W|$/u)); return r; })()";
    await drag("document.querySelector('#dock-list [role=option]')", word);
    await markCount(before + 2);
    // On the words of the writing, not on a place.
    expect((await marks()).at(-1)!.place).toBeNull();
    expect((await marks()).at(-1)!.quote).toMatch(/^\p{L}+$/u);

    await browser.keys(Key.ESCAPE);
    await overTheTray();
    await drag(favourite, "document.querySelector('h1, [data-queue], nav')");
    expect(await browser.driver.findElements(By.css("[data-composer]"))).toHaveLength(0);
    await browser.keys("z", "z");
    await markCount(before);
  });

  test("every ink is seen on a photo: the light rim lies beside it all along", async () => {
    await openPiece(made.pieceId);
    const image = "document.querySelector('[data-surface] > img')";
    await browser.find("[data-surface] > img");
    const ink = (await marks()).find((m) => m.kind === "ink")!;
    await browser.driver.executeScript(`${image}.scrollIntoView({ block: 'center' })`);
    await until("the photo is there", () =>
      browser.driver.executeScript<boolean>(
        `return ${image}.complete && ${image}.naturalWidth > 0`,
      ),
    );
    await still(() =>
      browser.driver.executeScript<[number, number]>(
        `const b = ${image}.getBoundingClientRect(); return [b.left, b.top];`,
      ),
    );
    await browser.settled();
    const [x, y, w, h] = await browser.driver.executeScript<[number, number, number, number]>(
      `const b = ${image}.getBoundingClientRect(); return [b.left, b.top, b.width, b.height];`,
    );
    const { data, info } = await sharp(Buffer.from(await browser.driver.takeScreenshot(), "base64"))
      .removeAlpha()
      .raw()
      .toBuffer({ resolveWithObject: true });
    // Along the second stroke, which is level: what is seen from 12 pixels above it to 12 below.
    const stroke = ink.strokes.at(-1)!;
    const level = y + (h * stroke.points[0]![1]) / 100;
    for (const part of [0.2, 0.5, 0.8]) {
      const at = Math.round(
        x +
          (w * (stroke.points[0]![0] + part * (stroke.points.at(-1)![0] - stroke.points[0]![0]))) /
            100,
      );
      const column = Array.from({ length: 25 }, (_, n) =>
        luminance([
          ...data.subarray(((Math.round(level) + n - 12) * info.width + at) * 3).subarray(0, 3),
        ]),
      );
      const darkest = column.indexOf(Math.min(...column));
      const beside = [
        column.slice(Math.max(0, darkest - 6), darkest),
        column.slice(darkest + 1, darkest + 7),
      ];
      // WCAG 2.2, 1.4.11: 3 to 1 against what lies beside it.
      for (const side of beside)
        expect((Math.max(...side) + 0.05) / (column[darkest]! + 0.05)).toBeGreaterThan(3);
    }
  });

  test("a picture turned on the screen: a pin stands where it was put, and the words of a turned page are the same words", async () => {
    await openPiece(made.pieceId);
    await browser.find("[data-surface] > img");
    const turned = (css: string) =>
      browser.driver.executeScript<string>(
        "return document.querySelector(arguments[0]).closest('[data-turn]').dataset.turn",
        css,
      );
    await browser.driver.executeScript(
      "document.querySelector('[data-surface] > img').scrollIntoView({ block: 'center' })",
    );
    await still(() =>
      browser.driver.executeScript<[number, number]>(
        "const b = document.querySelector('[data-surface] > img').getBoundingClientRect(); return [b.left, b.top];",
      ),
    );
    await browser.shift("r");
    await until("turned", async () => (await turned("[data-surface] > img")) === "90");
    const before = (await marks()).length;
    await browser.keys("a");
    const look = () =>
      browser.driver.executeScript<[number, number]>(
        "const s = document.querySelector('[data-surface] > img').parentElement; s.scrollIntoView({ block: 'center' }); const b = s.getBoundingClientRect(); return [b.left + b.width * 0.25, b.top + b.height * 0.5];",
      );
    const [x, y] = await still(look);
    await browser.driver
      .actions()
      .move({ origin: Origin.VIEWPORT, x: Math.round(x), y: Math.round(y) })
      .click()
      .perform();
    await browser.find("[data-composer]");
    await browser.keys("On its side.", Key.ENTER);
    await markCount(before + 1);
    // A quarter clockwise: what is seen at 25 across and 50 down lies, upright, at 50 across and 75 down.
    const { area } = (await marks()).at(-1)!.place as Extract<Place, { on: "picture" }>;
    expect([area.x, area.y].map(Math.round)).toEqual([50, 75]);
    const off = await browser.driver.executeScript<number>(
      "const s = document.querySelector('[data-surface] > img').parentElement.getBoundingClientRect(); const p = [...document.querySelectorAll('.pin')].find((e) => e.getAttribute('aria-label').includes('On its side')).getBoundingClientRect(); return Math.hypot(p.left + p.width / 2 - s.left - s.width * 0.25, p.top + p.height / 2 - s.top - s.height * 0.5);",
    );
    expect(off).toBeLessThan(2.5);
    await browser.keys("v");
    const upright = (await marks()).find((m) => m.body === "One word.")!.place as Extract<
      Place,
      { on: "page" }
    >;
    const page = "[data-page='5'] [data-run]";
    await browser.driver.executeScript(
      "document.querySelector('[data-page=\"5\"]').scrollIntoView()",
    );
    await browser.find(page);
    await browser.driver.executeScript(
      "document.querySelector('[data-page=\"5\"] [aria-label^=Turn]').click()",
    );
    await until(
      "the page turned and drawn anew",
      async () =>
        (await turned("[data-page='5'] [data-words]")) === "90" &&
        (await browser.driver.findElements(By.css(page))).length > 0,
    );
    await select("evapora-", "tion", "[data-page='5'] [data-words]");
    await selected();
    await browser.keys("t");
    await markCount(before + 2);
    const onSide = (await marks()).at(-1)!.place as Extract<Place, { on: "page" }>;
    expect(onSide.words!.boxes).toHaveLength(upright.words!.boxes.length);
    onSide.words!.boxes.forEach((box, n) =>
      expect(
        Math.hypot(box.x - upright.words!.boxes[n]!.x, box.y - upright.words!.boxes[n]!.y),
      ).toBeLessThan(1),
    );
    // On this device it is seen so again.
    await openPiece(made.pieceId);
    await browser.find("[data-surface] > img");
    await until("turned as before", async () => (await turned("[data-surface] > img")) === "90");
    await browser.driver.executeScript("localStorage.removeItem('turned')");
  }, 90_000);

  test("by key: to the next page and back, and to a page by its number", async () => {
    await openPiece(made.pieceId);
    await browser.find("[data-page='5']");
    const top = () =>
      browser.driver.executeScript<string>(
        "const at = document.querySelector('[data-scroll]').getBoundingClientRect().top; return [...document.querySelectorAll('[data-page]')].findLast((p) => p.getBoundingClientRect().top - at <= 80)?.dataset.page ?? ''",
      );
    const at = (page: string) => until(`page ${page}`, async () => (await top()) === page);
    // The page opens where one was; here it is begun at the head.
    await still(() =>
      browser.driver.executeScript<[number, number]>(
        "const s = document.querySelector('[data-scroll]'); s.scrollTop = 0; return [0, s.scrollTop];",
      ),
    );
    for (const page of ["1", "2", "3"]) {
      await browser.shift(Key.ARROW_DOWN);
      await at(page);
    }
    await browser.shift(Key.ARROW_UP);
    await at("2");
    await browser.keys("#");
    await until("the field", () =>
      browser.driver.executeScript<boolean>("return document.activeElement.name === 'page'"),
    );
    await browser.keys("4", Key.ENTER);
    await at("4");
    // The keys work again at once.
    await browser.shift(Key.ARROW_UP);
    await at("3");
  });

  test("by keyboard: arrows move the cross on a picture, Enter puts the pin", async () => {
    await openPiece(made.pieceId);
    const before = (await marks()).length;
    await browser.keys("a");
    await browser.driver.executeScript(
      "document.querySelector('[data-surface] > img').parentElement.querySelector('.place-surface').focus()",
    );
    await browser.keys(Key.ARROW_RIGHT, Key.ARROW_RIGHT, Key.ARROW_UP, Key.ENTER);
    await browser.find("[data-composer]");
    await browser.keys("Here.", Key.ENTER);
    await markCount(before + 1);
    expect((await marks()).at(-1)!.place).toMatchObject({
      on: "picture",
      area: { x: 54, y: 48, w: 0, h: 0 },
    });
    expect(
      await browser.driver.executeScript(
        "return [...document.querySelector('[data-surface] > img').parentElement.querySelectorAll('.pin')].map((p) => p.getAttribute('aria-label'))",
      ),
    ).toContain("pin: Here.");
    // Arrows move the pin that has the focus: one step to undo, however many keys.
    await browser.keys("v");
    const at = async () =>
      ((await marks()).find((m) => m.body === "Here.")!.place as Extract<Place, { on: "picture" }>)
        .area;
    await browser.driver.executeScript(
      "[...document.querySelectorAll('.pin')].find((p) => p.getAttribute('aria-label') === 'pin: Here.').focus()",
    );
    await browser.keys(Key.ARROW_RIGHT, Key.ARROW_RIGHT, Key.ARROW_DOWN);
    await until("moved by keys", async () => (await at()).x === 56 && (await at()).y === 49);
    await browser.keys("z");
    await until("where it was", async () => (await at()).x === 54 && (await at()).y === 48);
    // With Alt they size it: a pin becomes an area, and keeps the focus.
    await browser.driver.executeScript(
      "[...document.querySelectorAll('.pin')].find((p) => p.getAttribute('aria-label') === 'pin: Here.').focus()",
    );
    await browser.alt(Key.ARROW_RIGHT);
    await browser.alt(Key.ARROW_DOWN);
    await until("an area", async () => (await at()).w > 0 && (await at()).h > 0);
    await until("the focus is still there", () =>
      browser.driver.executeScript<boolean>(
        "return document.activeElement.getAttribute('aria-label') === 'pin on an area: Here.'",
      ),
    );
  });

  test("on a slow line, two changes to one mark go one after the other; neither is lost, and each is a step to undo", async () => {
    await openPiece(made.pieceId);
    await browser.find(".pin");
    const at = async () =>
      ((await marks()).find((m) => m.body === "Here.")!.place as Extract<Place, { on: "picture" }>)
        .area.x;
    const before = await at();
    await browser.driver.executeScript(
      "[...document.querySelectorAll('.pin')].find((p) => p.getAttribute('aria-label').endsWith(': Here.')).focus()",
    );
    await browser.slow(2000);
    // The second is sent while the server has not answered the first.
    await browser.driver.executeScript(
      "window.asked = 0; const send = window.fetch; window.fetch = (...given) => { if (given[1]?.method === 'PATCH') window.asked += 1; return send(...given); }",
    );
    await browser.keys(Key.ARROW_RIGHT);
    await until("the first is on its way", () =>
      browser.driver.executeScript<boolean>("return window.asked > 0"),
    );
    await browser.keys(Key.ARROW_RIGHT);
    await until("both are kept", async () => (await at()) === before + 2);
    await browser.slow(0);
    expect(await browser.driver.findElements(By.css("[data-scroll] [role=alert]"))).toEqual([]);
    for (const left of [1, 0]) {
      await browser.keys("z");
      await until(`${left} of them left`, async () => (await at()) === before + left);
    }
  }, 60_000);

  test("a note on the moment that plays, and its place in the list", async () => {
    await openPiece(made.pieceId);
    const before = (await marks()).length;
    await browser.driver.executeScript(
      "const p = document.querySelector('audio[data-player]'); p.scrollIntoView(); p.currentTime = 3;",
    );
    await until("it is there", () =>
      browser.driver.executeScript<boolean>(
        "const p = document.querySelector('audio[data-player]'); return !p.seeking && p.currentTime === 3",
      ),
    );
    await browser.keys("m");
    await browser.find("[data-composer]");
    await browser.keys("Calmer here.", Key.ENTER);
    await markCount(before + 1);
    expect((await marks()).at(-1)!.place).toMatchObject({ on: "time", from: 3, to: null });
    await browser.waitForText("Calmer here.", "[data-note]");
  });

  test("the student sees marks of every kind where they were put, and nothing before", async () => {
    const own = await openBrowser(app.origin);
    try {
      await own.enterAs(made.student.id);
      await own.go(`/work/${made.pieceId}`);
      await own.find("main h1");
      expect(await own.text("main")).not.toContain("Calmer here.");
      await openPiece(made.pieceId);
      await browser.keys("h");
      await browser.waitForText(`Handed back to ${made.student.name}.`);
      await own.go(`/work/${made.pieceId}`);
      await own.waitForText("Calmer here.");
      await own.waitForText("This bar.");
      // Where a pin stands (that of an area at its corner), in hundredths of its page or picture, against the mark itself.
      const points = (await marks()).flatMap(({ place, body }) =>
        place && "area" in place && place.area && !("words" in place && place.words) && body
          ? [{ body, x: place.area.x, y: place.area.y }]
          : [],
      );
      expect(points.length).toBeGreaterThan(1);
      for (const { body, x, y } of points) {
        const seenNow =
          "const pin = [...document.querySelectorAll('.mark-layer button')].find((p) => p.getAttribute('aria-label')?.endsWith(': ' + arguments[0])); if (!pin) return null; const own = pin.closest('.pin-area')?.getBoundingClientRect(); const p = own ? new DOMRect(own.left, own.top, 0, 0) : pin.getBoundingClientRect(); const s = pin.closest('[data-surface]').getBoundingClientRect(); return [(100 * (p.left + p.width / 2 - s.left)) / s.width, (100 * (p.top + p.height / 2 - s.top)) / s.height];";
        // Pins are set apart by their size as drawn, so they come to rest when their page has.
        let seen: [number, number] | null = null;
        await own.driver
          .wait(async () => {
            seen = await own.driver.executeScript<[number, number] | null>(seenNow, body);
            return seen !== null && Math.abs(seen[0] - x) < 1.5 && Math.abs(seen[1] - y) < 1.5;
          }, 30_000)
          .catch(() => {});
        expect({ body, seen }).toEqual({
          body,
          seen: [x, y].map((n) => expect.closeTo(n, -0.5)),
        });
      }
      // And a drawing covers what its strokes cover.
      const ink = (await marks()).find((m) => m.kind === "ink" && m.place?.on === "picture")!;
      const drawn = ink.strokes.flatMap((stroke) => stroke.points);
      const [left, right] = await own.driver.executeScript<[number, number]>(
        "const all = [...document.querySelectorAll('[data-ink]')].map((g) => ({ b: g.getBBox(), s: g.ownerSVGElement.viewBox.baseVal })); const at = all.find(({ b, s }) => Math.abs((100 * b.x) / s.width - arguments[0]) < 3) ?? all[0]; return [(100 * at.b.x) / at.s.width, (100 * (at.b.x + at.b.width)) / at.s.width];",
        Math.min(...drawn.map(([x]) => x)),
      );
      expect(Math.abs(left - Math.min(...drawn.map(([x]) => x)))).toBeLessThan(3);
      expect(Math.abs(right - Math.max(...drawn.map(([x]) => x)))).toBeLessThan(3);
      await own.waitForText("One word.");
    } finally {
      await own.close();
    }
  }, 60_000);
});
