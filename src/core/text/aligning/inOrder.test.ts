import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import { chance, seeded, upTo } from "@demo/random";
import { inOrder, longestRising } from "./inOrder";
import { likelyPairs } from "./likelyPairs";

const shuffled = <T>(random: () => number, list: readonly T[]): T[] => {
  const all = [...list];
  for (let n = all.length - 1; n > 0; n -= 1) {
    const m = upTo(random, n);
    [all[n], all[m]] = [all[m]!, all[n]!];
  }
  return all;
};
const vocabulary = Array.from({ length: 900 }, (_, n) => `w${n}`);
const writing = (random: () => number, length: number) =>
  Array.from({ length }, () => vocabulary[upTo(random, vocabulary.length - 1)]!);

describe("what two lists share in order", () => {
  test("pairs rise in both, and join equal entries only, whatever the lists", () => {
    const list = fc.array(fc.constantFrom("a", "b", "c", "d", "e"), { maxLength: 60 });
    fc.assert(
      fc.property(list, list, (a, b) => {
        let [i, j] = [-1, -1];
        for (const [x, y] of inOrder(a, b).pairs) {
          expect(a[x]).toBe(b[y]);
          expect(x).toBeGreaterThan(i);
          expect(y).toBeGreaterThan(j);
          [i, j] = [x, y];
        }
      }),
    );
  });
  test.each([200, 3000, 20_000])(
    "of a list of %d that was edited, what was left standing is found",
    (length) => {
      const random = seeded(length);
      const before = writing(random, length);
      const after = before.filter(() => chance(random, 0.97));
      const standing = after.length;
      after.splice(Math.floor(length / 3), 0, ...writing(random, 40));
      const { pairs, leftOut } = inOrder(before, after);
      expect(pairs.length).toBeGreaterThan(standing * 0.97);
      expect(leftOut).toBe(0);
    },
  );
  // The textbook's longest common subsequence (Wagner and Fischer 1974), which looks at every pair.
  test("of lists too long for the exact way, hardly less is found than there is", () => {
    const random = seeded(8);
    const before = writing(random, 1400);
    const after = before.filter(() => chance(random, 0.8));
    const lengths = Array.from(
      { length: before.length + 1 },
      () => new Int32Array(after.length + 1),
    );
    before.forEach((entry, i) =>
      after.forEach((other, j) => {
        lengths[i + 1]![j + 1] =
          entry === other
            ? lengths[i]![j]! + 1
            : Math.max(lengths[i]![j + 1]!, lengths[i + 1]![j]!);
      }),
    );
    const most = lengths[before.length]![after.length]!;
    expect(inOrder(before, after).pairs.length).toBeGreaterThan(most * 0.95);
  });
  test("a shuffled book is left unmatched, and said to be", () => {
    const random = seeded(3);
    const before = writing(random, 20_000);
    const { pairs, leftOut } = inOrder(before, shuffled(random, before));
    expect(leftOut).toBeGreaterThan(0);
    expect(pairs.length).toBeLessThan(2000);
  });
  test("a small one is compared to the end", () =>
    expect(inOrder(["a", "b", "c"], ["a", "x", "c"])).toEqual({
      pairs: [
        [0, 0],
        [2, 2],
      ],
      leftOut: 0,
    }));
  test("the longest rising run, of one and of none", () => {
    expect(longestRising([3, 1, 2, 5, 4])).toEqual([1, 2, 4]);
    expect(longestRising([])).toEqual([]);
  });
});

describe("pairs that may be alike", () => {
  const sets = (random: () => number, count: number) =>
    Array.from({ length: count }, () => new Set(writing(random, 12)));
  test("of few sets are all; of many no more than some for each", () => {
    const random = seeded(5);
    expect(likelyPairs(sets(random, 10), sets(random, 12))).toHaveLength(120);
    const [many, others] = [sets(random, 4000), sets(random, 4000)];
    const pairs = likelyPairs(many, others);
    expect(pairs.length).toBeLessThanOrEqual(4000 * 8);
  });
  test("hold each set's own copy, wherever it went", () => {
    const random = seeded(6);
    // Rare entries beside common ones, as sentences have.
    const many = Array.from(
      { length: 3000 },
      (_, n) => new Set([...writing(random, 4), `only ${n}`, `${n} alone`]),
    );
    const order = shuffled(
      random,
      many.map((_, n) => n),
    );
    const pairs = new Set(
      likelyPairs(
        many,
        order.map((n) => many[n]!),
      ).map(([i, j]) => `${i} ${order[j]}`),
    );
    expect(many.every((_, n) => pairs.has(`${n} ${n}`))).toBe(true);
  });
});
