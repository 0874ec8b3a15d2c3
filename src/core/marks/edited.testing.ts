import { anyOf, chance, upTo, type Random } from "@demo/random";
import { plainLayout, type Text, type Word } from "./laidOut.testing";

/** One kind of edit on a text whose words have identities; `spare` are sentences that do not stand in it. */
export type Edit = (text: Text, random: Random, spare: readonly string[][]) => Text;

const eachSentence = (text: Text, edit: (sentence: Word[]) => Word[]): Text =>
  text.map((paragraph) => paragraph.map(edit).filter((sentence) => sentence.length > 0));

const stranger = (text: string): Word => ({ id: -1, text });
const strangers = (random: Random, spare: readonly string[][]): Word[] =>
  anyOf(random, spare).map(stranger);
const strangeWord = (random: Random, spare: readonly string[][]): Word =>
  stranger(anyOf(random, anyOf(random, spare)));

/** A letter more, as a finger slips, in words that are long enough to stay themselves. */
const mended = (word: Word): Word =>
  [...word.text].length > 5
    ? { ...word, text: `${word.text.slice(0, 3)}${word.text[2]}${word.text.slice(3)}` }
    : word;

const moved = <T>(list: readonly T[], random: Random): T[] => {
  const from = upTo(random, list.length);
  const rest = list.filter((_, n) => n !== from);
  rest.splice(upTo(random, rest.length + 1), 0, list[from]!);
  return rest;
};

const merged: Edit = (text) =>
  text.reduce<Text>(
    (all, p, n) => (n % 3 === 1 ? [...all.slice(0, -1), [...all.at(-1)!, ...p]] : [...all, p]),
    [],
  );

/** Every kind of edit that the words of a text can meet. */
export const EDITS: Record<string, Edit> = {
  "letters mended": (text, r) =>
    eachSentence(text, (s) => s.map((w) => (chance(r, 0.05) ? mended(w) : w))),
  "words put in": (text, r, spare) =>
    eachSentence(text, (s) =>
      s.flatMap((w) => (chance(r, 0.04) ? [w, strangeWord(r, spare)] : [w])),
    ),
  "words taken out": (text, r) => eachSentence(text, (s) => s.filter(() => chance(r, 0.95))),
  "words replaced": (text, r, spare) =>
    eachSentence(text, (s) => s.map((w) => (chance(r, 0.04) ? strangeWord(r, spare) : w))),
  "sentences put in": (text, r, spare) =>
    text.map((p) => p.flatMap((s) => (chance(r, 0.2) ? [s, strangers(r, spare)] : [s]))),
  "sentences rewritten": (text, r, spare) =>
    eachSentence(text, (s) => (chance(r, 0.1) ? strangers(r, spare) : s)),
  "sentences taken out": (text, r) => eachSentence(text, (s) => (chance(r, 0.1) ? [] : s)),
  "a sentence moved": (text, r) => {
    const from = upTo(r, text.length);
    const at = upTo(r, text[from]!.length);
    const rest = text.map((p, n) => (n === from ? p.filter((_, k) => k !== at) : p));
    const to = upTo(r, text.length);
    return rest.map((p, n) => (n === to ? [...p, text[from]![at]!] : p));
  },
  "sentences swapped": (text) =>
    text.map((p) => (p.length > 1 ? [p[1]!, p[0]!, ...p.slice(2)] : p)),
  "a paragraph moved": (text, r) => moved(text, r),
  "a paragraph taken out": (text, r) => {
    const gone = upTo(r, text.length);
    return text.filter((_, n) => n !== gone);
  },
  "paragraphs merged": merged,
  "paragraphs split": (text) =>
    text.flatMap((p) => (p.length > 1 ? [p.slice(0, 1), p.slice(1)] : [p])),
  "paragraphs sorted": (text) =>
    [...text].sort((a, b) => (plainLayout([a]).text < plainLayout([b]).text ? -1 : 1)),
};
