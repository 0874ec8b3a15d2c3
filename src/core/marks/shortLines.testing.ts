import { chance, someOf, upTo, type Random } from "@demo/random";
import type { Text, Word } from "./laidOut.testing";

/** Work in lines of few words: tables, lists of answers, words to learn, verse. Each line is a paragraph of one sentence. */
export type Grid = Word[][];

const WORDS =
  "anchor barge current delta estuary ferry gauge harbour inlet jetty keel lagoon mast neap oar pilot quay rudder shoal tide undertow vessel wake yawl".split(
    " ",
  );

/** Rows of a label and numbers that come up again and again, as measurements do. */
export function numbersTable(random: Random, rows: number, columns: number): Grid {
  let id = 0;
  return Array.from({ length: rows }, (_, row) => [
    { id: id++, text: `Day ${row + 1}` },
    ...Array.from({ length: columns }, () => ({ id: id++, text: String(upTo(random, 15)) })),
  ]);
}

export function answers(random: Random, rows: number): Grid {
  let id = 0;
  return Array.from({ length: rows }, (_, row) => [
    { id: id++, text: `${row + 1}` },
    { id: id++, text: chance(random, 0.5) ? "yes" : "no" },
  ]);
}

export const vocabulary = (random: Random): Grid =>
  shuffled(random, WORDS).map((text, id) => [{ id, text }]);

export function shuffled<T>(random: Random, list: readonly T[]): T[] {
  const rest = [...list];
  return list.map(() => rest.splice(upTo(random, rest.length), 1)[0]!);
}

export const asText = (grid: Grid): Text => grid.flatMap((row) => row.map((word) => [[word]]));

/** Some cells are other numbers now. */
export const corrected = (grid: Grid, random: Random, wrong = 0.1): Grid =>
  grid.map((row) =>
    row.map((cell, n) =>
      n > 0 && chance(random, wrong) ? { id: -1, text: String(100 + upTo(random, 800)) } : cell,
    ),
  );

/** Some answers are the other answer now. */
export const changedMind = (grid: Grid, random: Random): Grid =>
  grid.map((row) =>
    row.map((cell, n) =>
      n > 0 && chance(random, 0.15) ? { id: -1, text: cell.text === "yes" ? "no" : "yes" } : cell,
    ),
  );

export function rowsPutIn(grid: Grid, random: Random): Grid {
  const rows = [...grid];
  for (let n = 0; n < 2; n += 1) {
    const like = grid[upTo(random, grid.length)]!;
    const fresh = like.map((cell, k) => ({
      id: -1,
      text: k === 0 ? `Extra ${n}` : String(upTo(random, 15)),
    }));
    rows.splice(upTo(random, rows.length + 1), 0, fresh);
  }
  return rows;
}

export const rowsTakenOut = (grid: Grid, random: Random): Grid => {
  const gone = new Set(someOf(random, [...grid.keys()], 2));
  return grid.filter((_, n) => !gone.has(n));
};

export const columnPutIn = (grid: Grid, random: Random): Grid => {
  const at = 1 + upTo(random, grid[0]!.length);
  return grid.map((row) => [
    ...row.slice(0, at),
    { id: -1, text: String(upTo(random, 15)) },
    ...row.slice(at),
  ]);
};

export const columnTakenOut = (grid: Grid, random: Random): Grid => {
  const at = 1 + upTo(random, grid[0]!.length - 1);
  return grid.map((row) => row.filter((_, n) => n !== at));
};
