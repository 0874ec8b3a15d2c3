import { fold, wordsOf } from "../text/finding";

/** What is known of a comment's use, by its id. */
export type Use = {
  /** How often on this assignment. */ here: number;
  /** Words it was put on before, anywhere. */ on: readonly string[];
  /** Days since it was last used; null: never. */ days: number | null;
};
export type Situation = {
  /** The words it would stand on, with their sentence. */ words: string;
  /** The criterion now in hand, by name. */ criterion: string | null;
};

type Suggestible = { id: string; text: string; criterion?: string; usedCount: number };

type Indexed<C> = {
  uses: ReadonlyMap<string, Use>;
  known: { comment: C; use: Use | undefined; words: Set<string> }[];
  frequency: Map<string, number>;
};

// It is asked at every step through the words of a piece, and the bank stays the same meanwhile.
const indexes = new WeakMap<readonly Suggestible[], Indexed<Suggestible>>();

function indexOf<C extends Suggestible>(
  bank: readonly C[],
  uses: ReadonlyMap<string, Use>,
): Indexed<C> {
  const kept = indexes.get(bank) as Indexed<C> | undefined;
  if (kept?.uses === uses) return kept;
  const known = bank.map((comment) => ({
    comment,
    use: uses.get(comment.id),
    words: new Set(wordsOf(fold([comment.text, ...(uses.get(comment.id)?.on ?? [])].join(" ")))),
  }));
  const frequency = new Map<string, number>();
  for (const { words } of known)
    for (const word of words) frequency.set(word, (frequency.get(word) ?? 0) + 1);
  const made = { uses, known, frequency };
  indexes.set(bank, made as unknown as Indexed<Suggestible>);
  return made;
}

/**
 * The comments likely to be wanted now, best first: used on this assignment before, made for the criterion
 * in hand, put on words like these before (or speaking of them), used much and lately. Each counts with a
 * weight; the words count most, since they are what the teacher is looking at.
 *
 * Rare words tell more than frequent ones: each shared word counts by how few comments know it (inverse
 * document frequency: log of the number of comments over the number that have the word; Spärck Jones,
 * "A statistical interpretation of term specificity", Journal of Documentation 28, 1972).
 *
 * Comments for which nothing at all speaks are left out.
 */
export function suggest<C extends Suggestible>(
  bank: readonly C[],
  uses: ReadonlyMap<string, Use>,
  situation: Situation,
  most = 6,
): C[] {
  const { known, frequency } = indexOf(bank, uses);
  const asked = [...new Set(wordsOf(fold(situation.words)))].filter((word) => word.length > 2);
  const weightOf = (word: string) =>
    Math.log((1 + known.length) / (1 + (frequency.get(word) ?? 0)));
  const whole = asked.reduce((sum, word) => sum + weightOf(word), 0);
  const criterion = situation.criterion === null ? null : fold(situation.criterion);
  return known
    .map(({ comment, use, words }) => {
      const shared =
        whole > 0
          ? asked.filter((word) => words.has(word)).reduce((sum, word) => sum + weightOf(word), 0) /
            whole
          : 0;
      const forCriterion =
        criterion !== null &&
        comment.criterion !== undefined &&
        fold(comment.criterion) === criterion
          ? 1
          : 0;
      const here = use && use.here > 0 ? Math.log2(1 + use.here) : 0;
      const evidence = 4 * shared + 2 * forCriterion + here;
      const lately = use?.days === null || use?.days === undefined ? 0 : 1 / (1 + use.days / 14);
      return {
        comment,
        evidence,
        score: evidence + 0.3 * Math.log2(1 + comment.usedCount) + 0.3 * lately,
      };
    })
    .filter(({ evidence }) => evidence > 0.05)
    .sort((a, b) => b.score - a.score || a.comment.text.localeCompare(b.comment.text))
    .slice(0, most)
    .map(({ comment }) => comment);
}
