import DiffMatchPatch from "diff-match-patch";
import type { Range } from "./selectors";
import { lineRanges, sentenceRanges, tokens, type Token } from "./tokens";

/**
 * Which words of an earlier text are which words of a later one.
 *
 * A difference of the two whole texts is right as long as nothing moves; a paragraph that was moved
 * looks to it like one deleted and one written anew. So the texts are first paired in stretches and
 * only then compared word by word inside each pair:
 *
 *  1. lines that are equal are paired, in order, wherever they stand;
 *  2. lines that changed are paired with those that hold a good part of their word pairs. One line may
 *     meet several: a paragraph that was split, or two that were merged, form one stretch together;
 *  3. sentences of four words or more that stand unchanged exactly once in both are the same sentence,
 *     wherever they stand: similar sentences around them cannot take their place;
 *  4. inside a stretch the other words are compared (Myers' difference over whole words, with chance
 *     agreements between unrelated words cleaned away), and a word that was only mended counts as
 *     the same word;
 *  5. sentences still without a counterpart are looked for among the words nobody has claimed, which
 *     follows a sentence that moved from one paragraph to another.
 *
 * Comparing whole words keeps a letter of one word from landing in another, and no step guesses:
 * what finds no counterpart has none.
 */
export type Stretch = { before: Range[]; after: Range[] };

export type Alignment = {
  beforeTokens: Token[];
  afterTokens: Token[];
  /** For each token of the earlier text its counterpart's index in the later one, or -1. */
  toAfter: Int32Array;
  /** The reverse of `toAfter`. */
  toBefore: Int32Array;
  /** Which lines answer to which, by stretch. */
  stretches: Stretch[];
};

/** Share of a line's word pairs that must stand in the other for the two to be the same line, changed. */
const LINES_ALIKE = 0.3;
/** A heading or a cell of fewer word pairs than this is compared by single words, and by length too. */
const FEW = 3;
/** The same for a single sentence, where chance is likelier. */
const SENTENCES_ALIKE = 0.5;
/** Share of letters two words must have in common, in order, to be one word mended. */
const WORDS_ALIKE = 0.65;

/** Share of a replaced run's words that must look like their counterparts for it to be mended, not rewritten. */
const MENDED_SHARE = 0.4;

export function align(before: string, after: string): Alignment {
  const beforeTokens = tokens(before);
  const afterTokens = tokens(after);
  const toAfter = new Int32Array(beforeTokens.length).fill(-1);
  const toBefore = new Int32Array(afterTokens.length).fill(-1);
  const alignment: Alignment = { beforeTokens, afterTokens, toAfter, toBefore, stretches: [] };

  alignment.stretches = pairLines(before, after);
  linkEqualLines(alignment, before, after);
  linkUniqueSentences(alignment, before, after);
  for (const stretch of alignment.stretches) {
    const open = (tokens: Token[], ranges: Range[], map: Int32Array) =>
      indicesIn(tokens, ranges).filter((n) => map[n] === -1);
    matchWords(
      alignment,
      open(beforeTokens, stretch.before, toAfter),
      open(afterTokens, stretch.after, toBefore),
    );
  }
  pairMovedSentences(before, after, alignment);
  return alignment;
}

// ---- lines ------------------------------------------------------------------------------------

function pairLines(before: string, after: string): Stretch[] {
  const earlier = lineRanges(before);
  const later = lineRanges(after);
  const stretches: Stretch[] = [];
  const waiting = new Map<string, number[]>();
  later.forEach((range, i) => {
    const key = squeeze(after, range);
    waiting.set(key, [...(waiting.get(key) ?? []), i]);
  });
  const usedLater = new Set<number>();
  const changed: number[] = [];
  earlier.forEach((range, i) => {
    const twin = waiting.get(squeeze(before, range))?.shift();
    if (twin === undefined) changed.push(i);
    else {
      usedLater.add(twin);
      stretches.push({ before: [range], after: [later[twin]!] });
    }
  });
  const fresh = later.map((_, i) => i).filter((i) => !usedLater.has(i));
  return [
    ...stretches,
    ...joinAlike(
      before,
      after,
      changed.map((i) => earlier[i]!),
      fresh.map((i) => later[i]!),
    ),
  ];
}

