import type { Range } from "./selectors";
import { segmentsOf, sentenceRanges, tokens } from "./tokens";

/**
 * Choosing words by keyboard: from a selection to the next or previous word, or longer and shorter by
 * one at its end. Steps go over words, not over signs of punctuation.
 *
 * @example stepWord("It rained, twice.", { start: 0, end: 2 }, "next") // { start: 3, end: 9 }
 */
export type WordStep =
  "next" | "previous" | "longer" | "shorter" | "next sentence" | "previous sentence";

export function stepWord(text: string, from: Range | null, step: WordStep): Range | null {
  const { words, sentences } = partsOf(text);
  const first = words[0];
  if (!first) return null;
  if (!from) return range(first);
  switch (step) {
    case "next": {
      const after = words.find((word) => word.start >= Math.max(from.end, from.start + 1));
      const current = words.find((word) => word.end > from.start) ?? words.at(-1)!;
      return range(after ?? current);
    }
    case "previous": {
      const before = words.findLast((word) => word.end <= from.start);
      return range(before ?? first);
    }
    case "next sentence":
    case "previous sentence":
      return stepSentence(sentences, from, step === "next sentence" ? 1 : -1);
    case "longer": {
      const after = words.find((word) => word.end > from.end);
      return { start: from.start, end: after?.end ?? from.end };
    }
    case "shorter": {
      const inside = words.findLast((word) => word.start >= from.start && word.end < from.end);
      return inside ? { start: from.start, end: inside.end } : from;
    }
  }
}

/**
 * The word at a place between letters: the one it is in or begins, else the one it ends, else the last before it.
 *
 * @example wordAt("It rained, twice.", 5) // { start: 3, end: 9 }
 */
export function wordAt(text: string, at: number): Range | null {
  const { words } = partsOf(text);
  const word =
    words.find((w) => w.start <= at && at < w.end) ??
    words.findLast((w) => w.end <= at) ??
    words[0];
  return word ? range(word) : null;
}

/** From a word in a sentence the first step chooses the sentence itself. */
function stepSentence(sentences: readonly Range[], from: Range, by: 1 | -1): Range {
  const here = sentences.findIndex((s) => s.end > from.start);
  const at = here === -1 ? sentences.length - 1 : here;
  const current = sentences[at]!;
  const whole = current.start === from.start && current.end === from.end;
  const leaves = whole || (by === -1 && current.start >= from.start);
  const next = Math.min(sentences.length - 1, Math.max(0, at + (leaves ? by : 0)));
  return sentences[next]!;
}

// A text is stepped through key by key, and ten thousand words are not cut anew for each.
let last: { text: string; words: Range[]; sentences: Range[] } = {
  text: "",
  words: [],
  sentences: [],
};

function partsOf(text: string): typeof last {
  if (last.text !== text)
    last = {
      text,
      words: wordsOf(text),
      sentences: sentenceRanges(text, { start: 0, end: text.length }),
    };
  return last;
}

const dictionary = new Intl.Segmenter("en", { granularity: "word" });

/** Words as a reader chooses them: of writing without spaces those of a dictionary. */
function wordsOf(text: string): Range[] {
  if (!/[\p{sc=Han}\p{sc=Hira}\p{sc=Kana}]/u.test(text))
    return tokens(text).filter((token) => /[\p{L}\p{N}]/u.test(token.text));
  return [...segmentsOf(dictionary, text)]
    .filter(({ isWordLike }) => isWordLike)
    .map(({ segment, index }) => ({ start: index, end: index + segment.length }));
}

const range = ({ start, end }: Range): Range => ({ start, end });
