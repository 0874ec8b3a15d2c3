/** A word as it was heard: seconds from the beginning, and how sure the recogniser is, from 0 to 1. A word that a person wrote is sure. */
export type HeardWord = { word: string; start: number; end: number; sure: number };

/** A pause as long as this ends a sentence: the recogniser hears no punctuation. */
const PAUSE = 0.55;
/** Less sure than this is shown as doubtful. */
export const DOUBTFUL = 0.5;

/**
 * Words as one writes them: names and the class's own words as the class spells them, sentences parted where the
 * voice paused.
 *
 * @param spellings how words are written, by their small letters
 */
export function spell(
  words: readonly HeardWord[],
  spellings: ReadonlyMap<string, string> = new Map(),
): HeardWord[] {
  return words.map((w, n) => {
    const before = words[n - 1];
    const after = words[n + 1];
    const known =
      spellings.get(w.word) ?? (/^i('|$)/.test(w.word) ? w.word.replace(/^i/, "I") : w.word);
    const begins = !before || w.start - before.end >= PAUSE;
    const ends = !after || after.start - w.end >= PAUSE;
    return {
      ...w,
      word:
        (begins ? known.replace(/^\p{L}/u, (letter) => letter.toUpperCase()) : known) +
        (ends ? "." : ""),
    };
  });
}

/** @example sayWords([{ word: "Well", … }, { word: "done.", … }]) // "Well done." */
export const sayWords = (words: readonly HeardWord[]): string => words.map((w) => w.word).join(" ");

/**
 * A corrected text with the times of what was heard: words that stayed keep theirs (longest common subsequence, small
 * letters and punctuation apart), and those between share the time between.
 *
 * @param seconds length of the recording, for words after the last one known
 */
export function correctWords(
  heard: readonly HeardWord[],
  text: string,
  seconds: number,
): HeardWord[] {
  const given = text.trim().split(/\s+/).filter(Boolean);
  const kept = commonWords(
    heard.map((w) => bare(w.word)),
    given.map(bare),
  );
  const out: HeardWord[] = [];
  for (let n = 0; n < given.length;) {
    const known = kept.get(n);
    if (known !== undefined) {
      const { start, end } = heard[known]!;
      out.push({ word: given[n]!, start, end, sure: 1 });
      n += 1;
      continue;
    }
    let last = n;
    while (last < given.length && !kept.has(last)) last += 1;
    const from = out.at(-1)?.end ?? 0;
    const to = last < given.length ? heard[kept.get(last)!]!.start : Math.max(seconds, from);
    const step = Math.max(0, to - from) / (last - n);
    for (let k = n; k < last; k += 1)
      out.push({
        word: given[k]!,
        start: hundredths(from + step * (k - n)),
        end: hundredths(from + step * (k - n + 1)),
        sure: 1,
      });
    n = last;
  }
  return out;
}

/** Which word of `heard` each word of `given` is, by its place in `given`. */
function commonWords(heard: readonly string[], given: readonly string[]): Map<number, number> {
  const best = Array.from({ length: heard.length + 1 }, () => new Uint16Array(given.length + 1));
  for (let i = heard.length - 1; i >= 0; i -= 1)
    for (let j = given.length - 1; j >= 0; j -= 1)
      best[i]![j] =
        heard[i] === given[j]
          ? best[i + 1]![j + 1]! + 1
          : Math.max(best[i + 1]![j]!, best[i]![j + 1]!);
  const kept = new Map<number, number>();
  for (let i = 0, j = 0; i < heard.length && j < given.length;) {
    if (heard[i] === given[j]) kept.set(j++, i++);
    else if (best[i + 1]![j]! >= best[i]![j + 1]!) i += 1;
    else j += 1;
  }
  return kept;
}

/** The word alone, in small letters. */
export const bare = (word: string): string => word.toLowerCase().replace(/[^\p{L}\p{N}']/gu, "");

const hundredths = (n: number) => Math.round(n * 100) / 100;

/** The word that is spoken at a moment; -1: none. */
export function wordAt(words: readonly HeardWord[], seconds: number): number {
  return words.findIndex(
    (w, n) => seconds >= w.start && seconds < Math.max(w.end, words[n + 1]?.start ?? w.end),
  );
}

/** Words as lines to read along: a line ends with its sentence, or after so many words. */
const LINE = 10;
export function linesOf(words: readonly HeardWord[]): { from: number; to: number; text: string }[] {
  const lines: HeardWord[][] = [];
  for (const word of words) {
    const line = lines.at(-1);
    if (!line || line.length >= LINE || /[.!?]$/.test(line.at(-1)!.word)) lines.push([word]);
    else line.push(word);
  }
  return lines.map((line) => ({
    from: line[0]!.start,
    to: line.at(-1)!.end,
    text: sayWords(line),
  }));
}

/** The other way: words of timed lines share the time of their line by their length. */
export function wordsOf(lines: readonly { from: number; to: number; text: string }[]): HeardWord[] {
  return lines.flatMap(({ from, to, text }) => {
    const words = text.split(/\s+/).filter(Boolean);
    const letters = words.reduce((sum, w) => sum + w.length, 0);
    let at = from;
    return words.map((word) => {
      const start = at;
      at += ((to - from) * word.length) / letters;
      return { word, start: hundredths(start), end: hundredths(at), sure: 1 };
    });
  });
}
