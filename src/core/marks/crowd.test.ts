import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import { setApart, type Sign } from "./crowd";

const SURFACE = { w: 600, h: 800 };
const sign = fc.record({
  x: fc.integer({ min: 20, max: 580 }),
  y: fc.integer({ min: 20, max: 780 }),
  w: fc.integer({ min: 24, max: 80 }),
  h: fc.constant(24),
});

const drawn = (signs: readonly Sign[]) =>
  setApart(signs, SURFACE).map(({ dx, dy }, n) => ({
    ...signs[n]!,
    x: signs[n]!.x + dx,
    y: signs[n]!.y + dy,
  }));
const covers = (a: Sign, b: Sign) =>
  Math.abs(a.x - b.x) < (a.w + b.w) / 2 && Math.abs(a.y - b.y) < (a.h + b.h) / 2;

describe("signs on a page are set apart", () => {
  test("no two of up to twelve cover each other, wherever they are, and all stay on the page", () => {
    fc.assert(
      fc.property(fc.array(sign, { maxLength: 12 }), (signs) => {
        const shown = drawn(signs);
        shown.forEach((a, n) => {
          expect(shown.slice(n + 1).some((b) => covers(a, b))).toBe(false);
          expect(a.x >= 0 && a.x <= SURFACE.w && a.y >= 0 && a.y <= SURFACE.h).toBe(true);
        });
      }),
    );
  });

  test("who has room stays, also the first of a crowd", () => {
    const at = (x: number, y: number) => ({ x, y, w: 24, h: 24 });
    expect(setApart([at(100, 100), at(100, 100), at(300, 100)], SURFACE)).toEqual([
      { dx: 0, dy: 0 },
      { dx: 26, dy: 0 },
      { dx: 0, dy: 0 },
    ]);
  });

  test("one that steps aside does not step onto a third", () => {
    const at = (x: number, y: number) => ({ x, y, w: 24, h: 24 });
    const shown = drawn([at(100, 100), at(126, 100), at(101, 100)]);
    expect(covers(shown[2]!, shown[1]!)).toBe(false);
  });

  test("thousands on one spot are left where they are", () => {
    const all = Array.from({ length: 5000 }, () => ({ x: 1, y: 1, w: 24, h: 24 }));
    expect(setApart(all, SURFACE).every(({ dx, dy }) => dx === 0 && dy === 0)).toBe(true);
  });
});
