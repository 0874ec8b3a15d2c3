import type { Range } from "./selectors";
import { tokens } from "./tokens";

/**
 * Choosing words by keyboard: from a selection to the next or previous word, or longer and shorter by
 * one at its end. Steps go over words, not over signs of punctuation.
 *
 * @example stepWord("It rained, twice.", { start: 0, end: 2 }, "next") // { start: 3, end: 9 }
 */
export function stepWord(text: string, from: Range | null, step: "next" | "previous" | "longer" | "shorter"): Range | null {
  const words = tokens(text).filter((token) => /[\p{L}\p{N}]/u.test(token.text));
  const first = words[0];
  if (!first) return null;
  if (!from) return range(first);
  const index = words.findIndex((word) => word.end > from.start);
  const current = index === -1 ? words.length - 1 : index;
  switch (step) {
    case "next": {
      const after = words.find((word) => word.start >= Math.max(from.end, from.start + 1));
      return range(after ?? words[current]!);
    }
    case "previous": {
      const before = words.findLast((word) => word.end <= from.start);
      return range(before ?? first);
    }
    case "longer": {
      const after = words.find((word) => word.end > from.end);
      return { start: from.start, end: after?.end ?? from.end };
    }
    case "shorter": {
      const inside = words.filter((word) => word.start >= from.start && word.end < from.end).at(-1);
      return inside ? { start: from.start, end: inside.end } : from;
    }
  }
}

const range = ({ start, end }: Range): Range => ({ start, end });
