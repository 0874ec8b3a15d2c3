import { isAscii, normalForm } from "./normalForm";
import type { Range } from "./selectors";

/**
 * A word, a number or one sign; of writing without spaces a character or, where a dictionary parts it, a word.
 * White space is between tokens, never in one, and no token ends inside what a reader sees as one character.
 */
export type Token = Range & {
  text: string;
  /** Its normal form: two tokens of one key are the same word, however it was typed. */
  key: string;
};

/** Letters and digits, what is joined to them, and words parted by an apostrophe, hyphen or decimal sign. */
const JOINED = "['’ʼ.,\\-‐‑]";
const SPACED = /[\p{L}\p{N}\p{M}]+(?:['’.,\-‑][\p{L}\p{N}\p{M}]+)*|[^\s]/gu;

/**
 * Writing without spaces. Chinese characters and hiragana stand alone (what a dictionary joins changes with the words
 * around it, and a mark would change with it); a run of katakana is a word; runs of the scripts of South-East
 * Asia are parted by a dictionary below.
 */
const ALONE = "\\p{sc=Han}\\p{sc=Hira}";
const KATAKANA = "\\p{sc=Kana}\u30fc\uff70\uff9e\uff9f";
const PARTED = "\\p{sc=Thai}\\p{sc=Lao}\\p{sc=Khmr}\\p{sc=Mymr}";
/** Inside words: marks, joiners, the soft hyphen. */
const LETTER = `(?:(?![${ALONE}${KATAKANA}${PARTED}])[\\p{L}\\p{N}])[\\p{M}\\u200c\\u200d\\u00ad\\u2060]*`;
/** Emoji with their tones, joiners, flags and tags (Unicode Technical Standard 51, ED-16). */
const EMOJI_PART =
  "\\p{Extended_Pictographic}(?:\\ufe0f|\\p{EMod})*[\\u{e0020}-\\u{e007f}]*\\u20e3?";
const ANY = new RegExp(
  [
    `(?:${LETTER})+(?:${JOINED}(?:${LETTER})+)*`,
    `[${ALONE}]\\p{M}*`,
    `[${KATAKANA}][${KATAKANA}\\p{M}]*`,
    `[${PARTED}][${PARTED}\\p{M}\\u200b\\u200c\\u200d]*`,
    `${EMOJI_PART}(?:\\u200d${EMOJI_PART})*`,
    "\\p{RI}\\p{RI}",
    "[^\\s\\u200b\\ufeff\\u2060][\\p{M}\\u200d]*",
  ].join("|"),
  "gu",
);
const IS_PARTED = new RegExp(`^[${PARTED}]{2}`, "u");

/** @example tokens("It's 3.5 mm.") // It's · 3.5 · mm · . */
export function tokens(text: string, from = 0, to = text.length): Token[] {
  const found: Token[] = [];
  const piece = text.slice(from, to);
  const plain = isAscii(piece);
  for (const match of piece.matchAll(plain ? SPACED : ANY)) {
    const start = from + match.index;
    const word = match[0];
    if (!plain && IS_PARTED.test(word)) found.push(...partedWords(word, start));
    else found.push({ start, end: start + word.length, text: word, key: normalForm(word) || word });
  }
  return found;
}

const dictionary = new Intl.Segmenter("th", { granularity: "word" });

function partedWords(run: string, start: number): Token[] {
  return [...segmentsOf(dictionary, run, WINDOW)].map(({ segment, index }) => ({
    start: start + index,
    end: start + index + segment.length,
    text: segment,
    key: normalForm(segment) || segment,
  }));
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