/** Lines that hold enough of each other's word pairs, joined into stretches (connected groups). */
function joinAlike(before: string, after: string, earlier: Range[], later: Range[]): Stretch[] {
  const shinglesBefore = earlier.map((range) => shingles(before, range));
  const shinglesAfter = later.map((range) => shingles(after, range));
  const candidates: { i: number; j: number; score: number }[] = [];
  shinglesBefore.forEach((a, i) => {
    shinglesAfter.forEach((b, j) => {
      const score =
        a.size < FEW || b.size < FEW
          ? shortLinesAlike(before, after, earlier[i]!, later[j]!)
          : overlap(a, b);
      if (score > LINES_ALIKE) candidates.push({ i, j, score });
    });
  });
  candidates.sort((x, y) => y.score - x.score || Math.abs(x.i - x.j) - Math.abs(y.i - y.j));

  // The best counterpart of each side is taken; a further one joins only if it brings word pairs that
  // nobody in the stretch accounts for yet, as the other half of a split paragraph does.
  const groupOfLater = new Map<number, number>();
  const groupOfEarlier = new Map<number, number>();
  const groups: { before: number[]; after: number[] }[] = [];
  const claimed = new Map<string, Set<string>>();
  for (const { i, j } of candidates) {
    const gi = groupOfEarlier.get(i);
    const gj = groupOfLater.get(j);
    if (gi !== undefined && gi === gj) continue;
    if (gi !== undefined && gj !== undefined) continue;
    const shared = [...shinglesBefore[i]!].filter((s) => shinglesAfter[j]!.has(s));
    const known = new Set([...(claimed.get(`b${i}`) ?? []), ...(claimed.get(`a${j}`) ?? [])]);
    const fresh = shared.filter((s) => !known.has(s)).length;
    if (
      known.size > 0 &&
      fresh < LINES_ALIKE * Math.min(shinglesBefore[i]!.size, shinglesAfter[j]!.size)
    )
      continue;
    for (const key of [`b${i}`, `a${j}`])
      claimed.set(key, new Set([...(claimed.get(key) ?? []), ...shared]));
    const group = gi ?? gj ?? groups.push({ before: [], after: [] }) - 1;
    if (gi === undefined) {
      groupOfEarlier.set(i, group);
      groups[group]!.before.push(i);
    }
    if (gj === undefined) {
      groupOfLater.set(j, group);
      groups[group]!.after.push(j);
    }
  }
  const inOrder = (indices: number[], ranges: Range[]) =>
    indices.sort((a, b) => a - b).map((n) => ranges[n]!);
  return groups.map((group) => ({
    before: inOrder(group.before, earlier),
    after: inOrder(group.after, later),
  }));
}

function squeeze(text: string, { start, end }: Range): string {
  return text.slice(start, end).replace(/\s+/g, " ").trim();
}

/** The pairs of neighbouring words of a stretch, in lower case; of a single word, the word. */
function shingles(text: string, range: Range): Set<string> {
  const words = tokens(text, range.start, range.end)
    .map((t) => t.text.toLowerCase())
    .filter((word) => /[\p{L}\p{N}]/u.test(word));
  if (words.length === 1) return new Set(words);
  return new Set(words.slice(1).map((word, n) => `${words[n]} ${word}`));
}

/** Dice's coefficient of the words of two short lines; below three fifths they are not one line. */
function shortLinesAlike(before: string, after: string, a: Range, b: Range): number {
  const words = (text: string, { start, end }: Range) =>
    new Set(tokens(text, start, end).map((t) => t.text.toLowerCase()));
  const [x, y] = [words(before, a), words(after, b)];
  const score = (2 * [...x].filter((word) => y.has(word)).length) / (x.size + y.size);
  return score >= 0.6 ? score : 0;
}

/** Share of the smaller set that stands in the larger, so that half of a split paragraph counts in full. */
function overlap(a: ReadonlySet<string>, b: ReadonlySet<string>): number {
  const [small, large] = a.size <= b.size ? [a, b] : [b, a];
  if (small.size === 0) return 0;
  let shared = 0;
  for (const item of small) if (large.has(item)) shared += 1;
  return shared / small.size;
}

