import { fold, wordsOf } from "../text/finding";

/**
 * Whether two comments say nearly the same: how much of their words and of their pairs of neighbouring
 * words they share (Dice's coefficient of both, the mean of the two), from 0 to 1. Case, accents and signs make no
 * difference; neither do names that stand in for `{name}`.
 *
 * Words alone would take "the rain after the wind" for "the wind after the rain"; pairs alone would
 * punish one word put in twice.
 *
 * @example likeness("Which unit is this?", "which unit is that") // 0.71
 */
export function likeness(a: string, b: string): number {
  return likenessOf(indexOf(a), indexOf(b));
}

type Index = { words: string[]; pairs: string[] };

function indexOf(text: string): Index {
  const words = wordsOf(fold(text.replace(/\{[^{}]*\}/gu, " ")));
  return { words, pairs: words.slice(1).map((word, n) => `${words[n]} ${word}`) };
}

function likenessOf(a: Index, b: Index): number {
  if (a.words.length === 0 || b.words.length === 0) return 0;
  if (a.pairs.length === 0 || b.pairs.length === 0)
    return a.words.join(" ") === b.words.join(" ") ? 1 : 0;
  return (dice(a.words, b.words) + dice(a.pairs, b.pairs)) / 2;
}

/** Twice what is shared over what there is, as multisets. */
function dice(a: readonly string[], b: readonly string[]): number {
  const counts = new Map<string, number>();
  for (const word of a) counts.set(word, (counts.get(word) ?? 0) + 1);
  let shared = 0;
  for (const word of b) {
    const left = counts.get(word) ?? 0;
    if (left > 0) {
      shared += 1;
      counts.set(word, left - 1);
    }
  }
  return (2 * shared) / (a.length + b.length);
}

/** From here on two comments are taken for the same said twice. Tried on the demo's bank: nothing in it is as near to another. */
export const NEARLY_THE_SAME = 0.7;
/** Shorter than this it is not worth keeping: "Good." is typed faster than it is looked up. */
const LEAST_WORDS = 4;

/** The texts nearly the same as the given one, the nearest first. @param texts may repeat; each is one time it was said */
export function nearlySame<T extends { text: string }>(
  text: string,
  said: readonly T[],
  least = NEARLY_THE_SAME,
): T[] {
  return finderIn(said, least)(text);
}

/** The same for many texts: what was said is looked into once. */
export function finderIn<T extends { text: string }>(
  said: readonly T[],
  least = NEARLY_THE_SAME,
): (text: string) => T[] {
  const known = said.map((entry) => ({ entry, index: indexOf(entry.text) }));
  const withPair = new Map<string, number[]>();
  known.forEach(({ index }, n) => {
    for (const pair of pairsOf(index)) {
      const list = withPair.get(pair);
      if (list) list.push(n);
      else withPair.set(pair, [n]);
    }
  });
  return (text) => {
    const own = indexOf(text);
    if (own.words.length < LEAST_WORDS) return [];
    // Above one half two texts share a pair of neighbouring words (see `repeatsIn`).
    const near = [...new Set([...pairsOf(own)].flatMap((pair) => withPair.get(pair) ?? []))];
    return near
      .sort((a, b) => a - b)
      .map((n) => ({ ...known[n]!, likeness: likenessOf(own, known[n]!.index) }))
      .filter((found) => found.likeness >= least)
      .sort((a, b) => b.likeness - a.likeness)
      .map((found) => found.entry);
  };
}

const pairsOf = ({ pairs, words }: Index): Set<string> =>
  new Set(pairs.length > 0 ? pairs : [words.join(" ")]);

/**
 * Pairs of comments in a bank that say nearly the same, for tidying up: each with the one before it in the
 * list that it repeats.
 *
 * Two comments can only reach `least` (which must lie above 0.5) if they share a pair of neighbouring words: at most
 * half of the likeness comes from words alone. So each is held against those that share one with it, and two
 * thousand comments take a moment instead of two million comparisons.
 */
export function repeatsIn<T extends { text: string }>(
  comments: readonly T[],
  least = 0.8,
): { comment: T; repeats: T }[] {
  const seen: { comment: T; index: Index }[] = [];
  const withPair = new Map<string, number[]>();
  return comments.flatMap((comment) => {
    const index = indexOf(comment.text);
    const pairs = pairsOf(index);
    const near = [...new Set([...pairs].flatMap((pair) => withPair.get(pair) ?? []))].sort(
      (a, b) => a - b,
    );
    const twin = near.map((n) => seen[n]!).find((s) => likenessOf(s.index, index) >= least);
    for (const pair of pairs) {
      const list = withPair.get(pair);
      if (list) list.push(seen.length);
      else withPair.set(pair, [seen.length]);
    }
    seen.push({ comment, index });
    return twin ? [{ comment, repeats: twin.comment }] : [];
  });
}
