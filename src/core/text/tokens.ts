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
    for (const { segment, index } of segmenter.segment(line[0])) {
      const lead = segment.length - segment.trimStart().length;
      const length = segment.trim().length;
      const start = within.start + line.index + index + lead;
      if (length > 0) ranges.push({ start, end: start + length });
    }
  }
  return ranges;
}