function linkEqualLines(alignment: Alignment, before: string, after: string): void {
  for (const { before: earlier, after: later } of alignment.stretches) {
    if (
      earlier.length === 1 &&
      later.length === 1 &&
      squeeze(before, earlier[0]!) === squeeze(after, later[0]!)
    ) {
      linkInOrder(
        alignment,
        indicesIn(alignment.beforeTokens, earlier),
        indicesIn(alignment.afterTokens, later),
      );
    }
  }
}

function linkInOrder({ toAfter, toBefore }: Alignment, earlier: number[], later: number[]): void {
  earlier.forEach((n, k) => {
    toAfter[n] = later[k]!;
    toBefore[later[k]!] = n;
  });
}

// ---- sentences --------------------------------------------------------------------------------

function linkUniqueSentences(alignment: Alignment, before: string, after: string): void {
  const { beforeTokens, afterTokens, toAfter, toBefore } = alignment;
  const open = (text: string, all: Token[], map: Int32Array) => {
    const byWords = new Map<string, number[] | null>();
    for (const line of lineRanges(text)) {
      for (const sentence of sentenceRanges(text, line)) {
        const indices = indicesIn(all, [sentence]);
        const key = indices.map((n) => all[n]!.text).join(" ");
        byWords.set(
          key,
          byWords.has(key) || indices.length < 4 || indices.some((n) => map[n] !== -1)
            ? null
            : indices,
        );
      }
    }
    return byWords;
  };
  const later = open(after, afterTokens, toBefore);
  for (const [words, indices] of open(before, beforeTokens, toAfter)) {
    const twin = later.get(words);
    if (indices && twin) linkInOrder(alignment, indices, twin);
  }
}

function pairMovedSentences(before: string, after: string, alignment: Alignment): void {
  const { beforeTokens, afterTokens, toAfter, toBefore } = alignment;
  const free = (text: string, all: Token[], map: Int32Array) =>
    lineRanges(text)
      .flatMap((line) => sentenceRanges(text, line))
      .map((range) => ({
        range,
        indices: indicesIn(all, [range]),
        shingles: shingles(text, range),
      }))
      .filter(({ indices }) => indices.filter((n) => map[n] === -1).length > indices.length * 0.6);
  const earlier = free(before, beforeTokens, toAfter);
  const later = free(after, afterTokens, toBefore);
  const candidates = earlier.flatMap((a) =>
    later.map((b) => ({
      a,
      b,
      score: Math.min(
        overlap(a.shingles, b.shingles),
        similarLength(a.shingles.size, b.shingles.size),
      ),
    })),
  );
  candidates.sort((x, y) => y.score - x.score);
  const used = new Set<object>();
  for (const { a, b, score } of candidates) {
    if (score < SENTENCES_ALIKE) break;
    if (used.has(a) || used.has(b)) continue;
    used.add(a);
    used.add(b);
    matchWords(
      alignment,
      a.indices.filter((n) => toAfter[n] === -1),
      b.indices.filter((n) => toBefore[n] === -1),
    );
  }
}

function similarLength(a: number, b: number): number {
  return Math.min(1, (2 * Math.min(a, b)) / Math.max(a, b, 1));
}

// ---- words ------------------------------------------------------------------------------------

const differ = new DiffMatchPatch();
// No clock may decide what a difference is: the same two texts always give the same answer.
differ.Diff_Timeout = 0;

function matchWords(
  { beforeTokens, afterTokens, toAfter, toBefore }: Alignment,
  earlier: number[],
  later: number[],
): void {
  const link = (a: number, b: number) => {
    toAfter[a] = b;
    toBefore[b] = a;
  };
  let i = 0;
  let j = 0;
  let removed: number[] = [];
  let added: number[] = [];
  const settle = () => {
    for (const [a, b] of mendedWords(removed, added, beforeTokens, afterTokens)) link(a, b);
    removed = [];
    added = [];
  };
  for (const [kind, run] of wordDifferences(
    earlier.map((n) => beforeTokens[n]!.text),
    later.map((n) => afterTokens[n]!.text),
  )) {
    for (let n = 0; n < run.length; n += 1) {
      if (kind === 0) {
        settle();
        link(earlier[i++]!, later[j++]!);
      } else if (kind === -1) removed.push(earlier[i++]!);
      else added.push(later[j++]!);
    }
  }
  settle();
}

