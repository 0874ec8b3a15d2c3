import { lineRanges, sentenceRanges, tokens, type Token } from "../tokens";
import type { Stretch } from "./alignLines";
import { SHORT } from "./linesInPlace";
import { FEW, overlap, pairEqualLines, pairLines, shingles } from "./alignLines";
import { matchWords } from "./alignWords";
import { cellsOf } from "./cells";
import { fillGaps, fillStretch } from "./gaps";
import { indicesIn } from "./indices";
import { likelyPairs } from "./likelyPairs";
import { linkUniqueRuns } from "./runs";

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
 * looks to it like one deleted and one written anew. So what is surely the same is linked first, and
 * words are compared only between what is linked:
 *
 *  1. lines that are equal are paired, first those that kept their place (what stands once holds its
 *     neighbours, so that of three equal cells each stays itself), then those that moved;
 *  2. sentences of four words or more that stand unchanged exactly once in both are the same sentence,
 *     and so are runs of words whatever lines they stand in: this follows what was split, merged or wrapped anew;
 *  3. equal lines of few words come last, where nothing speaks against them;
 *  4. the words between two that are linked are compared with those between their counterparts, and so are
 *     lines that hold a good part of each other (Myers' difference over whole words, with chance agreements
 *     between unrelated words cleaned away); a word that was only mended, joined or parted counts as the same;
 *  5. sentences still without a counterpart are looked for among the words nobody has claimed, which
 *     follows a sentence that moved from one paragraph to another and was changed.
 *
 * Words are compared in a normal form, whole: a letter of one word never lands in another. No step guesses:
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
  const equal = equalLinesOf(alignment);
  const cells = { before: cellsOf(beforeTokens, before), after: cellsOf(afterTokens, after) };
  for (const { earlier, later } of equal)
    if (!isShortLine(earlier)) linkInOrder(alignment, earlier, later);
  linkUniqueSentences(alignment, before, after);
  linkUniqueRuns(alignment, cells, pairedInShort(alignment, equal));
  const taken = linkShortLines(alignment, equal);
  alignment.stretches = alignment.stretches.filter((stretch) => !taken.has(stretch));
  const whole = [
    fillGaps(alignment, cells),
    ...alignment.stretches.map((stretch) => fillStretch(alignment, stretch)),
  ];
  alignment.coarse = whole.includes(false);
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
  for (const { earlier, later } of equalLinesOf(alignment)) linkInOrder(alignment, earlier, later);
  return alignment;
}

const isShortLine = (words: readonly number[]): boolean => words.length < SHORT;

/** Two equal lines, by the words in them. */
type EqualLine = { stretch: Stretch; earlier: number[]; later: number[] };

const equalLinesOf = ({ stretches, beforeTokens, afterTokens }: Alignment): EqualLine[] =>
  stretches.flatMap((stretch) => {
    if (stretch.before.length !== 1 || stretch.after.length !== 1) return [];
    const earlier = indicesIn(beforeTokens, stretch.before);
    const later = indicesIn(afterTokens, stretch.after);
    const equal =
      earlier.length === later.length &&
      earlier.every((n, k) => beforeTokens[n]!.key === afterTokens[later[k]!]!.key);
    return equal ? [{ stretch, earlier, later }] : [];
  });

/**
 * Links equal lines of few words where nothing speaks against it. Such a line may be the end of a paragraph that was
 * wrapped, which is elsewhere now; so longer runs of words come first, and may claim it or what stands around it.
 *
 * @returns the pairs that are none
 */
function linkShortLines(alignment: Alignment, equal: readonly EqualLine[]): Set<Stretch> {
  const { toAfter, toBefore } = alignment;
  const none = new Set<Stretch>();
  for (const { stretch, earlier, later } of equal) {
    if (!isShortLine(earlier) || earlier.every((n, k) => toAfter[n] === later[k])) continue;
    const open = earlier.every((n) => toAfter[n] === -1) && later.every((n) => toBefore[n] === -1);
    if (open && (stretch.elsewhere || fits(alignment, earlier, later)))
      linkInOrder(alignment, earlier, later);
    else none.add(stretch);
  }
  return none;
}

/** For each word of an equal short line its counterpart, as long as nothing speaks against it. */
function pairedInShort({ toAfter, toBefore }: Alignment, equal: readonly EqualLine[]): Links {
  const paired = {
    toAfter: new Int32Array(toAfter.length).fill(-1),
    toBefore: new Int32Array(toBefore.length).fill(-1),
  };
  for (const { earlier, later } of equal)
    if (isShortLine(earlier)) linkInOrder(paired, earlier, later);
  return paired;
}

/** Whether the nearest linked word before or behind goes to the same side of the counterpart. */
function fits({ toAfter }: Alignment, earlier: number[], later: number[]): boolean {
  let [left, right] = [earlier[0]! - 1, earlier.at(-1)! + 1];
  while (left >= 0 && toAfter[left] === -1) left -= 1;
  while (right < toAfter.length && toAfter[right] === -1) right += 1;
  const behind = left < 0 || toAfter[left]! < later[0]!;
  const ahead = right >= toAfter.length || toAfter[right]! > later.at(-1)!;
  return behind && ahead;
}

type Links = Pick<Alignment, "toAfter" | "toBefore">;

function linkInOrder({ toAfter, toBefore }: Links, earlier: number[], later: number[]): void {
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
        const key = indices.map((n) => all[n]!.key).join(" ");
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
