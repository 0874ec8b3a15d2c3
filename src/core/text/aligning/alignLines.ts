import type { Range } from "../selectors";
import { ALL_PAIRS, likelyPairs } from "./likelyPairs";
import { hasLetters, linesInPlace } from "./linesInPlace";
import { movedLines } from "./movedLines";
import { lineRanges, tokens } from "../tokens";

/** Lines of an earlier text that answer to lines of a later one; several where one was split or two were merged. */
export type Stretch = {
  before: Range[];
  after: Range[];
  /** An equal line that was found elsewhere, and not where it stood. */
  elsewhere?: true;
};

/** Share of a line's word pairs that must stand in the other for the two to be the same line, changed. */
export const LINES_ALIKE = 0.3;

/** A heading or a cell of fewer word pairs than this is compared by single words, and by length too. */
export const FEW = 3;

/**
 * Pairs the lines of two texts. Equal lines are paired *in place* first, along the longest run that keeps its
 * order, so that of three equal cells each stays itself; only what is left is looked for elsewhere.
 */
export function pairLines(before: string, after: string): Stretch[] {
  const equal = equalLines(before, after);
  const { earlier, later, pairs, inPlace } = equal;
  const rest = (ranges: Range[], used: readonly number[], placed: readonly number[]): Rest[] => {
    const [taken, fixed] = [new Set(used), new Set(placed)];
    let gap = 0;
    return ranges.flatMap((range, n) => {
      if (fixed.has(n)) gap += 1;
      return taken.has(n) ? [] : [{ range, gap }];
    });
  };
  const [i, j] = [0, 1] as const;
  const of = (list: readonly [number, number][], side: 0 | 1) => list.map((pair) => pair[side]);
  return [
    ...stretchesOf(equal),
    ...joinAlike(
      { text: before, lines: rest(earlier, of(pairs, i), of(inPlace, i)) },
      { text: after, lines: rest(later, of(pairs, j), of(inPlace, j)) },
    ),
  ];
}

/** A line without an equal, and how many that kept their place stand before it: in both texts the same in one gap. */
type Rest = { range: Range; gap: number };

/** The equal lines alone. */
export const pairEqualLines = (before: string, after: string): Stretch[] =>
  stretchesOf(equalLines(before, after));

type Pairs = [number, number][];
type EqualLines = { earlier: Range[]; later: Range[]; pairs: Pairs; inPlace: Pairs };

const stretchesOf = ({ earlier, later, pairs, inPlace }: EqualLines): Stretch[] =>
  pairs.map(([i, j], n) => ({
    before: [earlier[i]!],
    after: [later[j]!],
    ...(n < inPlace.length ? {} : { elsewhere: true as const }),
  }));

function equalLines(before: string, after: string): EqualLines {
  const [earlier, later] = [lineRanges(before), lineRanges(after)];
  const keysBefore = earlier.map((range) => lineKey(before, range));
  const keysAfter = later.map((range) => lineKey(after, range));
  const inPlace = linesInPlace(keysBefore, keysAfter);
  const moved = movedLines(keysBefore, keysAfter, inPlace);
  return { earlier, later, pairs: [...inPlace, ...moved], inPlace };
}

type Lines = { text: string; lines: readonly Rest[] };

/** Lines that hold enough of each other's word pairs, joined into stretches (connected groups). */
function joinAlike(earlier: Lines, later: Lines): Stretch[] {
  const pairsOf = ({ text, lines }: Lines) => lines.map(({ range }) => shingles(text, range));
  const [shinglesBefore, shinglesAfter] = [pairsOf(earlier), pairsOf(later)];
  const wordsOf = ({ text, lines }: Lines, pairs: readonly Set<string>[]) =>
    lines.map(({ range }, n) => shortWords(text, range, pairs[n]!));
  const wordsBefore = wordsOf(earlier, shinglesBefore);
  const wordsAfter = wordsOf(later, shinglesAfter);
  const scored = (i: number, j: number): Candidate => {
    const [a, b] = [shinglesBefore[i]!, shinglesAfter[j]!];
    if (a.size >= FEW && b.size >= FEW) return { i, j, score: overlap(a, b) };
    // Equal ones were looked at, and are not each other; and a number is like no other number.
    if (setsEqual(wordsBefore[i]!, wordsAfter[j]!) || isNumber(a) || isNumber(b))
      return { i, j, score: 0 };
    // What says so little may be anything's like: it is the same line only where it stood.
    const inPlace = earlier.lines[i]!.gap === later.lines[j]!.gap;
    return { i, j, score: inPlace ? diceOf(wordsBefore[i]!, wordsAfter[j]!) : 0 };
  };
  const many = shinglesBefore.length * shinglesAfter.length > ALL_PAIRS;
  const candidates = [
    ...likelyPairs(shinglesBefore, shinglesAfter),
    ...(many ? likelyPairs(wordsBefore, wordsAfter) : []),
  ]
    .map(([i, j]) => scored(i, j))
    .filter(({ score }) => score > LINES_ALIKE);
  candidates.sort((x, y) => y.score - x.score || Math.abs(x.i - x.j) - Math.abs(y.i - y.j));

  return group(candidates, shinglesBefore, shinglesAfter).map((indices) => ({
    before: indices.before.sort(byPlace).map((n) => earlier.lines[n]!.range),
    after: indices.after.sort(byPlace).map((n) => later.lines[n]!.range),
  }));
}