/** Difference of two lists of words: each word becomes one character, so that words are never cut. */
function wordDifferences(earlier: string[], later: string[]): [number, string][] {
  const codes = new Map<string, string>();
  const encode = (words: string[]) =>
    words
      .map((word) => {
        const known = codes.get(word);
        if (known) return known;
        // Skips the surrogates; 60,000 different words are far beyond one stretch of a school text.
        const code = String.fromCharCode(
          codes.size < 0xd7ff ? codes.size + 1 : 0xe000 + ((codes.size - 0xd7ff) % 0x1fff),
        );
        codes.set(word, code);
        return code;
      })
      .join("");
  const differences = differ.diff_main(encode(earlier), encode(later), false);
  differ.diff_cleanupSemantic(differences);
  return differences.map((d) => [d[0], d[1]]);
}

/**
 * Words that were replaced, matched with those that look like them, in order: "recieve" is "receive"
 * and "i" is "I", but "big" is not "vast". The best order-keeping choice is found by dynamic
 * programming. Where the likenesses are few among many words the passage was rewritten, not mended,
 * and nothing is matched: a chance "the" is not the same "the".
 */
function mendedWords(
  removed: number[],
  added: number[],
  before: Token[],
  after: Token[],
): [number, number][] {
  const rows = removed.length;
  const columns = added.length;
  if (rows === 0 || columns === 0 || rows * columns > 3600) return [];
  const score = Array.from({ length: rows + 1 }, () => new Float64Array(columns + 1));
  const alike = (i: number, j: number) =>
    wordLikeness(before[removed[i]!]!.text, after[added[j]!]!.text);
  for (let i = rows - 1; i >= 0; i -= 1) {
    for (let j = columns - 1; j >= 0; j -= 1) {
      const likeness = alike(i, j);
      const pair = likeness >= WORDS_ALIKE ? likeness + score[i + 1]![j + 1]! : 0;
      score[i]![j] = Math.max(pair, score[i + 1]![j]!, score[i]![j + 1]!);
    }
  }
  const pairs: [number, number][] = [];
  for (let i = 0, j = 0; i < rows && j < columns;) {
    if (score[i]![j] === score[i + 1]![j]) i += 1;
    else if (score[i]![j] === score[i]![j + 1]) j += 1;
    else pairs.push([removed[i++]!, added[j++]!]);
  }
  return pairs.length >= MENDED_SHARE * Math.min(rows, columns) ? pairs : [];
}

/**
 * 1 − edit distance / length of the longer word. Two neighbouring letters that changed places count as
 * one edit (optimal string alignment), since that is how people mistype; case is worth nothing.
 */
export function wordLikeness(a: string, b: string): number {
  const [x, y] = [a.toLowerCase(), b.toLowerCase()];
  if (x === y) return 1;
  const longest = Math.max(x.length, y.length);
  if (longest > 40 || Math.min(x.length, y.length) < 2) return 0;
  let twoBack: number[] = [];
  let row = Array.from({ length: y.length + 1 }, (_, n) => n);
  for (let i = 1; i <= x.length; i += 1) {
    const next = [i];
    for (let j = 1; j <= y.length; j += 1) {
      next[j] = Math.min(
        row[j]! + 1,
        next[j - 1]! + 1,
        row[j - 1]! + (x[i - 1] === y[j - 1] ? 0 : 1),
      );
      if (i > 1 && j > 1 && x[i - 1] === y[j - 2] && x[i - 2] === y[j - 1])
        next[j] = Math.min(next[j]!, twoBack[j - 2]! + 1);
    }
    [twoBack, row] = [row, next];
  }
  return 1 - row[y.length]! / longest;
}

/** Indices of the tokens that lie within the ranges; tokens are in order of their place. */
export function indicesIn(all: readonly Token[], ranges: readonly Range[]): number[] {
  const indices: number[] = [];
  for (const { start, end } of ranges) {
    let low = 0;
    let high = all.length;
    while (low < high) {
      const middle = (low + high) >> 1;
      if (all[middle]!.start < start) low = middle + 1;
      else high = middle;
    }
    for (let n = low; n < all.length && all[n]!.end <= end; n += 1) indices.push(n);
  }
  return indices;
}
