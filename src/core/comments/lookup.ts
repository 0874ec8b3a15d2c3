import { fold, rankOfWords, SPELT, wordsOf } from "../text/finding";

export type BankComment = {
  id: string;
  text: string;
  /** What the teacher types after `;`, without it. */
  shorthand: string | null;
  nature: "remark" | "request" | "praise";
  /** 1 to 9: the key that puts it on a selection. */
  favourite: number | null;
  usedCount: number;
  folder?: string;
  tags?: readonly string[];
  criterion?: string;
};

/**
 * The comments that answer to what was typed after `;`, best first.
 *
 * A shorthand typed in full comes first, then shorthands that begin so, then comments that hold what was
 * typed as it is, then those that hold every typed word (at the beginning of one of theirs), in any order;
 * and where there is none of these, those where words are misspelt: one slip (a letter wrong, missing, too many, or two exchanged)
 * in words of four to seven letters, two in longer ones. Folder, tags and criterion count as words of the
 * comment. Among equals those used most come first; case and accents make no difference. With nothing
 * typed, the most used come first.
 *
 * @example lookUp(bank, "unit") // the comment with shorthand "unit", then "units2", then "Which unit is…"
 * @example lookUp(bank, "becuase evidence") // "Say what evidence you have: because …"
 */
export function lookUp<C extends BankComment>(bank: readonly C[], typed: string, most = 8): C[] {
  const query = fold(typed.trim());
  const asked = wordsOf(query);
  const ranked = bank.flatMap((comment) => {
    const rank = rankOf(indexed(comment), query, asked);
    return rank === null ? [] : [{ comment, rank }];
  });
  // Only where nothing is spelt as it was typed is a slip looked for: it would bring much that was not meant.
  const spelt = ranked.filter(({ rank }) => rank <= SPELT);
  if (spelt.length > 0) ranked.splice(0, ranked.length, ...spelt);
  ranked.sort(
    (a, b) =>
      a.rank - b.rank ||
      b.comment.usedCount - a.comment.usedCount ||
      a.comment.text.localeCompare(b.comment.text),
  );
  return ranked.slice(0, most).map(({ comment }) => comment);
}

type Indexed = { shorthand: string | null; text: string; words: string[] };

// Folding two thousand comments at every key press is most of the work, so it is done once a comment.
const indexes = new WeakMap<BankComment, Indexed>();

function indexed(comment: BankComment): Indexed {
  const known = indexes.get(comment);
  if (known) return known;
  const text = fold(comment.text);
  const made = {
    shorthand: comment.shorthand === null ? null : fold(comment.shorthand),
    text,
    words: wordsOf(
      [
        text,
        fold(comment.folder ?? ""),
        ...(comment.tags ?? []).map(fold),
        fold(comment.criterion ?? ""),
      ].join(" "),
    ),
  };
  indexes.set(comment, made);
  return made;
}

function rankOf(
  { shorthand, text, words }: Indexed,
  query: string,
  asked: readonly string[],
): number | null {
  if (query === "" || shorthand === query) return 0;
  if (shorthand?.startsWith(query)) return 1;
  return rankOfWords({ text, words }, query, asked);
}

/**
 * What is being looked up in a field: the last `;` that begins a word, and what follows it up to the
 * caret. Null when nothing is.
 *
 * @example pendingLookup("Good. ;unit", 11) // { from: 6, query: "unit" }
 */
export function pendingLookup(text: string, caret: number): { from: number; query: string } | null {
  const before = text.slice(0, caret);
  const found = /(?:^|[\s(])(;)([^;\n]{0,40})$/u.exec(before);
  // A plain semicolon is followed by a space; a lookup never is.
  if (!found || found[2]!.startsWith(" ")) return null;
  return { from: caret - found[2]!.length - 1, query: found[2]! };
}

/** Why a shorthand cannot be kept, or null. */
export function faultInShorthand(shorthand: string): string | null {
  if (shorthand === "") return null;
  return /^[\p{L}\p{N}][\p{L}\p{N}._-]{0,23}$/u.test(shorthand)
    ? null
    : "A shorthand is up to 24 letters, digits, dots or dashes, without spaces.";
}