type Candidate = { i: number; j: number; score: number };
const byPlace = (a: number, b: number) => a - b;

/**
 * The best counterpart of each side is taken; a further one joins only if it brings word pairs that
 * nobody in the stretch accounts for yet, as the other half of a split paragraph does.
 */
function group(
  candidates: readonly Candidate[],
  shinglesBefore: readonly ReadonlySet<string>[],
  shinglesAfter: readonly ReadonlySet<string>[],
): { before: number[]; after: number[] }[] {
  const groupOfLater = new Map<number, number>();
  const groupOfEarlier = new Map<number, number>();
  const groups: { before: number[]; after: number[] }[] = [];
  const claims = claimsOf();
  for (const { i, j } of candidates) {
    const gi = groupOfEarlier.get(i);
    const gj = groupOfLater.get(j);
    if (gi !== undefined && gj !== undefined) continue;
    const [a, b] = [shinglesBefore[i]!, shinglesAfter[j]!];
    const shared = [...a].filter((s) => b.has(s));
    const enough = LINES_ALIKE * Math.min(a.size, b.size);
    if (!claims.claim([`b${i}`, `a${j}`], shared, enough)) continue;
    const joins = gi ?? gj ?? groups.push({ before: [], after: [] }) - 1;
    if (gi === undefined) {
      groupOfEarlier.set(i, joins);
      groups[joins]!.before.push(i);
    }
    if (gj === undefined) {
      groupOfLater.set(j, joins);
      groups[joins]!.after.push(j);
    }
  }
  return groups;
}

/** The word pairs that lines of either side account for already. */
function claimsOf() {
  const claimed = new Map<string, Set<string>>();
  return {
    /** Claims the pairs for both lines, unless one has some already and too few of these are new. */
    claim(lines: readonly string[], shared: readonly string[], enough: number): boolean {
      const own = lines.map((line) => claimed.get(line) ?? new Set<string>());
      const fresh = shared.filter((s) => !own.some((pairs) => pairs.has(s))).length;
      if (own.some((pairs) => pairs.size > 0) && fresh < enough) return false;
      lines.forEach((line, n) => {
        for (const pair of shared) own[n]!.add(pair);
        claimed.set(line, own[n]!);
      });
      return true;
    },
  };
}

/** What two equal lines have in common: the keys of their words. */
export const lineKey = (text: string, { start, end }: Range): string =>
  tokens(text, start, end)
    .map((token) => token.key)
    .join(" ");

/** The pairs of neighbouring words of a stretch, in lower case; of a single word, the word. */
export function shingles(text: string, range: Range): Set<string> {
  const words = tokens(text, range.start, range.end)
    .map((t) => t.key.toLowerCase())
    .filter((word) => /[\p{L}\p{N}]/u.test(word));
  if (words.length === 1) return new Set(words);
  return new Set(words.slice(1).map((word, n) => `${words[n]} ${word}`));
}

/** The words of a line that may be compared by them: a short one, or one that is no longer than a short one's like. */
function shortWords(text: string, range: Range, pairs: ReadonlySet<string>): ReadonlySet<string> {
  if (pairs.size > FEW * 4) return NONE;
  return new Set(tokens(text, range.start, range.end).map((t) => t.key.toLowerCase()));
}
const NONE: ReadonlySet<string> = new Set();

const isNumber = (words: ReadonlySet<string>): boolean => ![...words].some(hasLetters);

const setsEqual = (x: ReadonlySet<string>, y: ReadonlySet<string>): boolean =>
  x.size === y.size && [...x].every((word) => y.has(word));

/** Dice's coefficient of the words of two short lines; below three fifths they are not one line. */
function diceOf(x: ReadonlySet<string>, y: ReadonlySet<string>): number {
  if (x.size === 0 || y.size === 0) return 0;
  const score = (2 * [...x].filter((word) => y.has(word)).length) / (x.size + y.size);
  return score >= 0.6 ? score : 0;
}

/** Share of the smaller set that stands in the larger, so that half of a split paragraph counts in full. */
export function overlap(a: ReadonlySet<string>, b: ReadonlySet<string>): number {
  const [small, large] = a.size <= b.size ? [a, b] : [b, a];
  if (small.size === 0) return 0;
  let shared = 0;
  for (const item of small) if (large.has(item)) shared += 1;
  return shared / small.size;
}
