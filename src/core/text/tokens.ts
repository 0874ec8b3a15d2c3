import type { Range } from "./selectors";

/** A word, a number or one sign of punctuation. White space is between tokens, never in one. */
export type Token = Range & { text: string };

const TOKEN = /[\p{L}\p{N}\p{M}]+(?:['’.,\-‑][\p{L}\p{N}\p{M}]+)*|[^\s]/gu;

/** @example tokens("It's 3.5 mm.") // It's · 3.5 · mm · . */
export function tokens(text: string, from = 0, to = text.length): Token[] {
  const found: Token[] = [];
  for (const match of text.slice(from, to).matchAll(TOKEN)) {
    const start = from + match.index;
    found.push({ start, end: start + match[0].length, text: match[0] });
  }
  return found;
}

/** The lines of a text (paragraphs, headings, cells), without their line ends; blank ones are left out. */
export function lineRanges(text: string): Range[] {
  const ranges: Range[] = [];
  let start = 0;
  for (const line of text.split("\n")) {
    if (line.trim() !== "") ranges.push({ start, end: start + line.length });
    start += line.length + 1;
  }
  return ranges;
}

const segmenter = new Intl.Segmenter("en", { granularity: "sentence" });

/** The sentences of one stretch of text, trimmed of the white space around them. */
export function sentenceRanges(text: string, within: Range): Range[] {
  const ranges: Range[] = [];
  for (const line of text.slice(within.start, within.end).matchAll(/[^\n]+/g)) {
    for (const { segment, index } of sentencesIn(line[0])) {
      const lead = segment.length - segment.trimStart().length;
      const length = segment.trim().length;
      const start = within.start + line.index + index + lead;
      if (length > 0) ranges.push({ start, end: start + length });
    }
  }
  return ranges;
}

/** The segmenter's time grows with the square of a text's length; a window keeps it near linear. */
const WINDOW = 2000;

/**
 * What a segmenter (Unicode Standard Annex 29) says of a text, read window by window. Only a segment longer
 * than a window is cut, which no word and hardly a sentence is.
 */
export function* segmentsOf(
  by: Intl.Segmenter,
  text: string,
  window = WINDOW,
): Generator<{ segment: string; index: number; isWordLike?: boolean }> {
  let from = 0;
  while (from < text.length) {
    const all = [...by.segment(windowAt(text, from, window))];
    // The last one may go on behind the window, unless that is all there is.
    const sure = all.length > 1 && from + window < text.length ? all.slice(0, -1) : all;
    for (const { segment, index, isWordLike } of sure)
      yield { segment, index: from + index, isWordLike };
    from += sure.at(-1)!.index + sure.at(-1)!.segment.length;
  }
}

/** It ends at white space where there is any, so that "3.5" is not seen as "3" and ".". */
function windowAt(text: string, from: number, length: number): string {
  const window = text.slice(from, from + length);
  if (from + length >= text.length) return window;
  const end = Math.max(window.lastIndexOf(" "), window.lastIndexOf("\n"));
  return end > 0 ? window.slice(0, end + 1) : window;
}

function sentencesIn(line: string): Iterable<{ segment: string; index: number }> {
  // Most cells, headings and lines of verse are one: no sign in them could end a sentence.
  const one =
    line.length < WINDOW && !/[.!?\u2026\u3002\uff01\uff1f\u061f\u06d4\u0964].*\S/.test(line);
  return one ? [{ segment: line, index: 0 }] : segmentsOf(segmenter, line);
}
