import { execFileSync } from "node:child_process";
import { readFileSync } from "node:fs";
import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import { faultsOf, mayStand, nameOfMark, sayEdit, transposed } from "./mark";
import { sumOfPoints } from "./points";
import { fromPdfPoint, shownSize, toPdfArea, toPdfPoint, type PageShape } from "./pageGeometry";
import {
  around,
  clampArea,
  inkArea,
  INKS,
  movePlace,
  readPlace,
  readStrokes,
  touchesStroke,
  type Place,
} from "./place";

const ID = "00000000-0000-7000-8000-000000000001";

describe("places over the wire", () => {
  test.each<[string, unknown, Place]>([
    ["nothing is the text", null, { on: "text" }],
    [
      "a pin",
      { on: "picture", itemId: ID, area: { x: 10.123, y: 20, w: 0, h: 0 } },
      { on: "picture", itemId: ID, area: { x: 10.12, y: 20, w: 0, h: 0 } },
    ],
    [
      "an area drawn from its lower right",
      { on: "page", itemId: ID, page: 2, area: { x: 40, y: 50, w: 10, h: 5 }, words: null },
      { on: "page", itemId: ID, page: 2, area: { x: 40, y: 50, w: 10, h: 5 }, words: null },
    ],
    [
      "a moment",
      { on: "time", itemId: ID, from: 12.346, to: null },
      { on: "time", itemId: ID, from: 12.35, to: null },
    ],
    [
      "a stretch without length is a moment",
      { on: "time", itemId: ID, from: 3, to: 3 },
      { on: "time", itemId: ID, from: 3, to: null },
    ],
    ["the whole", { on: "whole", itemId: null }, { on: "whole", itemId: null }],
  ])("%s", (_name, given, read) => expect(readPlace(given)).toEqual(read));
  test.each<[string, unknown]>([
    ["an unknown kind", { on: "moon" }],
    ["no file", { on: "picture", itemId: "x", area: { x: 1, y: 1, w: 1, h: 1 } }],
    ["far off the page", { on: "picture", itemId: ID, area: { x: 400, y: 1, w: 1, h: 1 } }],
    ["not numbers", { on: "picture", itemId: ID, area: { x: "1", y: NaN, w: 1, h: 1 } }],
    [
      "half a page",
      { on: "page", itemId: ID, page: 1.5, area: { x: 1, y: 1, w: 1, h: 1 }, words: null },
    ],
    ["a stretch that runs backwards", { on: "time", itemId: ID, from: 9, to: 3 }],
    [
      "words that end before they begin",
      {
        on: "page",
        itemId: ID,
        page: 1,
        area: { x: 1, y: 1, w: 1, h: 1 },
        words: { start: 9, end: 3, boxes: [] },
      },
    ],
  ])("%s is refused with a sentence", (_name, given) =>
    expect(typeof readPlace(given)).toBe("string"),
  );
  test("strokes are read as they are drawn, and refused when they are none", () => {
    const stroke = {
      ink: "plum",
      width: 0.5,
      points: [
        [1, 2, 0.5],
        [3, 4, 1],
      ],
    };
    expect(readStrokes([stroke])).toEqual([stroke]);
    expect(readStrokes(undefined)).toEqual([]);
    for (const wrong of [
      [{ ...stroke, ink: "gold" }],
      [{ ...stroke, points: [] }],
      [{ ...stroke, points: [[1, "2", 0]] }],
      [{ ...stroke, width: 50 }],
      "x",
      Array.from({ length: 201 }, () => stroke),
    ])
      expect(typeof readStrokes(wrong)).toBe("string");
  });
  test("whatever comes in, an area that is read lies on the page", () => {
    const n = fc.double({ min: -300, max: 300, noNaN: true });
    fc.assert(
      fc.property(n, n, n, n, (x, y, w, h) => {
        const a = clampArea({ x, y, w, h });
        return (
          a.x >= 0 &&
          a.y >= 0 &&
          a.w >= 0 &&
          a.h >= 0 &&
          a.x + a.w <= 100.011 &&
          a.y + a.h <= 100.011
        );
      }),
    );
  });
  test("a mark that is moved keeps its size and stays on its page", () => {
    const place: Place = { on: "picture", itemId: ID, area: { x: 80, y: 10, w: 15, h: 20 } };
    expect(movePlace(place, 50, -50)).toEqual({ ...place, area: { x: 85, y: 0, w: 15, h: 20 } });
    expect(movePlace({ on: "whole", itemId: null }, 5, 5)).toEqual({ on: "whole", itemId: null });
  });
  test("the eraser meets a line between its points, at its ends, and not beside it", () => {
    const stroke = {
      ink: "tide" as const,
      width: 0,
      points: [
        [10, 50, 1],
        [90, 50, 1],
      ] as [number, number, number][],
    };
    const at = (x: number, y: number, ratio = 1) => touchesStroke(stroke, [x, y], ratio, 2);
    expect([
      at(50, 50),
      at(50, 51.9),
      at(50, 52.1),
      at(11, 50),
      at(8.1, 50),
      at(7.9, 50),
      at(91.9, 50),
      at(95, 50),
    ]).toEqual([true, true, false, true, true, false, true, false]);
    // On a page twice as high as wide, one per cent down is as far as two across.
    expect([at(50, 50.9, 2), at(50, 51.1, 2)]).toEqual([true, false]);
    expect(touchesStroke({ ...stroke, points: [[5, 5, 1]] }, [6, 5], 1, 2)).toBe(true);
  });
  test("the area of ink is what its points cover", () => {
    expect(
      inkArea([
        {
          ink: "tide",
          width: 1,
          points: [
            [10, 20, 1],
            [30, 5, 1],
          ],
        },
      ]),
    ).toEqual({ x: 10, y: 5, w: 20, h: 15 });
    expect(around([])).toBeNull();
  });
});

