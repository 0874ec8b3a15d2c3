import DiffMatchPatch from "diff-match-patch";

/**
 * What two lists share in the same order, in bounded time.
 *
 * The exact difference (Myers 1986) costs the length times the number of changes: right for a
 * paragraph, hours for a book whose words were shuffled. So lists whose product of lengths is large are first
 * cut at *anchors*, entries that stand once in each (Bram Cohen's patience difference), of which the longest
 * run in order is taken; the stretches between them are compared in the same way. What has no anchor
 * and is still too large is left unmatched and said to be so: the answer is then coarser, and never wrong.
 */
export type InOrder = {
  /** Pairs of indices, rising in both. */
  pairs: [number, number][];
  /** Stretches that were too large to be compared entry by entry. */
  leftOut: number;
};

/** Up to this product of lengths the exact difference is taken: some milliseconds at worst. */
const EXACT = 250_000;
/** Cuts within cuts; a text that needs more is made to need more. */
const DEEPEST = 14;

type Box = { a0: number; a1: number; b0: number; b1: number; depth: number };

/** @example inOrder(["a", "b", "c"], ["a", "x", "c"]).pairs // [[0, 0], [2, 2]] */
export function inOrder(a: readonly string[], b: readonly string[]): InOrder {
  const found: InOrder = { pairs: [], leftOut: 0 };
  const open: Box[] = [{ a0: 0, a1: a.length, b0: 0, b1: b.length, depth: 0 }];
  for (let box = open.pop(); box; box = open.pop()) open.push(...step(a, b, box, found));
  found.pairs.sort((x, y) => x[0] - y[0]);
  return found;
}

/** Settles what can be settled of one stretch; the rest comes back as smaller ones. */
function step(a: readonly string[], b: readonly string[], box: Box, found: InOrder): Box[] {
  const { a0, a1, b0, b1, depth } = trim(a, b, box, found.pairs);
  const size = (a1 - a0) * (b1 - b0);
  if (size === 0) return [];
  if (size <= EXACT) {
    for (const [i, j] of exactly(a.slice(a0, a1), b.slice(b0, b1)))
      found.pairs.push([a0 + i, b0 + j]);
    return [];
  }
  const anchors = depth < DEEPEST ? anchorsOf(a, b, { a0, a1, b0, b1, depth }) : [];
  if (anchors.length === 0) {
    found.leftOut += 1;
    return [];
  }
  found.pairs.push(...anchors);
  const ends = [...anchors, [a1, b1] as const];
  return ends.map(([i, j], n) => {
    const [fromA, fromB] = n === 0 ? [a0, b0] : [ends[n - 1]![0] + 1, ends[n - 1]![1] + 1];
    return { a0: fromA, a1: i, b0: fromB, b1: j, depth: depth + 1 };
  });
}

/** Without the equal entries at its two ends, which are pairs. */
function trim(
  a: readonly string[],
  b: readonly string[],
  { a0, a1, b0, b1, depth }: Box,
  pairs: [number, number][],
): Box {
  while (a0 < a1 && b0 < b1 && a[a0] === b[b0]) pairs.push([a0++, b0++]);
  while (a0 < a1 && b0 < b1 && a[a1 - 1] === b[b1 - 1]) pairs.push([--a1, --b1]);
  return { a0, a1, b0, b1, depth };
}

/**
 * Entries that stand once in each stretch, the longest run of them in order. Of single words a chance run is
 * taken for an anchor all too easily, so runs of four entries are looked for first, then of two, then one.
 */
function anchorsOf(a: readonly string[], b: readonly string[], box: Box): [number, number][] {
  for (const length of [4, 2, 1]) {
    const once = onlyOnce(b, box.b0, box.b1, length);
    const shared: [number, number][] = [];
    for (const [key, i] of onlyOnce(a, box.a0, box.a1, length)) {
      const j = once.get(key);
      if (i !== -1 && j !== undefined && j !== -1) shared.push([i, j]);
    }
    shared.sort((x, y) => x[0] - y[0]);
    const run = longestRising(shared.map(([, j]) => j)).map((n) => shared[n]!);
    // Four entries in a row are no chance. Of shorter ones a chance few, in no order, would cut the text anywhere.
    if (run.length > 0 && (length === 4 || run.length * 4 >= Math.max(8, shared.length)))
      return run;
  }
  return [];
}

/** Where each run of `length` entries begins, or -1 where it begins twice. */
function onlyOnce(
  list: readonly string[],
  from: number,
  to: number,
  length: number,
): Map<string, number> {
  const places = new Map<string, number>();
  for (let n = from; n + length <= to; n += 1) {
    const key = length === 1 ? list[n]! : list.slice(n, n + length).join("\u0000");
    places.set(key, places.has(key) ? -1 : n);
  }
  return places;
}

const differ = new DiffMatchPatch();
// No clock may decide what a difference is: the same two texts always give the same answer.
differ.Diff_Timeout = 0;

/** Myers' difference with chance agreements cleaned away: each entry becomes one character, and is never cut. */
function exactly(a: readonly string[], b: readonly string[]): [number, number][] {
  const codes = new Map<string, string>();
  const encode = (list: readonly string[]) =>
    list
      .map((entry) => {
        const known = codes.get(entry);
        if (known) return known;
        const code = codeOf(codes.size);
        codes.set(entry, code);
        return code;
      })
      .join("");
  const differences = differ.diff_main(encode(a), encode(b), false);
  differ.diff_cleanupSemantic(differences);
  const pairs: [number, number][] = [];
  let [i, j] = [0, 0];
  for (const [kind, run] of differences) {
    if (kind === 0) pairs.push(...steps(i, j, run.length));
    if (kind !== 1) i += run.length;
    if (kind !== -1) j += run.length;
  }
  return pairs.filter(([x, y]) => a[x] === b[y]);
}

const steps = (i: number, j: number, length: number): [number, number][] =>
  Array.from({ length }, (_, n) => [i + n, j + n]);

/**
 * The nth character that is no half of a pair of surrogates. Where there are more different entries than
 * characters, rare ones share one; whoever pairs them looks at the entries themselves.
 */
function codeOf(n: number): string {
  return String.fromCharCode(n < 0xd7ff ? n + 1 : 0xe000 + ((n - 0xd7ff) % 0x1fff));
}

/** Indices of one longest strictly rising run (patience sorting; Aldous and Diaconis 1999). */
export function longestRising(values: readonly number[]): number[] {
  const tails: number[] = [];
  const previous: number[] = [];
  values.forEach((value, n) => {
    let low = 0;
    let high = tails.length;
    while (low < high) {
      const middle = (low + high) >> 1;
      if (values[tails[middle]!]! < value) low = middle + 1;
      else high = middle;
    }
    previous[n] = low > 0 ? tails[low - 1]! : -1;
    tails[low] = n;
  });
  const run: number[] = [];
  for (let n = tails.at(-1) ?? -1; n !== -1; n = previous[n]!) run.push(n);
  return run.reverse();
}
