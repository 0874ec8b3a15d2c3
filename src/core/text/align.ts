import type { Range } from "./selectors";
import { lineRanges, sentenceRanges, tokens, type Token } from "./tokens";
import type { Stretch } from "./alignLines";
import { FEW, overlap, pairEqualLines, pairLines, shingles, squeeze } from "./alignLines";
import { matchWords } from "./alignWords";
import { likelyPairs } from "./likelyPairs";

export type Alignment = {
  beforeTokens: Token[];
  afterTokens: Token[];
  /** For each token of the earlier text its counterpart's index in the later one, or -1. */
  toAfter: Int32Array;
  /** The reverse of `toAfter`. */
  toBefore: Int32Array;
  /** Which lines answer to which, by stretch. */
  stretches: Stretch[];
  /** Some stretch was too large and too much changed to be compared word by word: its words have no counterparts. */
  coarse: boolean;
};

/** As `LINES_ALIKE`, for a single sentence, where chance is likelier. */
const SENTENCES_ALIKE = 0.5;

/**
 * Which words of an earlier text are which words of a later one.
 *
 * A difference of the two whole texts is right as long as nothing moves; a paragraph that was moved
 * looks to it like one deleted and one written anew. So the texts are first paired in stretches and
 * only then compared word by word inside each pair:
 *
 *  1. lines that are equal are paired, first those that kept their place, then those that moved;
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
 * what finds no counterpart has none. Time and memory grow little faster than the texts, whatever was done to
 * them: where that could not be (a long paragraph with its words shuffled), the answer says it is coarse.
 */
export function align(before: string, after: string): Alignment {
  const beforeTokens = tokens(before);
  const afterTokens = tokens(after);
  const toAfter = new Int32Array(beforeTokens.length).fill(-1);
  const toBefore = new Int32Array(afterTokens.length).fill(-1);
  const alignment: Alignment = {
    ...{ beforeTokens, afterTokens, toAfter, toBefore },
    ...{ stretches: [], coarse: false },
  };

  alignment.stretches = pairLines(before, after);
  linkEqualLines(alignment, before, after);
  linkUniqueSentences(alignment, before, after);
  for (const stretch of alignment.stretches) {
    const open = (tokens: Token[], ranges: Range[], map: Int32Array) =>
      indicesIn(tokens, ranges).filter((n) => map[n] === -1);
    const whole = matchWords(
      alignment,
      open(beforeTokens, stretch.before, toAfter),
      open(afterTokens, stretch.after, toBefore),
    );
    alignment.coarse ||= !whole;
  }
  pairMovedSentences(before, after, alignment);
  return alignment;
}

/** Only lines that are equal, each in its place or moved: for texts that cannot be compared word by word. */
export function alignByLines(before: string, after: string): Alignment {
  const [beforeTokens, afterTokens] = [tokens(before), tokens(after)];
  const toAfter = new Int32Array(beforeTokens.length).fill(-1);
  const toBefore = new Int32Array(afterTokens.length).fill(-1);
  const alignment: Alignment = {
    ...{ beforeTokens, afterTokens, toAfter, toBefore },
    ...{ stretches: pairEqualLines(before, after), coarse: true },
  };
  linkEqualLines(alignment, before, after);
  return alignment;
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
      // A number or two words may come up anywhere; they are no sentence that moved.
      .filter((sentence) => sentence.shingles.size >= FEW)
      .filter(({ indices }) => indices.filter((n) => map[n] === -1).length > indices.length * 0.6);
  const earlier = free(before, beforeTokens, toAfter);
  const later = free(after, afterTokens, toBefore);
  const of = (all: typeof earlier) => all.map((sentence) => sentence.shingles);
  const candidates = likelyPairs(of(earlier), of(later)).map(([i, j]) => {
    const [a, b] = [earlier[i]!, later[j]!];
    const score = Math.min(
      overlap(a.shingles, b.shingles),
      similarLength(a.shingles.size, b.shingles.size),
    );
    return { a, b, score };
  });
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