/** Inks on a photo: whatever the picture, each stroke and pin has a light rim. WCAG 2.2, 1.4.11: 3 to 1 against what lies beside it; relative luminance as WCAG defines it. */
describe("inks on a photo", () => {
  const css = readFileSync("src/app/globals.css", "utf8");
  const rim = /\.ink \.ink-rim \{[^}]*stroke: (#[0-9a-f]{6})/.exec(css)![1]!;
  const luminance = (hex: string) =>
    [1, 3, 5]
      .map((n) => parseInt(hex.slice(n, n + 2), 16) / 255)
      .map((c) => (c <= 0.04045 ? c / 12.92 : ((c + 0.055) / 1.055) ** 2.4))
      .reduce((sum, c, n) => sum + c * [0.2126, 0.7152, 0.0722][n]!, 0);
  const contrast = (a: string, b: string) =>
    (Math.max(luminance(a), luminance(b)) + 0.05) / (Math.min(luminance(a), luminance(b)) + 0.05);
  test("the formula gives what WCAG names: 21 for black on white", () =>
    expect(contrast("#000000", "#ffffff")).toBeCloseTo(21, 5));
  test.each(INKS.map((ink) => [ink]))(
    "%s stands out from its rim, and the rim from the dark",
    (ink) => {
      const colour = new RegExp(`\\.ink-${ink} \\{\\s*fill: (#[0-9a-f]{6})`).exec(css)![1]!;
      expect(contrast(colour, rim)).toBeGreaterThan(4.5);
      // A dark photo hides the ink, not its rim; a light one the rim, not the ink.
      expect(contrast(rim, "#211d17")).toBeGreaterThan(3);
    },
  );
});

describe("marks", () => {
  const base = {
    kind: "note" as const,
    nature: "remark" as const,
    body: "x",
    replacement: "",
    start: 0,
    end: 0,
  };
  const pin: Place = { on: "picture", itemId: ID, area: { x: 1, y: 1, w: 0, h: 0 } };
  test("what may stand where", () => {
    expect(mayStand("ink", pin)).toBe(true);
    expect(mayStand("ink", { on: "text" })).toBe(false);
    expect(mayStand("replace", pin)).toBe(false);
    expect(Object.keys(faultsOf({ ...base, place: pin }, 0))).toEqual([]);
    expect(
      Object.keys(
        faultsOf(
          {
            ...base,
            kind: "delete",
            place: { on: "page", itemId: ID, page: 1, area: pin.area, words: null },
          },
          0,
        ),
      ),
    ).toEqual(["place"]);
    expect(Object.keys(faultsOf({ ...base, kind: "ink", place: pin }, 0))).toEqual(["strokes"]);
    expect(Object.keys(faultsOf({ ...base, kind: "stamp", body: "", place: pin }, 0))).toEqual([
      "body",
    ]);
    expect(Object.keys(faultsOf({ ...base, points: "two", place: pin }, 0))).toEqual(["points"]);
  });
  test.each([
    ["blue sky", "sky blue"],
    ["wind and rain", "rain and wind"],
    ["ei", "ie"],
    [" so then ", " then so "],
    ["the the", null],
    ["a", null],
    ["👩‍🚀x", "x👩‍🚀"],
  ])("%j with its ends exchanged is %j", (words, swapped) =>
    expect(transposed(words)).toBe(swapped),
  );
  test("points on marks add up exactly, with their sign", () => {
    expect(sumOfPoints([{ points: "+2" }, { points: "-0.5" }, { points: null }, {}])).toBe("+1.5");
    expect(sumOfPoints([{ points: "0.1" }, { points: "0.2" }, { points: "-0.3" }])).toBe("0");
    expect(sumOfPoints([{ points: null }])).toBeNull();
  });
  test("each is called by its trade's name", () => {
    expect(nameOfMark({ kind: "note", place: pin })).toBe("pin");
    expect(
      nameOfMark({ kind: "note", place: { ...pin, area: { x: 1, y: 1, w: 5, h: 5 } } as Place }),
    ).toBe("pin on an area");
    expect(nameOfMark({ kind: "note", place: { on: "time", itemId: ID, from: 1, to: null } })).toBe(
      "time note",
    );
    expect(nameOfMark({ kind: "star" })).toBe("stamp");
    expect(sayEdit({ kind: "transpose", quote: "blue sky", replacement: "sky blue" })).toContain(
      "Change places",
    );
  });
});

/**
 * A page's own space. The reference is pdf.js: a PDF of one page is written here with each /Rotate and a shifted
 * CropBox, and its `viewport.convertToPdfPoint` asked for the same places, at three zooms.
 */
describe("places on turned and cropped pages", () => {
  const SCRIPT = `
    const { getDocument } = await import("pdfjs-dist/legacy/build/pdf.mjs");
    const pdf = (rotate, crop) => { const objects = ["<< /Type /Catalog /Pages 2 0 R >>", "<< /Type /Pages /Kids [3 0 R] /Count 1 >>", "<< /Type /Page /Parent 2 0 R /MediaBox [0 0 612 792] /CropBox [" + crop.join(" ") + "] /Rotate " + rotate + " >>"];
      let out = "%PDF-1.4\\n"; const at = []; objects.forEach((o, n) => { at.push(out.length); out += (n + 1) + " 0 obj\\n" + o + "\\nendobj\\n"; });
      const xref = out.length; out += "xref\\n0 4\\n0000000000 65535 f \\n" + at.map((a) => String(a).padStart(10, "0") + " 00000 n \\n").join("") + "trailer << /Size 4 /Root 1 0 R >>\\nstartxref\\n" + xref + "\\n%%EOF"; return new TextEncoder().encode(out); };
    const results = [];
    for (const rotate of [0, 90, 180, 270]) for (const crop of [[0, 0, 612, 792], [36, 72, 540, 700]]) {
      const page = await (await getDocument({ data: pdf(rotate, crop), verbosity: 0 }).promise).getPage(1);
      for (const scale of [0.5, 1, 2.75]) { const v = page.getViewport({ scale }); for (const [x, y] of [[0, 0], [10, 20], [50, 50], [99, 3], [100, 100]]) results.push({ rotate, crop, scale, x, y, size: [v.width / scale, v.height / scale], point: v.convertToPdfPoint((x / 100) * v.width, (y / 100) * v.height) }); }
    }
    process.stdout.write(JSON.stringify(results));`;
  const asked = JSON.parse(
    execFileSync(process.execPath, ["--input-type=module", "-e", SCRIPT], {
      encoding: "utf8",
      stdio: ["ignore", "pipe", "ignore"],
    }),
  ) as {
    rotate: number;
    crop: number[];
    scale: number;
    x: number;
    y: number;
    size: number[];
    point: number[];
  }[];
  const shapeOf = ({ rotate, crop: [x, y, right, top] }: (typeof asked)[number]): PageShape => ({
    rotate,
    box: { x: x!, y: y!, w: right! - x!, h: top! - y! },
  });
  test("the point is the one pdf.js names, within a hundredth of a point, at every zoom", () => {
    expect(asked).toHaveLength(4 * 2 * 3 * 5);
    for (const place of asked) {
      const { x, y } = toPdfPoint(shapeOf(place), place);
      expect(Math.hypot(x - place.point[0]!, y - place.point[1]!)).toBeLessThan(0.01);
      expect(
        [shownSize(shapeOf(place)).w, shownSize(shapeOf(place)).h].map((n) => n.toFixed(3)),
      ).toEqual(place.size.map((n) => n.toFixed(3)));
    }
  });
  test("there and back is the same place; a quarter turn four times too", () => {
    for (const place of asked) {
      const back = fromPdfPoint(shapeOf(place), toPdfPoint(shapeOf(place), place));
      expect(Math.hypot(back.x - place.x, back.y - place.y)).toBeLessThan(1e-9);
    }
    const shape = { rotate: -90, box: { x: 5, y: 6, w: 100, h: 200 } };
    expect(toPdfPoint(shape, { x: 20, y: 30 })).toEqual(
      toPdfPoint({ ...shape, rotate: 270 }, { x: 20, y: 30 }),
    );
  });
  test("an area keeps its size in points, whichever way the page lies", () => {
    for (const rotate of [0, 90, 180, 270]) {
      const { w, h } = toPdfArea(
        { rotate, box: { x: 10, y: 10, w: 200, h: 400 } },
        { x: 25, y: 25, w: 50, h: 10 },
      );
      expect([w, h].sort((a, b) => a - b)).toEqual(rotate % 180 === 0 ? [40, 100] : [20, 200]);
    }
  });
});
