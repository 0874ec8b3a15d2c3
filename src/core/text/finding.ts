/** Finding by a few letters, whoever types them: without case and accents, by beginnings of words, and with slips forgiven. */

/** Letters that Unicode does not take apart into a plain one and a sign, and that are typed without it all the same. */
const WITH_STROKE: Readonly<Record<string, string>> = { ø: "o", ł: "l", đ: "d", ħ: "h", ı: "i" };

/** ASCII, and the dot that stands between things. */
const PLAIN = /^[ -~·]*$/;

/** Without accents and case, to find by: "sorby" finds Sørby. */
export function fold(text: string): string {
  // Most text has nothing to take apart, and there is much of it.
  if (PLAIN.test(text)) return text.toLowerCase();
  return text
    .normalize("NFD")
    .replace(/\p{M}/gu, "")
    .toLowerCase()
    .replace(/[øłđħı]/g, (letter) => WITH_STROKE[letter]!);
}

/** The words of a folded text. */
export function wordsOf(folded: string): string[] {
  return folded.match(/[\p{L}\p{N}]+/gu) ?? [];
}

/** Ranks up to this one are of what is spelt as it was typed; above it, each slip adds one. */
export const SPELT = 3;

/**
 * How well a folded text answers to a folded query: 2 holds it as it is, 3 holds every typed word at the beginning
 * of one of its own (in any order), 3 + slips where words are misspelt: one slip (a letter wrong, missing, too many,
 * or two exchanged) in words of four to seven letters, two in longer ones. Null: it does not.
 */
export function rankOfWords(
  { text, words }: { text: string; words: readonly string[] },
  query: string,
  asked: readonly string[],
): number | null {
  if (text.includes(query)) return 2;
  if (asked.length === 0) return null;
  let slips = 0;
  for (const word of asked) {
    const least = slipsAmong(word, words);
    if (least === Infinity) return null;
    slips += least;
  }
  return SPELT + slips;
}

/** Slips between a typed word and the nearest of these; Infinity: none is near enough. */
export function slipsAmong(word: string, words: readonly string[]): number {
  if (words.some((own) => own.startsWith(word))) return 0;
  return words.reduce(
    (best, own) => Math.min(best, slipsBetween(word, own, allowed(word))),
    Infinity,
  );
}

/** How many slips a word of this length is forgiven. */
function allowed({ length }: string): number {
  if (length < 4) return 0;
  return length < 8 ? 1 : 2;
}

/**
 * Slips between what was typed and the beginning of a word: letters wrong, missing, too many, or two
 * neighbours exchanged (optimal string alignment distance). Gives up, with Infinity, past `most`.
 *
 * @example slipsBetween("becuase", "because", 1) // 1
 */
export function slipsBetween(typed: string, word: string, most: number): number {
  if (most === 0) return typed === word ? 0 : Infinity;
  // What is typed may be the beginning of a longer word, so the word is cut a little beyond its length.
  const own = word.slice(0, typed.length + most);
  if (typed.length - own.length > most || lettersWanting(typed, own) > most) return Infinity;
  let before: number[] = [];
  let last = Array.from({ length: own.length + 1 }, (_, n) => n);
  for (let i = 1; i <= typed.length; i += 1) {
    const row = slipRow({ typed, own, i, last, before });
    if (Math.min(...row) > most) return Infinity;
    before = last;
    last = row;
  }
  const best = Math.min(...last.slice(Math.max(0, typed.length - most)));
  return best <= most ? best : Infinity;
}

/** How many kinds of letters of a word are not in another, at least: each of them is a slip. Cheap, and rules out most. */
function lettersWanting(word: string, other: string): number {
  let wanting = kindsOf(word) & ~kindsOf(other);
  let count = 0;
  for (; wanting !== 0; wanting &= wanting - 1) count += 1;
  return count;
}

/** The letters of a word as bits, some of them sharing one. */
function kindsOf(word: string): number {
  let kinds = 0;
  for (let n = 0; n < word.length; n += 1) kinds |= 1 << (word.charCodeAt(n) & 31);
  return kinds;
}

type SlipRow = { typed: string; own: string; i: number; last: number[]; before: number[] };

/** One row of the table of distances: the first `i` letters typed against each beginning of the word. */
function slipRow({ typed, own, i, last, before }: SlipRow): number[] {
  const row = [i];
  for (let j = 1; j <= own.length; j += 1) {
    const same = typed[i - 1] === own[j - 1];
    let cost = Math.min(last[j]! + 1, row[j - 1]! + 1, last[j - 1]! + (same ? 0 : 1));
    const exchanged = i > 1 && j > 1 && typed[i - 1] === own[j - 2] && typed[i - 2] === own[j - 1];
    if (exchanged) cost = Math.min(cost, before[j - 2]! + 1);
    row.push(cost);
  }
  return row;
}
