import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import { kindOfWork, minutesFor, paceOf, sayMinutes, type Taken } from "./pace";
import { byPressing, isBroken, type Waits } from "./pressing";

const NOW = new Date("2026-11-03T11:40:00Z");
const days = (n: number) => new Date(NOW.getTime() + n * 86_400_000);
const waits = (promised: number | null, oldest: number | null, owed = 1): Waits => ({
  promisedAt: promised === null ? null : days(promised),
  oldestAt: oldest === null ? null : days(oldest),
  owed,
});

describe("what presses most stands first", () => {
  test("broken promises by how long, then the oldest wait, then the soonest promise", () => {
    const right = [
      waits(-5, -1),
      waits(-1, -9),
      waits(9, -8),
      waits(2, -3),
      waits(4, -3.2),
      waits(null, -3),
      waits(1, null),
    ];
    const shuffled = [3, 6, 1, 0, 5, 2, 4].map((n) => right[n]!);
    expect(shuffled.sort((a, b) => byPressing(a, b, NOW))).toEqual(right);
  });
  test("a promise that was kept is not broken, nor one without anything owed", () => {
    expect([
      isBroken(waits(-1, -2), NOW),
      isBroken(waits(-1, -2, 0), NOW),
      isBroken(waits(1, -2), NOW),
      isBroken(waits(null, -2), NOW),
    ]).toEqual([true, false, false, false]);
  });
  test("the order is an order: of any three, and a broken promise is never behind an unbroken one", () => {
    const any = fc.record({
      promised: fc.option(fc.integer({ min: -20, max: 20 })),
      oldest: fc.option(fc.integer({ min: -40, max: 0 })),
      owed: fc.integer({ min: 0, max: 3 }),
    });
    fc.assert(
      fc.property(any, any, any, (...three) => {
        const [a, b, c] = three.map((one) => waits(one.promised, one.oldest, one.owed)) as [
          Waits,
          Waits,
          Waits,
        ];
        const order = (x: Waits, y: Waits) => Math.sign(byPressing(x, y, NOW));
        expect(order(a, b) + order(b, a)).toBe(0);
        if (order(a, b) <= 0 && order(b, c) <= 0) expect(order(a, c)).toBeLessThanOrEqual(0);
        if (isBroken(a, NOW) && !isBroken(b, NOW)) expect(order(a, b)).toBe(-1);
      }),
    );
  });
});

describe("a teacher's own pace", () => {
  const taken = (handOutId: string, kind: string, ...seconds: number[]): Taken[] =>
    seconds.map((s) => ({ handOutId, kind, seconds: s }));
  test("of this very work, else of its kind, else of all, else unknown", () => {
    const all = [
      ...taken("a", "writing", 200, 300, 100),
      ...taken("b", "writing", 600),
      ...taken("c", "film", 60, 80),
    ];
    expect(paceOf(all, { handOutId: "a", kind: "writing" })).toBe(200);
    expect(paceOf(all, { handOutId: "b", kind: "writing" })).toBe(250);
    expect(paceOf(all, { handOutId: "c", kind: "film" })).toBe(150);
    expect(paceOf(all.slice(0, 2), { handOutId: "a", kind: "writing" })).toBeNull();
  });
  test("said in minutes", () => {
    expect([
      minutesFor(26, 200),
      minutesFor(1, 5),
      minutesFor(0, 200),
      minutesFor(3, null),
    ]).toEqual([87, 1, null, null]);
    expect([sayMinutes(59), sayMinutes(60), sayMinutes(87), sayMinutes(125)]).toEqual([
      "59 min",
      "1 h",
      "1 h 27",
      "2 h 05",
    ]);
  });
  test("the part that takes longest to look at says the kind", () => {
    expect([
      kindOfWork([{ kind: "writing" }, { kind: "film" }]),
      kindOfWork([{ kind: "writing" }]),
      kindOfWork([]),
    ]).toEqual(["film", "writing", "on paper"]);
  });
});
