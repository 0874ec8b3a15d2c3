import type { Alignment } from "./align";
import { matchWords } from "./alignWords";
import type { Cells } from "./cells";
import { longestRising } from "./inOrder";
import { indicesIn } from "./indices";
import type { Range } from "../selectors";

/** A gap may grow by so much and still be the same place: what was put in, and not what lies between far things. */
const GROWTH = { factor: 4, words: 60 };

/**
 * Compares what stands between words that are linked already: the open words between two neighbours answer to
 * those between their counterparts. It holds for what stayed and for what moved as a whole.
 */
export function fillGaps(alignment: Alignment, cells: Cells): boolean {
  const { beforeTokens, afterTokens, toAfter, toBefore } = alignment;
  let whole = true;
  let left = -1;
  for (let n = 0; n <= beforeTokens.length; n += 1) {
    if (n < beforeTokens.length && toAfter[n] === -1) continue;
    const from = left === -1 ? -1 : toAfter[left]!;
    const to = n === beforeTokens.length ? afterTokens.length : toAfter[n]!;
    const [earlier, later] = [openBetween(toAfter, left, n), openBetween(toBefore, from, to)];
    const near = to - from - 1 <= earlier.length * GROWTH.factor + GROWTH.words;
    const several = severalCells(cells.before, earlier) && severalCells(cells.after, later);
    if (earlier.length > 0 && near && !several)
      whole = matchWords(alignment, earlier, later) && whole;
    left = n;
  }
  return whole;
}

/**
 * Compares the open words of lines that answer to each other, between the words of theirs that are linked in order.
 */
export function fillStretch(
  alignment: Alignment,
  stretch: { before: Range[]; after: Range[] },
): boolean {
  const { beforeTokens, afterTokens, toAfter, toBefore } = alignment;
  const earlier = indicesIn(beforeTokens, stretch.before);
  const later = indicesIn(afterTokens, stretch.after);
  const inside = new Set(later);
  const linked = earlier.filter((n) => inside.has(toAfter[n]!));
  const steady = longestRising(linked.map((n) => toAfter[n]!)).map((n) => linked[n]!);
  let whole = true;
  let [a, b] = [0, 0];
  for (const n of [...steady, -1]) {
    const [openBefore, openAfter]: number[][] = [[], []];
    for (; a < earlier.length && earlier[a] !== n; a += 1)
      if (toAfter[earlier[a]!] === -1) openBefore!.push(earlier[a]!);
    for (; b < later.length && (n === -1 || later[b] !== toAfter[n]); b += 1)
      if (toBefore[later[b]!] === -1) openAfter!.push(later[b]!);
    whole = matchWords(alignment, openBefore!, openAfter!) && whole;
    [a, b] = [a + 1, b + 1];
  }
  return whole;
}

function openBetween(map: Int32Array, from: number, to: number): number[] {
  const open: number[] = [];
  for (let n = from + 1; n < to; n += 1) if (map[n] === -1) open.push(n);
  return open;
}

/** Whether the words reach into a short line and out of it. */
function severalCells(cells: Int32Array, indices: readonly number[]): boolean {
  const first = indices[0];
  return first !== undefined && indices.some((n) => cells[n] !== cells[first]);
}
