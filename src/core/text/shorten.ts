/**
 * The beginning of a text, so long at most, with a sign where more was; whole characters, as readers see them.
 *
 * @param most in characters (graphemes) of the text, the sign included
 * @example shorten("The tide came in late.", 9) // "The tide…"
 */
export function shorten(text: string, most: number): string {
  // No character has fewer than one code unit.
  if (text.length <= most) return text;
  const characters = Array.from(graphemes.segment(text.slice(0, most * LONGEST)), (s) => s.segment);
  if (characters.length <= most && text.length <= most * LONGEST) return text;
  return `${characters
    .slice(0, most - 1)
    .join("")
    .trimEnd()}…`;
}

const graphemes = new Intl.Segmenter("en", { granularity: "grapheme" });
/** Code units looked at for each character: an emoji of a family has 11. */
const LONGEST = 12;
