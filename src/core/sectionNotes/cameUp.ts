import { sayCount } from "../text/sayCount";

/** The same comment on several pieces of one hand-out, and some of the words it stood on. */
export type CameUp = {
  /** The comment's words. */ text: string;
  /** Pieces it stands on, and pieces that were read for it: those with something handed in. */
  pieces: number;
  of: number;
  examples: string[];
};

const LEAST_PIECES = 3;
const LEAST_SHARE = 0.2;
const MOST_EXAMPLES = 3;
const LONGEST_EXAMPLE = 120;

/** Often enough to say it to all at once: on three pieces, and on every fifth (our own judgement). */
export const isOften = ({ pieces, of }: Pick<CameUp, "pieces" | "of">): boolean =>
  pieces >= LEAST_PIECES && pieces >= of * LEAST_SHARE;

/** @example sayCameUp({ pieces: 11, of: 26 }) // "in 11 of 26 pieces" */
export const sayCameUp = ({ pieces, of }: Pick<CameUp, "pieces" | "of">): string =>
  `in ${pieces} of ${sayCount(of, "piece")}`;

/**
 * Words that can be shown to a class: short, each once, and none that says a student's name.
 *
 * @param names what the students of the class are called, whole names and first ones
 */
export function examplesFrom(quotes: readonly string[], names: readonly string[]): string[] {
  const told = names.filter((name) => name.length > 1).map((name) => name.toLowerCase());
  const clean = quotes
    .map((quote) => quote.replace(/\s+/g, " ").trim())
    .filter((quote) => quote !== "" && quote.length <= LONGEST_EXAMPLE)
    .filter((quote) => !told.some((name) => quote.toLowerCase().includes(name)));
  return [...new Map(clean.map((quote) => [quote.toLowerCase(), quote])).values()].slice(
    0,
    MOST_EXAMPLES,
  );
}

/** A word to the class made of it, to be sent as it is or changed before. */
export function proposeNote(cameUp: CameUp): string {
  const { text, examples } = cameUp;
  const such = examples.map((quote) => `“${quote}”`).join("; ");
  return [
    text,
    `This came up ${sayCameUp(cameUp)}${such ? `, for example: ${such}` : ""}. Look whether yours is one of them.`,
  ].join("\n\n");
}

/** Whether the class was told already: a note holds the comment's words. */
export const wasSaid = (text: string, notes: readonly string[]): boolean =>
  notes.some((note) => note.includes(text));
