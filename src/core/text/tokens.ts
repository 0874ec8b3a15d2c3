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
    for (const { segment, index } of segments(line[0])) {
      const lead = segment.length - segment.trimStart().length;
      const length = segment.trim().length;
      const start = within.start + line.index + index + lead;
      if (length > 0) ranges.push({ start, end: start + length });
    }
  }
  return ranges;
}

/** The segmenter's time grows with the square of a line's length; a window keeps it near linear. */
const WINDOW = 2000;

/** What the segmenter says of the line, read window by window; only a sentence longer than one is cut. */
function* segments(line: string): Generator<{ segment: string; index: number }> {
  // Most cells, headings and lines of verse are one: no sign in them could end a sentence.
  if (line.length < WINDOW && !/[.!?\u2026\u3002\uff01\uff1f\u061f\u06d4\u0964].*\S/.test(line)) {
    yield { segment: line, index: 0 };
    return;
  }
  let from = 0;
  while (from < line.length) {
    const whole = [...segmenter.segment(line.slice(from, from + WINDOW))];
    // The last one may go on behind the window, unless that is all there is.
    const sure = whole.length > 1 && from + WINDOW < line.length ? whole.slice(0, -1) : whole;
    for (const { segment, index } of sure) yield { segment, index: from + index };
    from += sure.at(-1)!.index + sure.at(-1)!.segment.length;
  }
}
