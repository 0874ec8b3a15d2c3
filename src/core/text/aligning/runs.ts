import type { Alignment } from "./align";
import type { Cells } from "./cells";
import type { Token } from "../tokens";

/** So many words in a row that stand once in each text are the same words, wherever they stand. */
const RUN = 7;

/**
 * Links runs of words that stand exactly once among the open words of either text, as far as they go on alike.
 * It asks nothing of lines and sentences, so it follows what was wrapped anew, split, merged, or moved.
 */
export function linkUniqueRuns(alignment: Alignment, cells: Cells, paired: Links): void {
  const { beforeTokens, afterTokens, toAfter, toBefore } = alignment;
  const later = placesOf(afterTokens, toBefore);
  for (const [run, i] of placesOf(beforeTokens, toAfter)) {
    const j = later.get(run) ?? NONE;
    if (i < 0 || j < 0 || !isSame(alignment, i, j)) continue;
    const { from, to } = trimmed(wholeRun(alignment, i, j), { i, j, cells, paired });
    for (let n = from; n < to; n += 1) {
      toAfter[i + n] = j + n;
      toBefore[j + n] = i + n;
    }
  }
}

type Links = Pick<Alignment, "toAfter" | "toBefore">;
/** How far before and behind its first word a run goes. */
type Extent = { from: number; to: number };

/** Whether two words are open, and one word. */
const isSame = (
  { beforeTokens, afterTokens, toAfter, toBefore }: Alignment,
  i: number,
  j: number,
): boolean =>
  toAfter[i] === -1 && toBefore[j] === -1 && beforeTokens[i]?.key === afterTokens[j]?.key;

function wholeRun(alignment: Alignment, i: number, j: number): Extent {
  let [from, to] = [0, 1];
  while (isSame(alignment, i + to, j + to)) to += 1;
  while (isSame(alignment, i + from - 1, j + from - 1)) from -= 1;
  return { from, to };
}

/**
 * "Day" of "Day 2" is not that of "Day 3": of a short line a run takes the whole or nothing. And what ends it must
 * not be another line's, by where it stands.
 */
function trimmed(
  { from, to }: Extent,
  { i, j, cells, paired }: { i: number; j: number; cells: Cells; paired: Links },
): Extent {
  const isNone = (at: number, step: 1 | -1) =>
    isOther(paired.toAfter[i + at]!, j + at) ||
    isOther(paired.toBefore[j + at]!, i + at) ||
    cutsCell(cells.before, i + at, step) ||
    cutsCell(cells.after, j + at, step);
  while (from < to && isNone(from, -1)) from += 1;
  while (from < to && isNone(to - 1, 1)) to -= 1;
  return { from, to };
}

const isOther = (partner: number, word: number): boolean => partner !== -1 && partner !== word;

/** Whether a short line goes on from this word. */
const cutsCell = (cells: Int32Array, at: number, step: 1 | -1): boolean =>
  cells[at] !== -1 && cells[at] === cells[at + step];

const NONE = -1;

/** Where each run of open words begins; −1 where it begins more than once. */
function placesOf(tokens: readonly Token[], map: Int32Array): Map<string, number> {
  const places = new Map<string, number>();
  let open = 0;
  for (let n = 0; n < tokens.length; n += 1) {
    open = map[n] === -1 ? open + 1 : 0;
    if (open < RUN) continue;
    const from = n - RUN + 1;
    const run = keysOf(tokens, from, n + 1);
    places.set(run, places.has(run) ? NONE : from);
  }
  return places;
}

function keysOf(tokens: readonly Token[], from: number, to: number): string {
  let keys = "";
  for (let n = from; n < to; n += 1) keys += `${tokens[n]!.key} `;
  return keys;
}
