import { existsSync } from "node:fs";
import { languageModel, sentencesOf } from "@/core/speech/languageModel";
import type { HeardWord } from "@/core/speech/heard";
import { hearSound, knownWords, pronounce, SPHINX } from "../programs/sound";

/**
 * Something that hears words in a recording. The one that ships works offline, with pocketsphinx and its English model
 * from Debian; another (a newer engine with a model of the school's) takes its place by being returned from `recogniser`.
 */
export type Recogniser = {
  name: string;
  /** Why it cannot hear on this server, for people; null: it can. */
  missing(): string | null;
  /**
   * @param file a recording in `folder`
   * @param texts what this class writes and is called: its words are heard more readily
   * @param onPart told how much has been heard, from 0 to 1
   */
  hear(
    folder: string,
    file: string,
    texts: readonly string[],
    onPart: (part: number) => void,
  ): Promise<HeardWord[]>;
};

/** How much the class's own words count beside the general language. */
const SHARE = 0.4;
/** More sentences tell a model of this size nothing new. */
const MOST_SENTENCES = 1500;
const MOST_NEW_WORDS = 150;

const sphinx: Recogniser = {
  name: "pocketsphinx",
  missing: () =>
    ["/usr/bin/bwrap", SPHINX.python, SPHINX.dictionary, SPHINX.voice].every((file) =>
      existsSync(file),
    )
      ? null
      : "No recogniser is installed on this server, so what is said is not written down by itself. You can write it yourself.",
  async hear(folder, file, texts, onPart) {
    const sentences = texts.flatMap(sentencesOf).slice(0, MOST_SENTENCES);
    const known = await knownWords();
    const fresh = [...new Set(sentences.flat())]
      .filter((word) => !known.has(word))
      .slice(0, MOST_NEW_WORDS);
    const dictionary = await pronounce(folder, fresh);
    // A word without a pronunciation cannot be heard, and parts its sentence.
    const can = (word: string) => known.has(word) || dictionary.includes(`${word} `);
    const heardable = sentences.flatMap((sentence) => partsOf(sentence, can));
    return hearSound(
      folder,
      file,
      heardable.length > 0
        ? { model: languageModel(heardable, known), dictionary, share: SHARE }
        : null,
      onPart,
    );
  },
};

function partsOf(sentence: readonly string[], can: (word: string) => boolean): string[][] {
  const parts: string[][] = [[]];
  for (const word of sentence) {
    if (can(word)) parts.at(-1)!.push(word);
    else parts.push([]);
  }
  return parts.filter((part) => part.length > 0);
}

export function recogniser(): Recogniser {
  return process.env.ALMANAC_RECOGNISER === "none"
    ? {
        ...sphinx,
        name: "none",
        missing: () =>
          "The recogniser is switched off on this server, so what is said is not written down by itself. You can write it yourself.",
      }
    : sphinx;
}
