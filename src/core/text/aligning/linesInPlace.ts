import { wordLikeness, WORDS_ALIKE } from "./alignWords";
import { columnsOf, type Row } from "./columns";
import { inOrder, longestRising } from "./inOrder";

type Pair = [number, number];

/** Of fewer words a line may be a cell of a table. */
export const SHORT = 4;

/**
 * Equal lines that kept their order. What stands once in either text is an anchor: a label holds its row, so that
 * equal numbers around it are not taken for each other. Between two anchors as many short lines as there were are
 * the cells they were, each in its place; anything else is compared as a list.
 *
 * @param before the keys of the lines (see `lineKey`), in order
 * @returns pairs of indices, rising in both
 */
export function linesInPlace(before: readonly string[], after: readonly string[]): Pair[] {
  const rows = rowsBetween(before, after, anchorsOf(before, after));
  const columns = columnsOf(rows);
  return rows.flatMap((row): Pair[] => {
    const cells = columns(row) ?? between(row.before, row.after);
    const placed = cells.map(([a, b]): Pair => [a + row.from[0], b + row.from[1]]);
    return row.anchor ? [...placed, row.anchor] : placed;
  });
}

/** The lines of either text between two anchors, and the anchor they stand before. */
function rowsBetween(
  before: readonly string[],
  after: readonly string[],
  anchors: readonly Pair[],
): (Row & { from: Pair; anchor: Pair | null })[] {
  let [i, j] = [0, 0];
  const ends: (Pair | null)[] = [...anchors, null];
  return ends.map((anchor) => {
    const [x, y] = anchor ?? [before.length, after.length];
    const row = {
      before: before.slice(i, x),
      after: after.slice(j, y),
      from: [i, j] as Pair,
      anchor,
    };
    [i, j] = [x + 1, y + 1];
    return row;
  });
}

function anchorsOf(before: readonly string[], after: readonly string[]): Pair[] {
  const shared = onceInBoth(before, after);
  return longestRising(shared.map(([, j]) => j)).map((n) => shared[n]!);
}

/** Lines that stand exactly once in either text, in the order of the earlier one. */
export function onceInBoth(before: readonly string[], after: readonly string[]): Pair[] {
  const twin = onlyOnce(after);
  return [...onlyOnce(before)].flatMap(([key, i]): Pair[] => {
    const j = twin.get(key);
    return i === null || j === undefined || j === null ? [] : [[i, j]];
  });
}

function onlyOnce(keys: readonly string[]): Map<string, number | null> {
  const places = new Map<string, number | null>();
  keys.forEach((key, n) => places.set(key, places.has(key) ? null : n));
  return places;
}

export const isShort = (key: string): boolean => key.split(" ", SHORT).length < SHORT;

function between(before: readonly string[], after: readonly string[]): Pair[] {
  if (before.length === 0 || after.length === 0) return [];
  const listed = inTheirRows(inOrder(before, after).pairs, before, after);
  if (before.length !== after.length || ![...before, ...after].every(isShort)) return listed;
  const placed = cellsInPlace(before, after);
  // Where hardly any stayed, what stood here was put in or taken out and not corrected.
  return placed.length * 2 >= Math.min(before.length, listed.length + 1) ? placed : listed;
}

export const hasLetters = (key: string): boolean => /\p{L}/u.test(key);

/** Of as many cells as there were those that stayed: the row's name may be mended, but must not be another's. */
function cellsInPlace(before: readonly string[], after: readonly string[]): Pair[] {
  let sameRow = true;
  return before.flatMap((key, n): Pair[] => {
    const is = after[n]!;
    if (hasLetters(key) || hasLetters(is)) sameRow = key === is || isMendedName(key, is);
    return sameRow && key === is ? [[n, n]] : [];
  });
}

/**
 * Without numbers that only happen to be equal: a number is a cell of the row whose name stands before it, so it
 * stands as far behind that as it did, or behind a number that stayed; where no names stand, before one too.
 */
function inTheirRows(pairs: Pair[], before: readonly string[], after: readonly string[]): Pair[] {
  const [names, namesNow] = [namesOf(before), namesOf(after)];
  const kept = new Map<number, number>([
    [-1, -1],
    [before.length, after.length],
  ]);
  const sameCell = ([i, j]: Pair) => {
    const [name, nameNow] = [names[i]!, namesNow[j]!];
    const sameName = kept.get(name) === nameNow || isMendedName(before[name], after[nameNow]);
    return sameName && i - name === j - nameNow;
  };
  const isKept = (pair: Pair, step: number) => kept.get(pair[0] - step) === pair[1] - step;
  for (const pair of pairs)
    if (hasLetters(before[pair[0]]!) || isKept(pair, 1) || sameCell(pair)) kept.set(...pair);
  if (![...before, ...after].some(hasLetters))
    for (const pair of [...pairs].reverse()) if (isKept(pair, -1)) kept.set(...pair);
  return pairs.filter(([i, j]) => kept.get(i) === j);
}

/** For each line the last one before it with letters in it, or -1. */
function namesOf(keys: readonly string[]): number[] {
  let name = -1;
  return keys.map((key, n) => {
    const own = name;
    if (hasLetters(key)) name = n;
    return own;
  });
}

const isMendedName = (was: string | undefined, is: string | undefined): boolean =>
  was !== undefined && is !== undefined && hasLetters(was) && wordLikeness(was, is) >= WORDS_ALIKE;
