import { joinedWith } from "../text/aligning/indices";
import { toGraphemes } from "../text/pageText";
import { bareForm, isAscii, normalForm } from "../text/normalForm";
import type { Range } from "../text/selectors";
import type { Token } from "../text/tokens";

/**
 * Where a mark begins and ends inside the words it went to. A mark may hold a part of a word; and words may have
 * been joined ("in to" is "into" now), parted, or typed in other letters of Unicode, so that what counts is how
 * many letters of the normal form stand before a place.
 */
export type Went = {
  beforeTokens: readonly Token[];
  afterTokens: readonly Token[];
  toAfter: Int32Array;
  /** The mark on the earlier text, and its words there that went with it. */
  range: Range;
  words: readonly number[];
};

/** @returns the range in the later text, from its word `first` to its word `last` */
export function insideWords(went: Went, first: number, last: number): Range {
  const { afterTokens, toAfter, words } = went;
  const from = words.find((n) => toAfter[n] === first)!;
  const to = words.findLast((n) => toAfter[n] === last)!;
  const [head, tail] = [partedInto(went, from, first), partedInto(went, to, last)];
  const start = head.first < first ? afterTokens[head.first]!.start : startIn(went, from, first);
  const end = tail.last > last ? afterTokens[tail.last]!.end : endIn(went, to, last);
  return start < end
    ? { start, end }
    : { start: afterTokens[first]!.start, end: afterTokens[last]!.end };
}

/** A mark that ends inside what a reader sees as one character grows to the whole of it. */
export function wholeCharacters(text: string, { start, end }: Range): Range {
  const around = text.slice(Math.max(0, start - 2), end + 2);
  return isAscii(around) ? { start, end } : toGraphemes(text, { start, end });
}

function startIn(
  { beforeTokens, afterTokens, toAfter, range }: Went,
  word: number,
  target: number,
) {
  const [source, token] = [beforeTokens[word]!, afterTokens[target]!];
  const cut = Math.max(0, range.start - source.start);
  if (source.text === token.text || !sameLetters(beforeTokens, toAfter, word, token))
    return token.start + Math.min(cut, token.end - token.start);
  const before = lettersBefore(beforeTokens, toAfter, word) + letters(source.text.slice(0, cut));
  // A hyphen that stands there is the end of what was before, and not the mark's.
  return token.start + unitsOf(token.text, before + 1, "short of");
}

function endIn({ beforeTokens, afterTokens, toAfter, range }: Went, word: number, target: number) {
  const [source, token] = [beforeTokens[word]!, afterTokens[target]!];
  const rest = Math.max(0, source.end - range.end);
  if (source.text === token.text || !sameLetters(beforeTokens, toAfter, word, token))
    return token.end - Math.min(rest, token.end - token.start);
  const goesOn = toAfter[word + 1] === target;
  if (rest === 0 && !goesOn) return token.end;
  const upTo = letters(source.text.slice(0, source.text.length - rest));
  return token.start + unitsOf(token.text, lettersBefore(beforeTokens, toAfter, word) + upTo);
}

const letters = (text: string): number => bareForm(normalForm(text)).length;

/** Letters of the words before this one that went to the same word. */
function lettersBefore(tokens: readonly Token[], toAfter: Int32Array, word: number): number {
  const { first } = joinedWith(toAfter, word);
  return tokens.slice(first, word).reduce((sum, token) => sum + letters(token.text), 0);
}

/** Whether the words that went to this one make up its letters: only joined or typed otherwise, not mended. */
function sameLetters(
  tokens: readonly Token[],
  toAfter: Int32Array,
  word: number,
  target: Token,
): boolean {
  const { first, last } = joinedWith(toAfter, word);
  const all = tokens.slice(first, last + 1).map((token) => bareForm(token.key));
  return all.join("") === bareForm(target.key);
}

/** Code units of a text up to where it has so many letters of its normal form, or to just before it has them. */
function unitsOf(text: string, count: number, side: "up to" | "short of" = "up to"): number {
  let units = 0;
  for (const character of text) {
    const next = units + character.length;
    if (letters(text.slice(0, side === "up to" ? units : next)) >= count) break;
    units = next;
  }
  return units;
}

/** How many words one may have been parted into. */
const PARTS = 4;

/** The words around `target` that together are the letters of a word that was parted. */
function partedInto({ beforeTokens, afterTokens }: Went, word: number, target: number) {
  const whole = bareForm(beforeTokens[word]!.key);
  const alone = { first: target, last: target };
  if (whole === bareForm(afterTokens[target]!.key)) return alone;
  for (let first = target; first >= 0 && first > target - PARTS; first -= 1) {
    let joined = "";
    for (let last = first; last < afterTokens.length && last < first + PARTS; last += 1) {
      joined += bareForm(afterTokens[last]!.key);
      if (last >= target && joined === whole) return { first, last };
    }
  }
  return alone;
}
