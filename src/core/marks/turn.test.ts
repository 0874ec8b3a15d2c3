import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import { toPdfPoint } from "./pageGeometry";
import { areaFromSeen, fromSeen, isOnSide, turnOn, wayFromSeen, type Turn } from "./turn";

const TURNS: Turn[] = [0, 90, 180, 270];
const percent = fc.double({ min: 0, max: 100, noNaN: true });

describe("a page turned on the screen", () => {
  test("where its corners are seen, turned clockwise as a sheet on a table is", () => {
    // The page's own top left corner: at the top right after a quarter, bottom right after a half, bottom left after three.
    expect(fromSeen(90, [100, 0])).toEqual([0, 0]);
    expect(fromSeen(180, [100, 100])).toEqual([0, 0]);
    expect(fromSeen(270, [0, 100])).toEqual([0, 0]);
    expect(TURNS.map(turnOn)).toEqual([90, 180, 270, 0]);
    expect(TURNS.map(isOnSide)).toEqual([false, true, false, true]);
  });
  test("agrees with what /Rotate does to a page of a PDF (ISO 32000-1, 7.7.3.3)", () => {
    fc.assert(
      fc.property(fc.constantFrom(...TURNS), percent, percent, (turn, x, y) => {
        const box = { x: 0, y: 0, w: 300, h: 500 };
        const [px, py] = fromSeen(turn, [x, y]);
        const upright = toPdfPoint({ box, rotate: 0 }, { x: px, y: py });
        const turned = toPdfPoint({ box, rotate: turn }, { x, y });
        expect(turned.x).toBeCloseTo(upright.x, 6);
        expect(turned.y).toBeCloseTo(upright.y, 6);
      }),
    );
  });
  test("four quarters lead back, for points and for ways", () => {
    fc.assert(
      fc.property(percent, percent, (x, y) => {
        let [point, way]: [[number, number], [number, number]] = [
          [x, y],
          [x, y],
        ];
        for (let n = 0; n < 4; n += 1) [point, way] = [fromSeen(90, point), wayFromSeen(90, way)];
        expect(point[0]).toBeCloseTo(x, 6);
        expect(way[1]).toBeCloseTo(y, 6);
      }),
    );
  });
  test("an area stays the same part of the page", () => {
    expect(areaFromSeen(90, { x: 80, y: 10, w: 20, h: 5 })).toEqual({ x: 10, y: 0, w: 5, h: 20 });
    expect(areaFromSeen(180, { x: 0, y: 0, w: 10, h: 20 })).toEqual({ x: 90, y: 80, w: 10, h: 20 });
    expect(areaFromSeen(0, { x: 1, y: 2, w: 3, h: 4 })).toEqual({ x: 1, y: 2, w: 3, h: 4 });
  });
});
