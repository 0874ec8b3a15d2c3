import { describe, expect, test } from "@jest/globals";
import sharp from "sharp";
import { lighten, luminance } from "./lighten";
import {
  carry,
  homography,
  isSheet,
  sheetSize,
  straighten,
  turn,
  wholeOf,
  type Corners,
  type Pixels,
} from "./perspective";

const paint = (
  width: number,
  height: number,
  colour: (x: number, y: number) => [number, number, number],
): Pixels => {
  const data = new Uint8ClampedArray(width * height * 4);
  for (let y = 0; y < height; y += 1)
    for (let x = 0; x < width; x += 1) data.set([...colour(x, y), 255], (y * width + x) * 4);
  return { data, width, height };
};
const at = ({ data, width }: Pixels, x: number, y: number) => [
  ...data.subarray((y * width + x) * 4, (y * width + x) * 4 + 3),
];

describe("straightening a sheet", () => {
  const corners: Corners = [
    { x: 30, y: 20 },
    { x: 180, y: 35 },
    { x: 170, y: 140 },
    { x: 15, y: 120 },
  ];
  test("the four corners go to the corners of the rectangle, and back", () => {
    const size = { width: 150, height: 110 };
    const there = homography(corners, wholeOf(size));
    corners.forEach((corner, n) => {
      expect(carry(there, corner).x).toBeCloseTo(wholeOf(size)[n]!.x, 9);
      expect(carry(there, corner).y).toBeCloseTo(wholeOf(size)[n]!.y, 9);
    });
    const back = homography(wholeOf(size), corners);
    const middle = carry(back, carry(there, { x: 100, y: 80 }));
    expect([middle.x, middle.y].map((v) => Math.round(v * 1e6) / 1e6)).toEqual([100, 80]);
  });
  // The unit square onto (0,0) (1,0) (1,1) (0,2) is solved by hand in one line: x' = x / (1 + x − … ) is avoided by
  // choosing an affine case, whose homography must have g = h = 0 (a fact of projective geometry, common practice, no source).
  test("a parallelogram needs no perspective", () => {
    const h = homography(wholeOf({ width: 1, height: 1 }), [
      { x: 2, y: 1 },
      { x: 5, y: 2 },
      { x: 6, y: 6 },
      { x: 3, y: 5 },
    ]);
    [3, 1, 2, 1, 4, 1, 0, 0, 1].forEach((value, n) => expect(h[n]).toBeCloseTo(value, 9));
  });
  // The cross ratio of four points on a line is the same after any homography.
  test("cross ratios stay", () => {
    const h = homography(corners, wholeOf({ width: 300, height: 200 }));
    const line = [0, 0.2, 0.55, 1].map((t) => carry(h, { x: 40 + t * 110, y: 40 + t * 70 }));
    const d = (m: number, n: number) =>
      Math.hypot(line[m]!.x - line[n]!.x, line[m]!.y - line[n]!.y);
    expect((d(0, 2) * d(1, 3)) / (d(1, 2) * d(0, 3))).toBeCloseTo((0.55 * 0.8) / (0.35 * 1), 9);
  });
  test("a picture that was put in perspective comes out as it was", () => {
    const original = paint(160, 120, (x, y) => [x, y * 2, (x + y) % 200]);
    const forward = homography(
      wholeOf({ width: 200, height: 160 }),
      wholeOf({ width: 200, height: 160 }),
    );
    expect(forward[0]).toBeCloseTo(1, 9);
    // Drawn into a larger picture by the inverse way, as a camera would see it, then straightened.
    const seen = paint(200, 160, () => [0, 0, 0]);
    const toPaper = homography(corners, wholeOf(original));
    for (let y = 0; y < 160; y += 1)
      for (let x = 0; x < 200; x += 1) {
        const p = carry(toPaper, { x: x + 0.5, y: y + 0.5 });
        if (p.x >= 0 && p.y >= 0 && p.x < 160 && p.y < 120)
          seen.data.set(
            [...at(original, Math.floor(p.x), Math.floor(p.y)), 255],
            (y * 200 + x) * 4,
          );
      }
    const flat = straighten(seen, corners, { width: 160, height: 120 });
    let worst = 0;
    for (let y = 10; y < 110; y += 5)
      for (let x = 10; x < 150; x += 5)
        worst = Math.max(
          worst,
          Math.abs(at(flat, x, y)[0]! - at(original, x, y)[0]!),
          Math.abs(at(flat, x, y)[1]! - at(original, x, y)[1]!) / 2,
        );
    expect(worst).toBeLessThanOrEqual(3);
  });
  test("size, and corners that make no sheet", () => {
    expect(sheetSize(wholeOf({ width: 4000, height: 3000 }))).toEqual({
      width: 2400,
      height: 1800,
    });
    expect(isSheet(corners)).toBe(true);
    expect(isSheet([corners[1], corners[0], corners[2], corners[3]])).toBe(false);
    expect(isSheet([corners[0], corners[0], corners[2], corners[3]])).toBe(false);
  });
});

test("turning is what an image library does", async () => {
  const source = paint(5, 3, (x, y) => [x * 40, y * 80, 7]);
  for (const quarters of [1, 2, 3]) {
    const { data, info } = await sharp(Buffer.from(source.data), {
      raw: { width: 5, height: 3, channels: 4 },
    })
      .rotate(quarters * 90)
      .raw()
      .toBuffer({ resolveWithObject: true });
    const mine = turn(source, quarters);
    expect([mine.width, mine.height]).toEqual([info.width, info.height]);
    expect(Buffer.from(mine.data)).toEqual(data);
  }
  expect(turn(source, 4)).toBe(source);
});

test("a page under a shadow becomes white paper with dark writing", () => {
  const ink = (x: number, y: number) => y % 24 < 3 && x % 40 < 26;
  const shadow = (x: number) => 0.45 + 0.5 * (x / 256);
  const page = paint(256, 192, (x, y) =>
    ink(x, y)
      ? [40 * shadow(x), 40 * shadow(x), 60 * shadow(x)]
      : [235 * shadow(x), 228 * shadow(x), 210 * shadow(x)],
  );
  const lit = lighten(page);
  for (const x of [10, 128, 250]) {
    const paper = at(lit, x - (x % 40) + 33 < 256 ? x - (x % 40) + 33 : 230, 12) as [
      number,
      number,
      number,
    ];
    expect(luminance(...paper)).toBeGreaterThan(235);
    expect(luminance(...(at(lit, x - (x % 40) + 5, 25) as [number, number, number]))).toBeLessThan(
      90,
    );
  }
});
