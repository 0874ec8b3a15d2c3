import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import { freePeriods, planReading, type Slot, type ToRead } from "./readingPlan";

const at = (minute: number) => new Date(Date.UTC(2026, 9, 12, 12, minute));
const slot = (from: number, to: number): Slot => ({ starts: at(from), ends: at(to) });
const work = (id: string, pieces: number, promised: number | null, minutes = 5): ToRead => ({
  ...{ handOutId: id, pieces, secondsEach: minutes * 60 },
  promisedAt: promised === null ? null : at(promised),
});

describe("a reading plan", () => {
  test("what was promised first is read first; a piece is not parted between two stretches", () => {
    const { sittings, outlooks } = planReading(
      [work("later", 3, 500), work("sooner", 4, 90), work("never", 1, null)],
      [slot(0, 12), slot(60, 100)],
    );
    expect(
      sittings.map(({ starts, ends, reads }) => [
        starts.getTime() - at(0).getTime(),
        ends.getTime() - at(0).getTime(),
        reads.map((read) => `${read.pieces} ${read.handOutId}`),
      ]),
    ).toEqual([
      [0, 10 * 60_000, ["2 sooner"]],
      [60 * 60_000, 90 * 60_000, ["2 sooner", "3 later", "1 never"]],
    ]);
    expect(outlooks).toMatchObject([
      { handOutId: "sooner", late: 0, doneAt: at(70) },
      { handOutId: "later", late: 0, doneAt: at(85) },
      { handOutId: "never", late: 0, doneAt: at(90) },
    ]);
  });

  test("what does not fit is counted in pieces and minutes; a broken promise is late in all", () => {
    const { outlooks } = planReading([work("a", 6, 20), work("b", 2, -60)], [slot(0, 60)]);
    expect(outlooks).toMatchObject([
      { handOutId: "b", late: 2, doneAt: at(10), minutesShort: 10 },
      { handOutId: "a", late: 4, doneAt: at(40), minutesShort: 20 },
    ]);
    expect(planReading([work("a", 3, 20)], [slot(0, 7)]).outlooks).toMatchObject([
      { late: 2, doneAt: null, minutesShort: 10 },
    ]);
    expect(planReading([work("a", 3, 20)], []).outlooks).toMatchObject([{ late: 3, doneAt: null }]);
  });

  const works = fc.array(
    fc.record({
      pieces: fc.integer({ min: 1, max: 8 }),
      promised: fc.integer({ min: 1, max: 90 }),
    }),
    { minLength: 1, maxLength: 4 },
  );
  const gaps = fc.array(
    fc.tuple(fc.integer({ min: 1, max: 15 }), fc.integer({ min: 1, max: 15 })),
    {
      maxLength: 5,
    },
  );
  const slotsFrom = (all: readonly [number, number][]): Slot[] => {
    let from = 0;
    return all.map(([pause, length]) => {
      const made = slot(from + pause, from + pause + length);
      from += pause + length;
      return made;
    });
  };
  const orders = <T>(all: readonly T[]): T[][] =>
    all.length < 2
      ? [[...all]]
      : all.flatMap((one, n) =>
          orders(all.filter((_, m) => m !== n)).map((rest) => [one, ...rest]),
        );

  test("where any order keeps all promises, this one does (property; Jackson's rule, from memory)", () => {
    fc.assert(
      fc.property(works, gaps, (given, free) => {
        const slots = slotsFrom(free);
        const toRead = given.map(({ pieces, promised }, n) => work(String(n), pieces, promised, 1));
        // A piece takes a minute here: the ends of all free minutes, in their order.
        const ends = slots.flatMap(({ starts, ends: end }) => {
          const minutes = (end.getTime() - starts.getTime()) / 60_000;
          return Array.from({ length: minutes }, (_, n) => starts.getTime() + (n + 1) * 60_000);
        });
        const keepsAll = orders(toRead).some((order) => {
          let used = 0;
          return order.every(({ pieces, promisedAt }) => {
            used += pieces;
            return used <= ends.length && ends[used - 1]! <= promisedAt!.getTime();
          });
        });
        const late = planReading(toRead, slots).outlooks.some((outlook) => outlook.late > 0);
        expect(late).toBe(!keepsAll);
      }),
    );
  });

  test("nothing is read twice, outside of free time, or more than there is (property)", () => {
    fc.assert(
      fc.property(works, gaps, (given, free) => {
        const slots = slotsFrom(free);
        const toRead = given.map(({ pieces, promised }, n) => work(String(n), pieces, promised, 3));
        const { sittings } = planReading(toRead, slots);
        for (const { starts, ends, reads } of sittings) {
          const within = slots.find((one) => one.starts.getTime() === starts.getTime())!;
          expect(ends.getTime()).toBeLessThanOrEqual(within.ends.getTime());
          const minutes = reads.reduce((sum, read) => sum + read.pieces * 3, 0);
          expect(ends.getTime() - starts.getTime()).toBe(minutes * 60_000);
        }
        for (const { handOutId, pieces } of toRead) {
          const read = sittings
            .flatMap((one) => one.reads)
            .filter((r) => r.handOutId === handOutId);
          expect(read.reduce((sum, r) => sum + r.pieces, 0)).toBeLessThanOrEqual(pieces);
        }
      }),
    );
  });
});

test("free periods are the gaps between lessons, not breaks, and not whole afternoons", () => {
  const lesson = (weekday: number, starts: string, ends: string) => ({ weekday, starts, ends });
  expect(
    freePeriods([
      ...[lesson(1, "10:40", "11:30"), lesson(1, "09:00", "09:50"), lesson(1, "11:35", "12:20")],
      ...[lesson(2, "08:00", "08:50"), lesson(2, "14:00", "14:50")],
      ...[lesson(3, "08:00", "10:00"), lesson(3, "08:30", "09:00"), lesson(3, "10:30", "11:00")],
    ]),
  ).toEqual([lesson(1, "09:50", "10:40"), lesson(3, "10:00", "10:30")]);
  expect(freePeriods([])).toEqual([]);
});
