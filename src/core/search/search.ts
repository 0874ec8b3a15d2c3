import { fold, rankOfWords, slipsAmong, SPELT, wordsOf } from "../text/finding";

/** What can be found from any screen. `page` is a screen or an act; it is known without asking the server. */
export const FOUND_KINDS = [
  "page",
  "student",
  "section",
  "handOut",
  "piece",
  "comment",
  "person",
] as const;
export type FoundKind = (typeof FOUND_KINDS)[number];

/** Something that can be found: by its words, and by those that stand beside it. */
export type Findable = {
  kind: FoundKind;
  id: string;
  words: string;
  /** What tells it from others of the same words; it is found by these too. */ about: string;
  href: string;
};

/** What is typed is read up to here, in characters. */
export const LONGEST_ASKED = 80;
/** No more than so many typed words count. */
const MOST_WORDS = 8;

type Asked = { query: string; words: string[] };

export function askedOf(typed: string): Asked {
  const query = fold(typed.slice(0, LONGEST_ASKED).trim()).replace(/\s+/g, " ");
  return { query, words: wordsOf(query).slice(0, MOST_WORDS) };
}

/**
 * What answers to what was typed, best first, `most` of each kind. Something that begins as it was typed comes before
 * what holds it elsewhere, and that before what holds all its words; slips are forgiven where nothing at all is
 * spelt so. Equals keep the order they came in.
 *
 * @example search([{ words: "Elsie Greaves", … }], "elsei", 5) // finds her
 */
export function search<F extends Findable>(all: readonly F[], typed: string, most: number): F[] {
  const asked = askedOf(typed);
  if (asked.words.length === 0) return [];
  const read = all.map((one) => {
    const own = fold(one.words);
    return { one, own, text: `${own} ${fold(one.about)}` };
  });
  const spelt = ranked(read, (one) => rankSpelt(one, asked));
  const taken = new Map<FoundKind, number>();
  return (spelt.length > 0 ? spelt : ranked(read, (one) => rankWithSlips(one, asked)))
    .sort((a, b) => a.rank - b.rank)
    .filter(({ one }) => {
      const n = (taken.get(one.kind) ?? 0) + 1;
      taken.set(one.kind, n);
      return n <= most;
    })
    .map(({ one }) => one);
}

/** Folded: its own words, and with what stands beside them. */
type Read<F> = { one: F; own: string; text: string };

const ranked = <F>(all: readonly Read<F>[], rankOf: (one: Read<F>) => number | null) =>
  all.flatMap((read) => {
    const rank = rankOf(read);
    return rank === null ? [] : [{ one: read.one, rank }];
  });

/** Whatever it does not hold at all it is not asked about word by word: a school has thousands of people. */
function rankSpelt({ own, text }: Read<unknown>, { query, words: asked }: Asked): number | null {
  if (own.startsWith(query)) return 0;
  if (own.includes(query) && wordsOf(own).some((part) => part.startsWith(query))) return 1;
  if (text.includes(query)) return 2;
  if (!asked.every((word) => text.includes(word))) return null;
  const words = wordsOf(text);
  const begins = (word: string) => words.some((part) => part.startsWith(word));
  return asked.every(begins) ? SPELT : null;
}

const rankWithSlips = ({ text }: Read<unknown>, { query, words: asked }: Asked): number | null =>
  rankOfWords({ text, words: wordsOf(text) }, query, asked);

export type Pair<A, B> = { one: A; other: B };

/**
 * Pieces are named by two things at once: some of the typed words are a student's, the others a hand-out's. Every pair
 * that answers to all of them, where neither needs the other for nothing; those with the fewest slips first.
 *
 * @example pairsOf(students, handOuts, "elsie letter", 20)
 */
export function pairsOf<A extends { words: string }, B extends { words: string }>(
  ones: readonly A[],
  others: readonly B[],
  { typed, most }: { typed: string; most: number },
): Pair<A, B>[] {
  const { words: asked } = askedOf(typed);
  if (asked.length < 2) return [];
  const [left, right] = [answering(ones, asked), answering(others, asked)];
  const pairs = left.flatMap((one) =>
    right.flatMap((other) => {
      const slips = asked.map((_, n) => Math.min(one.slips[n]!, other.slips[n]!));
      const both = asked.some((_, n) => one.slips[n]! < other.slips[n]!);
      const sum = slips.reduce((a, b) => a + b, 0);
      const needed = both && asked.some((_, n) => other.slips[n]! < one.slips[n]!);
      return needed && sum < Infinity ? [{ one: one.of, other: other.of, sum }] : [];
    }),
  );
  return pairs
    .sort((a, b) => a.sum - b.sum)
    .slice(0, most)
    .map(({ one, other }) => ({ one, other }));
}

/** Those that answer to any of the words, with the slips of each word (Infinity: to that one they do not). */
function answering<T extends { words: string }>(all: readonly T[], asked: readonly string[]) {
  return all.flatMap((of) => {
    const own = wordsOf(fold(of.words));
    const slips = asked.map((word) => slipsAmong(word, own));
    return slips.some((n) => n < Infinity) ? [{ of, slips }] : [];
  });
}
