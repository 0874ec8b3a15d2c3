import type { Alignment } from "./align";
import { inOrder } from "./inOrder";
import { joinedWords } from "./joinedWords";
import { bareForm } from "../normalForm";
import type { Token } from "../tokens";

/** Share of letters two words must have in common, in order, to be one word mended. */
export const WORDS_ALIKE = 0.65;

/** Share of a replaced run's words that must look like their counterparts for it to be mended, not rewritten. */
const MENDED_SHARE = 0.4;

/**
 * Links the words of two stretches that are the same in the same order, and those that were only mended.
 *
 * @returns whether every stretch was compared word by word; false: some was too large (see `inOrder`)
 */
export function matchWords(
  alignment: Alignment,
  earlier: readonly number[],
  later: readonly number[],
): boolean {
  const { beforeTokens, afterTokens, toAfter, toBefore } = alignment;
  const link = (a: number, b: number) => {
    toAfter[a] = b;
    toBefore[b] = a;
  };
  const alike = (a: number, b: number) => wordLikeness(beforeTokens[a]!.key, afterTokens[b]!.key);
  const { pairs, leftOut } = inOrder(
    earlier.map((n) => beforeTokens[n]!.key),
    later.map((n) => afterTokens[n]!.key),
  );
  let [i, j] = [0, 0];
  for (const [a, b] of [...pairs, [earlier.length, later.length] as const]) {
    const [removed, added] = [earlier.slice(i, a), later.slice(j, b)];
    linkJoined(alignment, removed, added);
    const [gone, fresh] = [
      removed.filter((n) => toAfter[n] === -1),
      added.filter((n) => toBefore[n] === -1),
    ];
    for (const [x, y] of mendedWords(gone, fresh, alike)) link(x, y);
    if (a < earlier.length && b < later.length) link(earlier[a]!, later[b]!);
    [i, j] = [a + 1, b + 1];
  }
  return leftOut === 0;
}

/** Each word goes to the one that has most of its letters, and comes from there. */
function linkJoined(
  { beforeTokens, afterTokens, toAfter, toBefore }: Alignment,
  removed: readonly number[],
  added: readonly number[],
): void {
  const groups = joinedWords(
    removed.map((n) => beforeTokens[n]!.key),
    added.map((n) => afterTokens[n]!.key),
  );
  for (const group of groups) {
    const [from, to] = [group.removed.map((n) => removed[n]!), group.added.map((n) => added[n]!)];
    const [earlier, later] = [lettersOf(from, beforeTokens), lettersOf(to, afterTokens)];
    for (const word of earlier) toAfter[word.index] = mostShared(word, later);
    for (const word of later) toBefore[word.index] = mostShared(word, earlier);
  }
}

type Letters = { index: number; from: number; to: number };

/** Which letters of the group each word holds. */
function lettersOf(indices: readonly number[], tokens: readonly Token[]): Letters[] {
  let at = 0;
  return indices.map((index) => {
    const from = at;
    at += bareForm(tokens[index]!.key).length;
    return { index, from, to: at };
  });
}

function mostShared({ from, to }: Letters, others: readonly Letters[]): number {
  const shared = (other: Letters) => Math.min(to, other.to) - Math.max(from, other.from);
  return others.reduce((best, other) => (shared(other) > shared(best) ? other : best)).index;
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
  alike: (removed: number, added: number) => number,
): [number, number][] {
  const rows = removed.length;
  const columns = added.length;
  if (rows === 0 || columns === 0 || rows * columns > 3600) return [];
  const score = Array.from({ length: rows + 1 }, () => new Float64Array(columns + 1));
  for (let i = rows - 1; i >= 0; i -= 1) {
    for (let j = columns - 1; j >= 0; j -= 1) {
      const likeness = alike(removed[i]!, added[j]!);
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
  if (longest > 40 || Math.min(x.length, y.length) < 2 || isNumber(x + y)) return 0;
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

/** A number with another digit is another number, however long. */
const isNumber = (words: string): boolean => /\p{N}/u.test(words);
