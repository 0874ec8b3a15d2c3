export type BankComment = {
  id: string;
  text: string;
  /** What the teacher types after `;`, without it. */
  shorthand: string | null;
  nature: "remark" | "request";
  /** 1 to 9: the key that puts it on a selection. */
  favourite: number | null;
  usedCount: number;
};

/**
 * The comments that answer to what was typed after `;`, best first.
 *
 * A shorthand typed in full comes first, then shorthands that begin so, then comments that hold every
 * typed word (at the beginning of one of theirs), and among equals those used most. Case and accents
 * make no difference. With nothing typed, the most used come first.
 *
 * @example lookUp(bank, "unit") // the comment with shorthand "unit", then "units2", then "Which unit is…"
 */
export function lookUp<C extends BankComment>(bank: readonly C[], typed: string, most = 8): C[] {
  const query = fold(typed.trim());
  const asked = query.split(/\s+/).filter(Boolean);
  const ranked = bank.flatMap((comment) => {
    const rank = rankOf(comment, query, asked);
    return rank === null ? [] : [{ comment, rank }];
  });
  ranked.sort((a, b) => a.rank - b.rank || b.comment.usedCount - a.comment.usedCount || a.comment.text.localeCompare(b.comment.text));
  return ranked.slice(0, most).map(({ comment }) => comment);
}

function rankOf(comment: BankComment, query: string, asked: readonly string[]): number | null {
  if (query === "") return 0;
  const shorthand = comment.shorthand === null ? null : fold(comment.shorthand);
  if (shorthand === query) return 0;
  if (shorthand?.startsWith(query)) return 1;
  const text = fold(comment.text);
  if (text.includes(query)) return 2;
  const words = text.split(/[^\p{L}\p{N}]+/u);
  return asked.every((word) => words.some((own) => own.startsWith(word))) ? 3 : null;
}

function fold(text: string): string {
  return text.normalize("NFD").replace(/\p{M}/gu, "").toLowerCase();
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
  return /^[\p{L}\p{N}][\p{L}\p{N}._-]{0,23}$/u.test(shorthand) ? null : "A shorthand is up to 24 letters, digits, dots or dashes, without spaces.";
}
