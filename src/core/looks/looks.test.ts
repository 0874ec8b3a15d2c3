import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import { drawPairs } from "./pairs";
import { isOpen, leastAsked, mayReport, saidIs } from "./shown";

const people = fc.uniqueArray(fc.string({ minLength: 1, maxLength: 4 }), { maxLength: 40 });
const seeds = fc.array(fc.double({ min: 0, max: 0.999999, noNaN: true }), {
  minLength: 1,
  maxLength: 8,
});
const drawnFrom = (seed: readonly number[]) => {
  let n = 0;
  return () => seed[n++ % seed.length]!;
};

/** A derangement (a permutation without a fixed point): the textbook's name for "everyone reads another's, once". */
function expectEveryoneOnce(here: readonly string[], pairs: ReadonlyMap<string, string>) {
  if (here.length < 2) return expect(pairs.size).toBe(0);
  expect([...pairs.keys()].sort()).toEqual([...here].sort());
  expect([...pairs.values()].sort()).toEqual([...here].sort());
  for (const [writer, reader] of pairs) expect(reader).not.toBe(writer);
}

describe("pairs", () => {
  test("everyone gives one and gets one, and nobody reads their own", () => {
    fc.assert(
      fc.property(people, seeds, (here, seed) =>
        expectEveryoneOnce(here, drawPairs(here, new Map(), drawnFrom(seed))),
      ),
    );
  });

  test("after some left and others came it still holds, however often", () => {
    fc.assert(
      fc.property(fc.array(people, { minLength: 1, maxLength: 6 }), seeds, (classes, seed) => {
        const random = drawnFrom(seed);
        let pairs = new Map<string, string>();
        for (const here of classes) {
          pairs = drawPairs(here, pairs, random);
          expectEveryoneOnce(here, pairs);
        }
      }),
    );
  });

  test("nothing changes where nobody came or left", () => {
    fc.assert(
      fc.property(people, seeds, (here, seed) => {
        const random = drawnFrom(seed);
        const pairs = drawPairs(here, new Map(), random);
        expect(drawPairs(here, pairs, random)).toEqual(pairs);
      }),
    );
  });

  test("one who comes later takes nobody's reader who was asked, while another is left", () => {
    const pairs = drawPairs(["a", "b", "c"], new Map(), () => 0);
    const [first, second, third] = [...pairs.keys()] as [string, string, string];
    const next = drawPairs(["a", "b", "c", "d"], pairs, () => 0, new Set([first, second]));
    expect(next.get(first)).toBe(pairs.get(first));
    expect(next.get(second)).toBe(pairs.get(second));
    expect(next.get(third)).toBe("d");
  });
});

test("what is open ends by its date, or before", () => {
  const at = (hour: number) => new Date(Date.UTC(2026, 9, 14, hour));
  expect(isOpen({ endsAt: at(12), endedAt: null }, at(11))).toBe(true);
  expect(isOpen({ endsAt: at(12), endedAt: null }, at(12))).toBe(false);
  expect(isOpen({ endsAt: at(12), endedAt: at(10) }, at(11))).toBe(false);
});

test("a student's word waits where a teacher reads first; a teacher's never does", () => {
  expect(saidIs("reader", true)).toBe("waits");
  expect(saidIs("reader", false)).toBe("shown");
  expect(saidIs("co-teacher", true)).toBe("shown");
});

test("what another said can be reported once, by students", () => {
  const said = { mine: false, taken: false, reported: false };
  expect(mayReport("reader", said)).toBe(true);
  expect(mayReport("student", said)).toBe(true);
  expect(mayReport("owner", said)).toBe(false);
  expect(mayReport("reader", { ...said, mine: true })).toBe(false);
  expect(mayReport("reader", { ...said, reported: true })).toBe(false);
  expect(mayReport("reader", { ...said, taken: true })).toBe(false);
});

test("who has the fewest to read is asked", () => {
  expect(leastAsked(new Map([["a", 2], ["b", 0], ["c", 0]]), () => 0.9)).toBe("c"); // prettier-ignore
  expect(leastAsked(new Map(), () => 0.5)).toBeNull();
});
