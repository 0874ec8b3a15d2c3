import type { Range } from "./selectors";

/** A run of a page's text layer, in the order the file has them; `hasEOL`: a line ends after it. */
export type PageRun = { str: string; hasEOL: boolean };

/**
 * The text of a page: its runs joined, with a line end where the file has one. Offsets into it are what marks
 * on a page's words keep, together with the words themselves.
 *
 * @returns the text, and where each run begins in it
 */
export function joinPage(runs: readonly PageRun[]): { text: string; starts: number[] } {
  let text = "";
  const starts = runs.map(({ str, hasEOL }) => {
    const at = text.length;
    text += hasEOL ? `${str}\n` : str;
    return at;
  });
  return { text, starts };
}

/**
 * Words of a page as they read: lines joined with a space, and a word that was parted at the line's end put
 * together again. A hyphen before a line's end goes only between two lower-case letters: in "North-\nSouth"
 * and "1914-\n1918" it belongs to the words (common practice, no source).
 *
 * @example sayWords("the evapora-\ntion of water", { start: 4, end: 23 }) // "evaporation of"
 */
export function sayWords(text: string, { start, end }: Range): string {
  return text
    .slice(start, end)
    .replace(/(\p{Ll})[-\u00ad\u2010]\n(?=\p{Ll})/gu, "$1")
    .replace(/([-\u2010])\n/gu, "$1")
    .replace(/[\n\u00a0 ]+/g, " ")
    .replace(/\u00ad/g, "")
    .trim();
}

/**
 * A selection grown or cut to whole graphemes, so that no mark ends inside an emoji joined with ZWJ or between
 * a letter and its accent (Unicode Standard Annex 29, grapheme clusters).
 */
export function toGraphemes(text: string, { start, end }: Range): Range {
  const around = 64;
  const from = Math.max(0, start - around);
  const piece = text.slice(from, Math.min(text.length, end + around));
  const edges = [...new Intl.Segmenter("en", { granularity: "grapheme" }).segment(piece)].map(
    (s) => s.index + from,
  );
  edges.push(from + piece.length);
  // Near the cut itself a cluster can be broken by the cut: what lies there is left as it is.
  const down = edges.findLast((edge) => edge <= start);
  const up = edges.find((edge) => edge >= end);
  return { start: down ?? start, end: start === end ? (down ?? start) : (up ?? end) };
}
