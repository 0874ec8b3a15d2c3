import { expect, test } from "@jest/globals";
import fc from "fast-check";
import { layOutMargin } from "./marginLayout";

const lay = (notes: [wanted: number, height: number][], gap = 4) => [
  ...layOutMargin(
    notes.map(([wanted, height], n) => ({ id: `${n}`, wanted, height })),
    gap,
  ).values(),
];

test("notes with room stand level with their words", () =>
  expect(
    lay([
      [0, 20],
      [50, 20],
      [200, 20],
    ]),
  ).toEqual([0, 50, 200]));
test("two for the same line share the displacement, where there is room above", () =>
  expect(
    lay([
      [100, 20],
      [100, 20],
    ]),
  ).toEqual([88, 112]));
test("nothing stands above the top", () =>
  expect(
    lay([
      [0, 20],
      [0, 20],
      [0, 20],
    ]),
  ).toEqual([0, 24, 48]));

const anyNotes = fc
  .array(fc.tuple(fc.integer({ min: 0, max: 3000 }), fc.integer({ min: 10, max: 120 })), {
    minLength: 1,
    maxLength: 60,
  })
  .map((notes) => notes.sort((a, b) => a[0] - b[0]));

test("none over another, in order, whatever is wanted", () => {
  fc.assert(
    fc.property(anyNotes, (notes) => {
      const tops = lay(notes);
      return tops.every(
        (top, n) => top >= 0 && (n === 0 || top >= tops[n - 1]! + notes[n - 1]![1] + 4 - 1e-6),
      );
    }),
  );
});

test("no small move of any group makes it better: it is the least", () => {
  const cost = (notes: [number, number][], tops: number[]) =>
    tops.reduce((sum, top, n) => sum + (top - notes[n]![0]) ** 2, 0);
  fc.assert(
    fc.property(anyNotes, fc.nat(), fc.nat(), fc.constantFrom(-1, 1, -5, 5), (notes, a, b, by) => {
      const tops = lay(notes);
      const [from, to] = [a % notes.length, b % notes.length].sort((x, y) => x - y) as [
        number,
        number,
      ];
      const moved = tops.map((top, n) => (n >= from && n <= to ? top + by : top));
      const allowed = moved.every(
        (top, n) => top >= 0 && (n === 0 || top >= moved[n - 1]! + notes[n - 1]![1] + 4),
      );
      return !allowed || cost(notes, moved) >= cost(notes, tops) - 1e-6;
    }),
  );
});
